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

/** An audio worklet has no atob. */
function decodeBase64(text: string): Uint8Array<ArrayBuffer> {
  const alphabet = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'
  const clean = text.replace(/=+$/, '')
  const bytes = new Uint8Array(Math.floor((clean.length * 3) / 4))
  let bits = 0
  let held = 0
  let at = 0
  for (const character of clean) {
    held = ((held << 6) | alphabet.indexOf(character)) & 0xffffff
    bits += 6
    if (bits >= 8) {
      bits -= 8
      bytes[at++] = (held >> bits) & 255
    }
  }
  return bytes
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
