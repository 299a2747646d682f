import { describe, expect, it } from 'vitest'
import {
  arrivalSeconds,
  besselJ1,
  drivers,
  firstNullHz,
  geometryOf,
  micResponse,
  microphones,
  pistonDirectivity,
  proximity,
  SPEED_OF_SOUND,
  type CabDesign,
  type MicPlace,
} from '.'

const rate = 48_000
const open: CabDesign = { driver: 'bright', size: '12', drivers: '1', back: 'open' }
const place = (change: Partial<MicPlace> = {}): MicPlace => ({
  type: 'coil',
  offset: 0,
  bearing: 0,
  distance: 25,
  angle: 0,
  reflections: 0,
  room: 0,
  ...change,
})

/** dB at a frequency by the definition's sum. */
function levelAt(taps: Float64Array, hz: number): number {
  let re = 0
  let im = 0
  taps.forEach((x, n) => {
    re += x * Math.cos((2 * Math.PI * hz * n) / rate)
    im -= x * Math.sin((2 * Math.PI * hz * n) / rate)
  })
  return 20 * Math.log10(Math.hypot(re, im))
}
/** Mean over a band, dB, so that single interference dips do not count. */
const band = (taps: Float64Array, from: number, to: number): number =>
  Array.from({ length: 9 }, (_, i) => levelAt(taps, from * Math.pow(to / from, i / 8))).reduce((a, b) => a + b, 0) / 9
const hear = (change: Partial<MicPlace> = {}, cab: CabDesign = open) => micResponse(cab, place(change), rate, 2_048)

describe('piston directivity', () => {
  // Abramowitz & Stegun, Handbook of Mathematical Functions, NBS 1964, table 9.1
  it.each([
    [0.5, 0.2422684577],
    [1, 0.4400505857],
    [2, 0.576724808],
    [4, -0.066043328],
    [8, 0.2346363469],
    [15, 0.2051040386],
  ])('J1(%s) = %s', (x, y) => {
    expect(Math.abs(besselJ1(x) - y)).toBeLessThan(1e-7)
  })

  // Beranek, Acoustics, 1954, ch. 4: first nulls of 2J1(x)/x at 3.83 and 7.02; half pressure at 2.22 (from memory)
  it('is 1 on axis, half at 2.215, and vanishes at 3.8317 and 7.0156', () => {
    expect(pistonDirectivity(0)).toBe(1)
    expect(pistonDirectivity(2.215)).toBeCloseTo(0.5, 2)
    for (const zero of [3.8317, 7.0156]) expect(Math.abs(pistonDirectivity(zero))).toBeLessThan(1e-4)
  })
})

describe('proximity effect', () => {
  // Gradient of a spherical wave (Eargle, The Microphone Book, 2004, ch. 3): |1 + 1/(jkr)| = √(1 + 1/(kr)²)
  it.each([
    [100, 0.05],
    [200, 0.1],
    [1_000, 0.025],
  ])('of a figure of eight at %s Hz and %s m', (hz, distance) => {
    const { re, im } = proximity({ pressure: 0, gradient: 1 }, hz, distance, 1)
    const kr = (2 * Math.PI * hz * distance) / 343
    expect(Math.hypot(re, im)).toBeCloseTo(Math.sqrt(1 + 1 / (kr * kr)), 9)
  })

  it('is half as strong in a cardioid, none in pressure, and turns over behind', () => {
    const at = (pressure: number, gradient: number, cos: number) => proximity({ pressure, gradient }, 100, 0.05, cos)
    expect(at(0.5, 0.5, 1).im).toBeCloseTo(at(0, 1, 1).im / 2, 9)
    expect(at(1, 0, 1).im).toBeCloseTo(0, 12)
    expect(at(0.5, 0.5, -1).re).toBeCloseTo(0, 12)
    expect(at(0, 1, -1).im).toBeCloseTo(-at(0, 1, 1).im, 12)
  })
})

describe('the simulated cabinet', () => {
  // 1/343 s a metre: 2.915 µs a millimetre
  it('arrives 2.915 µs later for every millimetre', () => {
    const late = (mm: number) => arrivalSeconds(open, { offset: 0, distance: mm })
    expect(((late(300) - late(100)) / 200) * 1e6).toBeCloseTo(2.915, 2)
    expect(1e3 / SPEED_OF_SOUND).toBeCloseTo(2.915, 3)
    const first = (mm: number) => {
      const taps = hear({ distance: mm })
      const peak = taps.reduce((m, x) => Math.max(m, Math.abs(x)), 0)
      return taps.findIndex((x) => Math.abs(x) > 0.2 * peak)
    }
    expect(Math.abs(first(800) - first(400) - 400 * 2.915e-6 * rate)).toBeLessThanOrEqual(2)
  })

  // common practice, no source: darker away from the centre, warmer close up, darker turned away
  it.each(drivers.map((d) => d.id))('%s: darker off centre, step by step', (driver) => {
    const top = [0, 40, 80, 120].map((offset) => {
      const taps = hear({ offset }, { ...open, driver })
      return band(taps, 3_000, 6_000) - band(taps, 200, 600)
    })
    for (let i = 1; i < top.length; i++) expect(top[i]).toBeLessThan(top[i - 1])
    expect(top[0] - top[3]).toBeGreaterThan(6)
  })

  it.each(microphones.map((m) => m.id))('%s: warmer the closer it stands', (type) => {
    const warmth = [5, 50, 150, 400].map((distance) => {
      const taps = hear({ type, distance })
      return band(taps, 70, 140) - band(taps, 500, 1_000)
    })
    for (let i = 1; i < warmth.length; i++) expect(warmth[i]).toBeLessThan(warmth[i - 1])
  })

  it('a ribbon has twice the proximity of a cardioid', () => {
    const gain = (type: string) => {
      const near = hear({ type, distance: 20 })
      const far = hear({ type, distance: 400 })
      return band(near, 70, 140) - band(near, 500, 1_000) - band(far, 70, 140) + band(far, 500, 1_000)
    }
    expect(gain('ribbon')).toBeGreaterThan(gain('small-condenser') + 1)
  })

  it('turned away it hears less top, more so with a larger diaphragm', () => {
    const loss = (type: string) => band(hear({ type }), 6_000, 10_000) - band(hear({ type, angle: 55 }), 6_000, 10_000)
    expect(loss('coil')).toBeGreaterThan(0.5)
    expect(loss('large-condenser')).toBeGreaterThan(loss('small-condenser'))
  })

  it('the drivers, sizes and boxes are told apart', () => {
    const cabs: CabDesign[] = [
      ...drivers.map((d): CabDesign => ({ ...open, driver: d.id })),
      { ...open, size: '10' },
      { ...open, back: 'closed' },
      { ...open, drivers: '2' },
      { ...open, drivers: '4', back: 'closed' },
    ]
    const shapes = cabs.map((cab) =>
      [90, 200, 450, 900, 2_000, 3_500, 5_000].map((hz) => levelAt(hear({ offset: 20, distance: 120 }, cab), hz)),
    )
    shapes.forEach((a, i) =>
      shapes.slice(i + 1).forEach((b) => expect(Math.max(...a.map((x, k) => Math.abs(x - b[k])))).toBeGreaterThan(0.7)),
    )
  })

  it('a closed box pushes its resonance up, and has more below it than an open one', () => {
    const shelf = (back: 'open' | 'closed') =>
      band(hear({ distance: 300 }, { ...open, back }), 90, 160) - band(hear({ distance: 300 }, { ...open, back }), 500, 1_000)
    expect(shelf('closed')).toBeGreaterThan(shelf('open'))
  })

  // a dipole: the wave from behind comes turned over and later by d; front and back add up at c/2d and cancel at c/d (Beranek, 1954)
  it('an open back adds where the way around is half a wave, and takes away where it is a whole one', () => {
    const { boxDepth, halfWidth } = geometryOf(open)
    const mz = 0.3
    const around = boxDepth + halfWidth + Math.hypot(halfWidth, mz) - mz
    const half = SPEED_OF_SOUND / (2 * around)
    const over = (hz: number) => levelAt(hear({ distance: 300 }), hz) - levelAt(hear({ distance: 300 }, { ...open, back: 'closed' }), hz)
    expect(over(half)).toBeGreaterThan(over(2 * half) + 2)
  })

  it('the floor combs: a distant microphone differs at its first notch, and more with more of it', () => {
    const plain = hear({ distance: 600 })
    const ripple = (reflections: number) => {
      const taps = hear({ distance: 600, reflections })
      return Math.max(...Array.from({ length: 60 }, (_, i) => Math.abs(levelAt(taps, 150 + 20 * i) - levelAt(plain, 150 + 20 * i))))
    }
    expect(ripple(100)).toBeGreaterThan(6)
    expect(ripple(100)).toBeGreaterThan(ripple(30) + 2)
  })

  it('a room adds a tail that grows with the distance', () => {
    const tail = (distance: number, room: number) => {
      const taps = micResponse(open, place({ distance, room }), rate, 9_600)
      const energy = (from: number, to: number) => taps.subarray(from, to).reduce((s, x) => s + x * x, 0)
      return 10 * Math.log10(energy(2_400, 9_600) / energy(0, 2_400))
    }
    expect(tail(500, 60)).toBeGreaterThan(tail(50, 60) + 6)
    expect(tail(500, 60)).toBeGreaterThan(tail(500, 20) + 6)
    expect(tail(500, 0)).toBeLessThan(-60)
  })

  it('the bearing matters only where another driver plays', () => {
    const two: CabDesign = { ...open, drivers: '2' }
    const difference = (cab: CabDesign) => {
      const a = hear({ offset: 80, distance: 200, bearing: 0 }, cab)
      const b = hear({ offset: 80, distance: 200, bearing: 180 }, cab)
      return Math.max(...[500, 900, 1_400].map((hz) => Math.abs(levelAt(a, hz) - levelAt(b, hz))))
    }
    expect(difference(two)).toBeGreaterThan(difference({ ...open, back: 'closed' }) + 0.3)
  })

  it.each([44_100, 96_000])('sounds alike at %s Hz', (other) => {
    const here = hear()
    const there = micResponse(open, place(), other, Math.round((2_048 * other) / rate))
    const at = (hz: number) => {
      let re = 0
      let im = 0
      there.forEach((x, n) => {
        re += x * Math.cos((2 * Math.PI * hz * n) / other)
        im -= x * Math.sin((2 * Math.PI * hz * n) / other)
      })
      return 20 * Math.log10(Math.hypot(re, im))
    }
    for (const hz of [100, 400, 1_000, 3_000, 5_000]) expect(Math.abs(at(hz) - levelAt(here, hz))).toBeLessThan(0.15)
  })

  it('refuses what it does not know', () => {
    expect(() => hear({ type: 'carbon' })).toThrow('no microphone type')
    expect(() => hear({}, { ...open, driver: 'x' })).toThrow('no driver')
  })
})

// the sum of two equal sounds of which one is τ late vanishes first at 1/(2τ)
it.each([
  [100, 5_000],
  [210, 2_380.95],
  [1_000, 500],
])('a sound that is %s µs late cancels first at %s Hz', (us, hz) => {
  expect(firstNullHz(us)).toBeCloseTo(hz, 1)
  expect(firstNullHz(-us)).toBeCloseTo(hz, 1)
})
