import { responseLibrary } from '@fulgor/core/cabinet'
import type { BuildContext } from '@fulgor/core/catalogue'
import type { Wav } from '@fulgor/core/formats'
import { resample, type Quality } from '@fulgor/core/signal'
import { InputError } from './input'

/** The shipped impulse responses at a sample rate, and how finely clipping is oversampled. */
export function buildContext(sampleRate: number, quality: Quality = 'high'): BuildContext {
  return { quality, responses: responseLibrary(sampleRate, notHere) }
}

/** A blend with a file is not rendered without it: the command line has no store of responses. */
function notHere(file: string): never {
  throw new InputError(`the preset plays the impulse response ${file}, which the command line does not have; render it in the page`)
}

/** Reads `--quality`. */
export function qualityOption(text: string): Quality {
  if (text === 'live' || text === 'high' || text === 'highest') return text
  throw new InputError(`--quality: “${text}” is none of live, high, highest`)
}

/** A dry signal for the engine: mono, at a rate that the engine runs at (48 kHz when the file's own lies outside 44.1–96 kHz). */
export function drySignal(path: string, wav: Wav): { dry: Float32Array; sampleRate: number } {
  const [left, right] = wav.channels
  const mono = wav.channels.length === 1 ? left : left.map((x, n) => 0.5 * (x + right[n]))
  const sampleRate = wav.sampleRate >= 44_100 && wav.sampleRate <= 96_000 ? wav.sampleRate : 48_000
  if (mono.length / wav.sampleRate > 600) throw new InputError(`${path}: longer than 10 minutes`)
  return { dry: resample(mono, wav.sampleRate, sampleRate), sampleRate }
}
