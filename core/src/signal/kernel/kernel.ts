import { engineBase64, matchingBase64, measuringBase64, playingBase64 } from './bytes.generated'

const sources = {
  engine: engineBase64,
  matching: matchingBase64,
  measuring: measuringBase64,
  playing: playingBase64,
}
const compiled = new Map<string, WebAssembly.Module>()

/** A fresh instance of a kernel with its own memory; synchronous, for every kind of thread. */
export function instantiate(name: keyof typeof sources): { memory: WebAssembly.Memory } {
  let module = compiled.get(name)
  if (!module) {
    module = new WebAssembly.Module(decodeBase64(sources[name]))
    compiled.set(name, module)
  }
  return new WebAssembly.Instance(module, {}).exports as { memory: WebAssembly.Memory }
}

/** Value of each character of base64 by its code. */
const SIXES = Uint8Array.from({ length: 128 }, (_, code) =>
  Math.max(0, 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'.indexOf(String.fromCharCode(code))),
)

/** An audio worklet has no atob. Every thread does this before its first sound, so it does not look a character up in a text. */
function decodeBase64(text: string): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array((text.length * 3) / 4)
  let at = 0
  for (let k = 0; k < text.length; k += 4) {
    const four =
      (SIXES[text.charCodeAt(k)] << 18) |
      (SIXES[text.charCodeAt(k + 1)] << 12) |
      (SIXES[text.charCodeAt(k + 2)] << 6) |
      SIXES[text.charCodeAt(k + 3)]
    bytes[at++] = four >> 16
    bytes[at++] = four >> 8
    bytes[at++] = four
  }
  return bytes.subarray(0, at - (text.endsWith('==') ? 2 : text.endsWith('=') ? 1 : 0))
}

/**
 * Factors of the ring splitting in core/kernel/splitting.ts for `size` complex points, real parts then imaginary parts: level by
 * level, half the angle of each block's modulus.
 */
export function splittingFactors(size: number): Float32Array {
  const table = new Float32Array(size * 2)
  let at = 0
  for (let angles = [Math.PI / 2]; angles.length < size; angles = halved(angles)) {
    for (const angle of angles) {
      table[at] = Math.cos(angle / 2)
      table[size + at++] = Math.sin(angle / 2)
    }
  }
  return table
}

/** Frequency index k of each slot after the splitting, so that its frequency is (k + ½) · rate / (2 · size). */
export function splittingOrder(size: number): Uint32Array {
  let angles = [Math.PI / 2]
  while (angles.length < size) angles = halved(angles)
  // slot holds the value at z = e^jθ; of a real frame θ and −θ are alike, so every angle folds to an odd multiple of π / (2 · size)
  const order = new Uint32Array(size)
  for (let first = 0; first < size; first += 16)
    for (let lane = 0; lane < 4; lane++)
      for (let element = 0; element < 4; element++) {
        const turn = angles[first + lane * 4 + element] % (2 * Math.PI)
        const folded = turn > Math.PI ? 2 * Math.PI - turn : turn
        order[first + element * 4 + lane] = Math.round((folded * 2 * size) / Math.PI / 2 - 0.5)
      }
  return order
}

const halved = (angles: readonly number[]): number[] => angles.flatMap((angle) => [angle / 2, angle / 2 + Math.PI])
