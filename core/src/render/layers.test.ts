import { describe, expect, it } from 'vitest'
import { buildUp, stereoFigures, THIRD_OCTAVES } from '@fulgor/core/measure'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { mixLayers, placeLayer, type Sides } from '.'

const rate = 48_000

function noise(seed: number, seconds = 2): Float32Array {
  let state = seed
  const next = () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647 - 0.5
  return Float32Array.from({ length: seconds * rate }, () => 0.4 * (next() + next() + next()))
}
const centre = { level: 0, pan: 0, delay: 0, detune: 0 }
const both = (x: Float32Array): Sides => [x, x]
const at = (bands: readonly { hz: number; db: number | null }[], hz: number) => bands.find((b) => b.hz === hz)?.db ?? NaN
const middle = THIRD_OCTAVES.filter((hz) => hz >= 200 && hz <= 8_000)

describe('width and mono', () => {
  // by definition: equal sides have correlation 1 and no difference; independent ones 0 and as much difference as sum; mono loses 3.01 dB
  it('of equal and of unlike sides', () => {
    const mono = stereoFigures(both(noise(3)), rate)
    expect(mono.correlation).toBeCloseTo(1, 6)
    expect(mono.widthDb).toBeLessThan(-100)
    expect(mono.monoLossLu).toBeCloseTo(0, 6)
    const unlike = stereoFigures([noise(3), noise(987_654_321)], rate)
    expect(Math.abs(unlike.correlation ?? 1)).toBeLessThan(0.03)
    expect(unlike.widthDb).toBeCloseTo(0, 0)
    expect(unlike.monoLossLu).toBeCloseTo(3.01, 0)
  })

  it('of sides of opposite polarity nothing is left, and silence has no figures', () => {
    const x = noise(3)
    const upside = stereoFigures([x, x.map((v) => -v)], rate)
    expect([upside.correlation, upside.monoLossLu]).toEqual([-1, Infinity])
    expect(stereoFigures(both(new Float32Array(rate)), rate).monoLossLu).toBeNull()
  })

  // a copy that is τ late cancels at 1/(2τ): 0.5 ms at 1 kHz, and doubles at 2 kHz
  it('a late copy on the other side cancels where 1/(2τ) says', () => {
    const x = noise(9, 4)
    const late = placeLayer(both(x), { ...centre, delay: 0.5 }, x.length, rate)[0]
    const { monoBands } = stereoFigures([x, late], rate)
    expect(at(monoBands, 1_000)).toBeLessThan(-15)
    expect(Math.abs(at(monoBands, 2_000))).toBeLessThan(0.5)
  })
})

describe('layers', () => {
  // 20·log10(2) = 6.02 for two equal ones, 10·log10(2) = 3.01 for two unlike ones of the same level
  it('pile up by 6 dB where they are alike and by 3 where they are not', () => {
    const [a, b] = [noise(3), noise(987_654_321)]
    for (const hz of middle) {
      expect(at(mixLayers([both(a), both(a)], rate).figures.buildUp, hz)).toBeCloseTo(6.02, 1)
      expect(Math.abs(at(mixLayers([both(a), both(b)], rate).figures.buildUp, hz) - 3.01)).toBeLessThan(1.2)
    }
    expect(at(buildUp(both(a), [both(a)], rate), 1_000)).toBeCloseTo(0, 6)
    expect(() => mixLayers([], rate)).toThrow('at least one layer')
  })

  it('stand where they are placed', () => {
    const click = new Float32Array(4_800)
    click[100] = 1
    const placed = placeLayer(both(click), { level: -6.0206, pan: 100, delay: 10, detune: 0 }, 9_600, rate)
    expect(Math.max(...placed[0].map(Math.abs))).toBe(0)
    // 10 ms are 480 frames; the shorter sound is played again
    expect(placed[1][580]).toBeCloseTo(0.5, 3)
    expect(placed[1][5_380]).toBeCloseTo(0.5, 3)
  })

  // by hand: 20 cents up from 440 Hz is 440 · 2^(20/1200) = 445.11 Hz
  it.each([20, -20])('detuned by %s cents sound that much higher, and in time', (detune) => {
    const tone = Float32Array.from({ length: 3 * rate }, (_, n) => 0.5 * Math.sin((2 * Math.PI * 440 * n) / rate))
    const [left] = placeLayer(both(tone), { ...centre, detune }, tone.length, rate)
    let crossings = 0
    for (let n = rate; n < 2 * rate; n++) if (left[n - 1] < 0 && left[n] >= 0) crossings++
    expect(Math.abs(crossings - 440 * Math.pow(2, detune / 1200))).toBeLessThan(1.6)
  })
})

describe('takes of a riff', () => {
  it('are the same notes struck again: as loud, as long, and not the same samples', () => {
    const [one, two] = [1, 2].map((take) => synthesiseRiff('open-chords', 'hard', 96, rate, take))
    const power = (x: Float32Array) => x.reduce((s, v) => s + v * v, 0)
    expect(two).toHaveLength(one.length)
    expect(Math.abs(10 * Math.log10(power(one) / power(two)))).toBeLessThan(1)
    const wide = stereoFigures([Float32Array.from(one), Float32Array.from(two)], rate)
    expect(wide.correlation).toBeLessThan(0.5)
    expect(synthesiseRiff('open-chords', 'hard', 96, rate, 1)).toEqual(synthesiseRiff('open-chords', 'hard', 96, rate))
  })
})
