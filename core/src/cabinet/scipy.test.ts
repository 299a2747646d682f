import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { Convolver, resample } from '@fulgor/core/signal'
import { besselJ1, cepstralMinimumPhase, cutLossDb } from '.'

// Expected values: SciPy (Virtanen et al., Nature Methods 2020), made by scripts/reference/scipy_reference.py
const reference = JSON.parse(readFileSync(new URL('./scipy.reference.json', import.meta.url), 'utf8')) as {
  taps: number[]
  minimumPhase: number[]
  signal: number[]
  convolved: number[]
  resampled: number[]
  pad: number
  j1: [number, number][]
  butterworth: Record<'6' | '12' | '24', [number, number][]>
}

const peak = (x: readonly number[]) => Math.max(...x.map(Math.abs))
const errorDb = (found: ArrayLike<number>, wanted: readonly number[]) =>
  20 * Math.log10(Math.max(...wanted.map((w, i) => Math.abs(w - found[i]))) / peak(wanted) + 1e-12)

describe('against SciPy', () => {
  it('minimum phase is that of its homomorphic method within −80 dB', () => {
    expect(errorDb(cepstralMinimumPhase(Float64Array.from(reference.taps)), reference.minimumPhase)).toBeLessThan(-80)
  })

  it('convolution is fftconvolve within −110 dB', () => {
    const out = Float32Array.from({ length: reference.convolved.length }, (_, n) => reference.signal[n] ?? 0)
    new Convolver(reference.taps).process(out, out.length)
    expect(errorDb(out, reference.convolved)).toBeLessThan(-110)
  })

  it('resampling to 44.1 kHz is resample_poly with a long Kaiser filter within −75 dB', () => {
    const padded = new Float32Array(reference.signal.length + 2 * reference.pad)
    padded.set(reference.signal, reference.pad)
    const found = resample(padded, 48_000, 44_100)
    expect(Math.abs(found.length - reference.resampled.length)).toBeLessThanOrEqual(1)
    expect(errorDb(found, reference.resampled.slice(0, found.length))).toBeLessThan(-75)
  })

  it.each(reference.j1)('J1(%s) is %s', (x, y) => {
    expect(Math.abs(besselJ1(x) - y)).toBeLessThan(1e-7)
  })

  it.each(['6', '12', '24'] as const)('a high cut of %s dB per octave is the analog Butterworth filter', (slope) => {
    for (const [hz, db] of reference.butterworth[slope]) expect(cutLossDb('high', 4_000, slope, hz)).toBeCloseTo(db, 6)
  })
})
