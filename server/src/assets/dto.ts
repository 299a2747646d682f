import 'reflect-metadata'
import { IsIn, IsOptional, IsString, Matches, MaxLength, MinLength } from 'class-validator'

export class AssetHashDto {
  @Matches(/^[0-9a-f]{64}$/, { message: 'hash must be a SHA-256 in hexadecimal' })
  hash: string
}

export const KINDS = ['riff', 'take', 'backing', 'reference'] as const

export class AssetKindDto {
  @IsOptional()
  @IsIn(KINDS)
  kind?: (typeof KINDS)[number]
}

export class UploadDto extends AssetKindDto {
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  name: string
}
