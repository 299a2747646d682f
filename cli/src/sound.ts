import { responseLibrary } from '@fulgor/core/cabinet'
import type { BuildContext } from '@fulgor/core/catalogue'
import type { Wav } from '@fulgor/core/formats'
import type { Sound } from '@fulgor/core/render'
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

/** s that a tail may last behind the dry signal, and dBFS under which it has ended. */
const TAIL_S = 20
const TAIL_ENDS_DBFS = -90

/** A dry signal with room for what rings on behind it. */
export function withRoom(dry: Float32Array, sampleRate: number): Float32Array {
  const longer = new Float32Array(dry.length + TAIL_S * sampleRate)
  longer.set(dry)
  return longer
}

/** A sound up to where it is heard, at least as long as what was played. */
export function withoutSilence({ left, right, stereo }: Sound, least: number): Sound {
  const floor = Math.pow(10, TAIL_ENDS_DBFS / 20)
  let end = left.length
  while (end > least && Math.abs(left[end - 1]) < floor && Math.abs(right[end - 1]) < floor) end--
  return { left: left.subarray(0, end), right: right.subarray(0, end), stereo }
}
