import { describe, expect, it } from 'vitest'
import { averageSpectrum, centroid, thirdOctaves, THIRD_OCTAVES } from '@fulgor/core/measure'
import { playRiff } from '@fulgor/core/riffs'
import { asIfOn, GUITARS, playOn, startPosition, strokesOn, voiceOf, type PickupPosition } from '.'

const RATE = 48_000
const voice = (position: PickupPosition) => voiceOf(GUITARS[0], position)
const peakDb = (x: Float32Array) => 20 * Math.log10(x.reduce((m, v) => Math.max(m, Math.abs(v)), 0))
const brightness = (x: Float32Array) => centroid(averageSpectrum([Float32Array.from(x)], RATE)) ?? 0
/** Mean square of a tone at a frequency. */
function toneDb(x: Float32Array, hz: number): number {
  let re = 0
  let im = 0
  x.forEach((v, n) => {
    re += v * Math.cos((2 * Math.PI * hz * n) / RATE)
    im += v * Math.sin((2 * Math.PI * hz * n) / RATE)
  })
  return 10 * Math.log10((2 * (re * re + im * im)) / x.length ** 2)
}

describe('a riff on a guitar', () => {
  it('of the string model’s own bridge humbucker is the riff as it always was, but for the noise', () => {
    const on = playOn('funk', voice(GUITARS[0].positions[0]), { strength: 'hard', bpm: 120 }, RATE)
    const was = playRiff('funk', RATE, { strength: 'hard', bpm: 120, noise: null })
    const difference = on.map((x, n) => x - was[n])
    expect(10 * Math.log10(difference.reduce((s, v) => s + v * v, 0) / difference.length)).toBeLessThan(-85)
  })

  const measured: PickupPosition = {
    ...startPosition('Middle', 'single', 'middle', -13),
    soft: { peakDbfs: -25, rmsDbfs: -41 },
    normal: { peakDbfs: -17.5, rmsDbfs: -33 },
    centroidHz: 1_500,
    humDbfs: -68.4,
    hissDbfs: -90,
    mains: 60,
    from: 'typed',
  }

  it('peaks where its strums were measured, soft, normal and hard, and is as bright', () => {
    for (const strength of ['soft', 'normal', 'hard'] as const)
      expect(peakDb(strokesOn(voice(measured), strength, RATE))).toBeCloseTo(measured[strength].peakDbfs, 1)
    expect(brightness(strokesOn(voice(measured), 'normal', RATE))).toBeGreaterThan(1_500 * 0.97)
    expect(brightness(strokesOn(voice(measured), 'normal', RATE))).toBeLessThan(1_500 * 1.03)
  })

  it('hums with its own mains, as loud as measured', () => {
    const quiet = playOn('stabs', voice({ ...measured, hard: { peakDbfs: -120, rmsDbfs: -130 } }), { strength: 'hard', bpm: 120 }, RATE)
    const lines = [60, 120, 240].map((hz) => Math.pow(10, toneDb(quiet, hz) / 10))
    expect(10 * Math.log10(lines[0] + lines[1] + lines[2])).toBeCloseTo(-68.4, 0)
    expect(toneDb(quiet, 50)).toBeLessThan(-95)
  })

  it('has the third octaves that were measured', () => {
    const plain = voice({ ...measured, centroidHz: null })
    const has = thirdOctaves(averageSpectrum([Float32Array.from(strokesOn(plain, 'normal', RATE))], RATE)).map((b) => b.db)
    // as if it had been measured 5 dB darker an octave around 2 kHz
    const wanted = has.map((db, k) => (db === null ? null : db - 6 * Math.min(1, Math.max(0, Math.log2(THIRD_OCTAVES[k] / 1_000)))))
    const darker = voice({ ...measured, centroidHz: null, bands: wanted })
    const got = thirdOctaves(averageSpectrum([Float32Array.from(strokesOn(darker, 'normal', RATE))], RATE)).map((b) => b.db)
    const step = (bands: readonly (number | null)[], low: number, high: number) =>
      Number(bands[THIRD_OCTAVES.indexOf(high)]) - Number(bands[THIRD_OCTAVES.indexOf(low)])
    expect(step(got, 500, 3_150) - step(has, 500, 3_150)).toBeCloseTo(-6, 0)
    expect(step(got, 200, 800) - step(has, 200, 800)).toBeCloseTo(0, 0)
  })

  it('sounds at the guitar’s own pitch', () => {
    const up = playOn('long-note', voice(GUITARS[0].positions[0]), { strength: 'hard', bpm: 120, tuning: [0, 0, 0, 2, 0, 0] }, RATE)
    // the riff's note is G4 on the fourth string from below
    const start = up.slice(RATE / 4, RATE)
    expect(toneDb(start, 440)).toBeGreaterThan(toneDb(start, 391.995) + 12)
  })

  it('recorded on one position is as loud and as bright as it would have been on another', () => {
    const bridge = voice(GUITARS[0].positions[0])
    const middle = voice(measured)
    const carried = asIfOn(strokesOn(bridge, 'hard', RATE), bridge, middle, RATE)
    expect(peakDb(carried)).toBeCloseTo(measured.hard.peakDbfs, 1)
    const normal = strokesOn(bridge, 'normal', RATE)
    const [had, got, wanted] = [normal, asIfOn(normal, bridge, middle, RATE), strokesOn(middle, 'normal', RATE)].map(brightness)
    expect(Math.abs(got / wanted - 1)).toBeLessThan(0.08)
    expect(Math.abs(had / wanted - 1)).toBeGreaterThan(0.15)
    // on what it was recorded on it stays as it is
    const same = strokesOn(bridge, 'normal', RATE)
    const again = asIfOn(same, bridge, bridge, RATE)
    const power = (x: Float32Array) => x.reduce((sum, v) => sum + v * v, 0)
    expect(power(again.map((x, n) => x - same[n])) / power(same)).toBeLessThan(1e-4)
  })
})
