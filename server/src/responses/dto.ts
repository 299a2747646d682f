import 'reflect-metadata'
import { Transform } from 'class-transformer'
import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsOptional, IsString, Matches, MaxLength, MinLength } from 'class-validator'

export const MOST_FILES = 200
export const MOST_CHANGED = 10_000

const fromJson = ({ value }: { value: unknown }): unknown => {
  try {
    return typeof value === 'string' ? JSON.parse(value) : value
  } catch {
    return value
  }
}

export class ResponseHashDto {
  @Matches(/^[0-9a-f]{64}$/, { message: 'hash must be a SHA-256 in hexadecimal' })
  hash: string
}

/** Goes with the files of an upload: the path of each as it was dropped, in their order. */
export class UploadResponsesDto {
  @Transform(fromJson)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_FILES)
  @IsString({ each: true })
  @MinLength(1, { each: true })
  @MaxLength(400, { each: true })
  paths: string[]
}

/** Which responses; the rest of what is changed goes with it. */
export class ChooseResponsesDto {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_CHANGED)
  @Matches(/^[0-9a-f]{64}$/, { each: true, message: 'hashes must each be a SHA-256 in hexadecimal' })
  hashes: string[]
}

export class ChangeResponsesDto extends ChooseResponsesDto {
  @IsOptional()
  @IsBoolean()
  favourite?: boolean

  @IsOptional()
  @IsString()
  @MinLength(1)
  @MaxLength(40)
  addTag?: string

  @IsOptional()
  @IsString()
  @MaxLength(40)
  removeTag?: string
}
