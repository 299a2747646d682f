import 'reflect-metadata'
import { Type, type ClassConstructor } from 'class-transformer'
import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Matches, Max, MaxLength, Min } from 'class-validator'
import { IsDocument } from '../http/validate'
import type { DocumentKind } from '@fulgor/core/api'

const MOST = Number.MAX_SAFE_INTEGER

export class DocumentIdDto {
  @Matches(/^[A-Za-z0-9_-]{1,40}$/, { message: 'id must be 1 to 40 letters, digits, “-” or “_”' })
  id: string
}

export class VersionDto extends DocumentIdDto {
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(MOST)
  number: number
}

export class BesideDto {
  /** How many places further in the order of names; negative ones go back. */
  @Type(() => Number)
  @IsInt()
  @Min(-100)
  @Max(100)
  step: number
}

export class ListDto {
  @IsOptional()
  @IsString()
  @MaxLength(100)
  search?: string

  @IsOptional()
  @IsString()
  @MaxLength(30)
  tag?: string

  @IsOptional()
  @IsIn(['name', 'updated'])
  sort?: 'name' | 'updated'

  /** Only what uses this of the Kit, by its id. */
  @IsOptional()
  @Matches(/^[A-Za-z0-9_-]{1,40}$/, { message: 'uses must be the id of something in the Kit' })
  uses?: string

  /** What lies in the bin instead of what is on the shelf. */
  @IsOptional()
  @IsIn(['true', 'false'])
  deleted?: 'true' | 'false'

  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(500)
  limit?: number

  /** What the page before gave as `next`. */
  @IsOptional()
  @IsString()
  @MaxLength(400)
  after?: string
}

/** What is written of one kind of document. */
export interface CreateDto {
  document: unknown
}

export interface UpdateDto extends CreateDto {
  /** The revision that this edit builds on. */
  baseRevision: number
  /** True: the player saves; false: the autosave does. */
  save: boolean
  note?: string
  /** Names the tab that writes. */
  writer?: string
}

/** The inputs of one kind, named after it. */
export function documentDtos(kind: DocumentKind): { Create: ClassConstructor<CreateDto>; Update: ClassConstructor<UpdateDto> } {
  class Create implements CreateDto {
    @IsDocument(kind)
    document: unknown
  }
  class Update extends Create implements UpdateDto {
    @IsInt()
    @Min(1)
    @Max(MOST)
    baseRevision: number

    @IsBoolean()
    save: boolean

    @IsOptional()
    @IsString()
    @MaxLength(200)
    note?: string

    @IsOptional()
    @IsString()
    @MaxLength(40)
    writer?: string
  }
  Object.defineProperty(Create, 'name', { value: `Create${kind.title}Dto` })
  Object.defineProperty(Update, 'name', { value: `Update${kind.title}Dto` })
  return { Create, Update }
}
