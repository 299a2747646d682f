import 'reflect-metadata'
import { Type } from 'class-transformer'
import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Matches, Max, MaxLength, Min } from 'class-validator'
import { IsPresetDocument } from '../http/validate'

export class PresetIdDto {
  @Matches(/^[A-Za-z0-9_-]{1,40}$/, { message: 'id must be 1 to 40 letters, digits, “-” or “_”' })
  id: string
}

export class VersionDto extends PresetIdDto {
  @Type(() => Number)
  @IsInt()
  @Min(1)
  number: number
}

export class BesideDto extends PresetIdDto {
  /** How many places further in the order of names; negative ones go back. */
  @Type(() => Number)
  @IsInt()
  @Min(-100)
  @Max(100)
  step: number
}

export class ListPresetsDto {
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

  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(0)
  offset?: number
}

export class CreatePresetDto {
  @IsPresetDocument()
  document: unknown
}

export class UpdatePresetDto {
  @IsPresetDocument()
  document: unknown

  /** The revision that this edit builds on. */
  @IsInt()
  @Min(1)
  baseRevision: number

  /** True: the player saves; false: the autosave does. */
  @IsBoolean()
  save: boolean

  @IsOptional()
  @IsString()
  @MaxLength(200)
  note?: string

  /** Names the tab that writes. */
  @IsOptional()
  @IsString()
  @MaxLength(40)
  writer?: string
}
