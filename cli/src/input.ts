import { DocumentError } from '@fulgor/core/document'
import { readFileSync, writeFileSync } from 'node:fs'
import { readWav, WavError, type Wav } from '@fulgor/core/formats'
import { readPreset, type Preset } from '@fulgor/core/preset'

/** Bad input: one line on standard error naming the file or value and the reason, exit status 2. */
export class InputError extends Error {}

export function readBytes(path: string): Buffer {
  try {
    return readFileSync(path)
  } catch (error) {
    const reason = (error as NodeJS.ErrnoException).code === 'ENOENT' ? 'there is no such file' : (error as Error).message
    throw new InputError(`${path}: ${reason}`)
  }
}

export function readWavFile(path: string): Wav {
  try {
    return readWav(readBytes(path))
  } catch (error) {
    if (error instanceof WavError) throw new InputError(`${path}: ${error.message}`)
    throw error
  }
}

export function readJsonFile(path: string): unknown {
  try {
    return JSON.parse(readBytes(path).toString('utf8'))
  } catch (error) {
    if (error instanceof SyntaxError) throw new InputError(`${path}: not JSON (${error.message})`)
    throw error
  }
}

export function readPresetFile(path: string): Preset {
  try {
    return readPreset(readJsonFile(path))
  } catch (error) {
    if (error instanceof DocumentError) throw new InputError(`${path}: ${error.message}`)
    throw error
  }
}

export function writeFile(path: string, bytes: Uint8Array): void {
  try {
    writeFileSync(path, bytes)
  } catch (error) {
    throw new InputError(`${path}: cannot be written (${(error as Error).message})`)
  }
}

/** A number in a range from an option's text. */
export function numberOption(name: string, text: string, min: number, max: number): number {
  const value = Number(text)
  if (text.trim() === '' || !(value >= min && value <= max))
    throw new InputError(`--${name}: must be a number from ${min} to ${max}, not “${text}”`)
  return value
}

const PREFIXES: Record<string, number> = { p: 1e-12, n: 1e-9, u: 1e-6, m: 1e-3, k: 1e3, K: 1e3, M: 1e6, '': 1 }

/** A component value: 2.5e-10, 250p, 20n, 56k, 1M. */
export function componentOption(name: string, text: string): number {
  const match = /^(\d*\.?\d+(?:[eE][-+]?\d+)?)([pnumkKM]?)$/.exec(text.trim())
  const value = match ? Number(match[1]) * PREFIXES[match[2]] : NaN
  if (!(value > 0 && value < 1e12))
    throw new InputError(`--${name}: must be a value above zero such as 56k, 1M, 250p or 2.5e-10, not “${text}”`)
  return value
}
