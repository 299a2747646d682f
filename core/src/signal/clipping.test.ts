import { describe, expect, it } from 'vitest'
import { modelOf } from '@fulgor/core/catalogue'
import { Clipping, Fft } from '.'
import { createBlock } from './block'
import { Oversampler4, SoftClip } from './plainClipping'

describe('clipping kernel', () => {
  it('agrees with its plain TypeScript form within −110 dB', () => {
    const kernel = new Clipping()
    const plain = new Oversampler4(32)
    const clip = new SoftClip()
    let worst = 0
    let peak = 0
    for (let chunk = 0; chunk < 200; chunk++) {
      const a = Float64Array.from({ length: 32 }, (_, i) => Math.sin((chunk * 32 + i) * 0.13) * 2)
      const b = a.slice()
      kernel.raise(a, 32)
      kernel.clip(1, 128, 3, 0.01, 0, 0.2)
      kernel.lower(a, 32)
      plain.raise(b, 32)
      clip.process(plain.data, 128, 3, 0.01, 0, 0.2)
      plain.lower(b, 32)
      for (let i = 0; i < 32; i++) {
        worst = Math.max(worst, Math.abs(a[i] - b[i]))
        peak = Math.max(peak, Math.abs(b[i]))
      }
    }
    expect(20 * Math.log10(worst / peak)).toBeLessThan(-110)
  })

  // Parker, Zavalishin, Le Bivic, DAFx-16: the antiderivative form of a clip whose antiderivative is F(x) = √(1+x²)
  it('is the difference quotient of the antiderivative', () => {
    const clip = new SoftClip()
    const x = [0.3, -1.2, 4]
    const data = Float64Array.from(x)
    clip.process(data, 3, 1, 0, 0, 0)
    const F = (v: number) => Math.sqrt(1 + v * v)
    let lifted = 0
    x.forEach((now, n) => {
      const before = n === 0 ? 0 : x[n - 1]
      lifted = 1.45 * ((F(now) - F(before)) / (now - before)) - 0.45 * lifted
      expect(data[n]).toBeCloseTo(lifted, 12)
    })
  })

  it('passes the audio band through a trip up and down', () => {
    const kernel = new Clipping()
    for (const hz of [100, 5_000, 18_000]) {
      let power = 0
      for (let chunk = 0; chunk < 300; chunk++) {
        const a = Float64Array.from({ length: 32 }, (_, i) => Math.sin((2 * Math.PI * hz * (chunk * 32 + i)) / 48_000))
        kernel.raise(a, 32)
        kernel.lower(a, 32)
        if (chunk >= 100) for (const y of a) power += y * y
      }
      expect(10 * Math.log10((2 * power) / 6400)).toBeCloseTo(0, 1)
    }
  })

  it('keeps the amp’s aliases below 16 kHz 60 dB under a 1,245 Hz fundamental at full drive', () => {
    expect(worstAliasDb()).toBeLessThan(-60)
  })
})

function worstAliasDb(): number {
  const size = 16_384
  const bin = 425 // 1,245.1 Hz: harmonics fall on multiples of this bin, everything else is alias
  const amp = modelOf('amp.lantern').build({ responses: () => [1] })
  amp.prepare(48_000)
  amp.set({ gain: 10, bass: 5, mid: 5, treble: 5, presence: 5, master: 10, sag: 0, level: 0 }, true)
  const block = createBlock()
  const out = new Float64Array(size)
  for (let start = -32_768; start < size; start += 32) {
    for (let i = 0; i < 32; i++) block.left[i] = 0.2 * Math.sin((2 * Math.PI * bin * (start + i)) / size)
    amp.tick()
    amp.process(block, 32)
    if (start >= 0) out.set(block.left, start)
  }
  const re = out.map((x, n) => x * blackmanHarris(n / size))
  const im = new Float64Array(size)
  new Fft(size).forward(re, im)
  const level = (k: number) => Math.hypot(re[k], im[k])
  let worst = 0
  for (let k = 20; k < (16_000 / 48_000) * size; k++) {
    const distance = Math.abs(k - Math.round(k / bin) * bin)
    if (distance > 8) worst = Math.max(worst, level(k))
  }
  return 20 * Math.log10(worst / level(bin))
}

const blackmanHarris = (t: number) =>
  0.35875 - 0.48829 * Math.cos(2 * Math.PI * t) + 0.14128 * Math.cos(4 * Math.PI * t) - 0.01168 * Math.cos(6 * Math.PI * t)
