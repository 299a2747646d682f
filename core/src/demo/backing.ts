import { writeWav } from '@fulgor/core/formats'

const RATE = 48_000
/** Tempo of the show's main preset, bars and beats of a bar. */
const [BPM, BARS, BEATS] = [96, 4, 4]
/** Roots of the bass, bar by bar, Hz: E1, G1, A1, B1 in equal temperament at A 440. */
const ROOTS = [41.2, 49, 55, 61.74]

/** A hit that dies away. @param hz of its tone, swept down by `sweep` octaves; 0: noise alone */
function hit(out: Float32Array, at: number, gain: number, decayS: number, hz: number, sweep: number, noise: number): void {
  let phase = 0
  let seed = 1 + Math.floor(at * 1e4)
  let last = 0
  const length = Math.min(out.length - Math.round(at * RATE), Math.round(6 * decayS * RATE))
  for (let n = 0; n < length; n++) {
    const t = n / RATE
    phase += (2 * Math.PI * hz * Math.pow(2, sweep * Math.exp(-t / 0.02))) / RATE
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
    const white = seed / 1_073_741_824 - 1
    const bright = white - last
    last = white
    out[Math.round(at * RATE) + n] += gain * Math.exp(-t / decayS) * ((1 - noise) * Math.sin(phase) + noise * bright)
  }
}

/** Four bars of bass drum, side drum, cymbal and bass, made by rule. */
export function bandOf(): Float32Array {
  const beat = 60 / BPM
  const seconds = BARS * BEATS * beat
  const out = new Float32Array(Math.round(seconds * RATE))
  for (let bar = 0; bar < BARS; bar++)
    for (let step = 0; step < 2 * BEATS; step++) {
      const at = (bar * BEATS + step / 2) * beat
      if (step === 0 || step === 4 || step === 5) hit(out, at, 0.5, 0.09, 52, 1.6, 0.02)
      if (step === 2 || step === 6) hit(out, at, 0.28, 0.07, 190, 0.4, 0.75)
      hit(out, at, step % 2 === 0 ? 0.07 : 0.045, 0.025, 0, 0, 1)
      hit(out, at, 0.26, 0.16, ROOTS[bar] * (step === 7 ? 1.5 : 1), 0, 0)
      hit(out, at, 0.1, 0.12, 2 * ROOTS[bar] * (step === 7 ? 1.5 : 1), 0, 0)
    }
  return out
}

/** The pit band without its guitar. */
export function demoBacking(): { name: string; bpm: number; bars: number; seconds: number; sampleRate: number; bytes: Uint8Array } {
  const out = bandOf()
  const seconds = out.length / RATE
  return { name: 'Overture, the band without guitar', bpm: BPM, bars: BARS, seconds, sampleRate: RATE, bytes: writeWav([out], RATE, 16) }
}
