import 'reflect-metadata'
import { IsString, Matches, MaxLength, MinLength } from 'class-validator'

export class AssetHashDto {
  @Matches(/^[0-9a-f]{64}$/, { message: 'hash must be a SHA-256 in hexadecimal' })
  hash: string
}

export class UploadDto {
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  name: string
}
