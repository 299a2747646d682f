import { describe, expect, it } from 'vitest'
import { CHUNK, createBlock } from '../base/block'
import { circuitTransfer, potShare, transferDb, type Coil, type Wiring } from './circuit'
import { Machine } from '../kernel/machine'
import { fitted, inverseOf, sectionsDb } from './fitted'
import { GuitarInput, type GuitarInputParams } from './guitarInput'
import reference from './ngspice.reference.json'

const RATE = 48_000
const pot = (ohm: number, taper: 'linear' | 'audio' = 'audio') => ({ ohm, taper })

/** Values of scripts/reference/ngspice_guitar.py, typed again by hand. */
const CIRCUITS: Record<string, readonly [Coil, Wiring]> = {
  'single coil, no bleed': [
    { resistance: 6200, inductance: 2.5, capacitance: 110e-12 },
    { volume: pot(250e3), bleed: null, tone: { ...pot(250e3), farad: 22e-9 }, cableFarad: 600e-12, inputOhm: 1e6 },
  ],
  'humbucker, capacitor alone': [
    { resistance: 8200, inductance: 4.6, capacitance: 150e-12 },
    {
      volume: pot(500e3, 'linear'),
      bleed: { farad: 1e-9, ohm: 0, way: 'beside' },
      tone: { ...pot(500e3), farad: 22e-9 },
      cableFarad: 450e-12,
      inputOhm: 1e6,
    },
  ],
  'humbucker, capacitor beside 150k': [
    { resistance: 8200, inductance: 4.6, capacitance: 150e-12 },
    {
      volume: pot(500e3),
      bleed: { farad: 0.68e-9, ohm: 150e3, way: 'beside' },
      tone: { ...pot(500e3, 'linear'), farad: 47e-9 },
      cableFarad: 450e-12,
      inputOhm: 1e6,
    },
  ],
  'single coil, capacitor behind 130k': [
    { resistance: 5600, inductance: 2.2, capacitance: 100e-12 },
    {
      volume: pot(250e3),
      bleed: { farad: 1.2e-9, ohm: 130e3, way: 'behind' },
      tone: { ...pot(250e3), farad: 47e-9 },
      cableFarad: 1000e-12,
      inputOhm: 500e3,
    },
  ],
}
const cases = Object.entries(reference.db).flatMap(([name, settings]) =>
  Object.entries(settings).map(
    ([setting, db]) => [name, ...setting.split(' ').map(Number), db] as unknown as [string, number, number, number[]],
  ),
)

describe('the circuit of a guitar', () => {
  it.each(cases)('%s, volume %d, tone %d: as ngspice has it, within 0.1 dB', (name, volume, tone, db) => {
    const transfer = circuitTransfer(...CIRCUITS[name], volume, tone)
    reference.hz.forEach((hz, k) => expect(Math.abs(transferDb(transfer, hz) - db[k])).toBeLessThan(0.01))
  })

  it.each(cases)('%s, volume %d, tone %d: the filter that runs follows it within 0.6 dB up to 7 kHz', (name, volume, tone, db) => {
    const filter = fitted(circuitTransfer(...CIRCUITS[name], volume, tone), RATE)
    reference.hz.forEach((hz, k) => {
      if (hz <= 7_000) expect(Math.abs(sectionsDb(filter, hz, RATE) - db[k])).toBeLessThan(0.6)
    })
  })

  it.each(Object.entries(CIRCUITS))('%s: is undone by its inverse', (_, parts) => {
    const filter = fitted(circuitTransfer(...parts, 10, 10), RATE)
    const inverse = inverseOf(filter)
    for (const hz of [80, 500, 2_000, 4_000, 8_000, 14_000]) {
      expect(sectionsDb(filter, hz, RATE) + sectionsDb(inverse, hz, RATE)).toBeCloseTo(0, 6)
    }
  })

  it('an audio taper leaves a tenth in the middle, a linear one half', () => {
    expect(potShare('audio', 5)).toBeCloseTo(0.1, 10)
    expect(potShare('linear', 5)).toBe(0.5)
    expect([potShare('audio', 0), potShare('audio', 10), potShare('audio', 12)]).toEqual([0, 1, 1])
  })

  // a fact of the trade, no source: what players hear of a volume knob
  it('volume at 7 is softer and darker without a treble bleed, and keeps its top with one', () => {
    const top = (bleed: Wiring['bleed']) => {
      const [coil, wiring] = CIRCUITS['single coil, no bleed']
      const at = (volume: number, hz: number) => transferDb(circuitTransfer(coil, { ...wiring, bleed }, volume, 10), hz)
      expect(at(7, 200)).toBeLessThan(at(10, 200) - 8)
      return at(7, 3_000) - at(7, 200) - (at(10, 3_000) - at(10, 200))
    }
    expect(top(null)).toBeLessThan(-4)
    expect(top({ farad: 1.2e-9, ohm: 130e3, way: 'behind' })).toBeGreaterThan(-2)
  })
})

describe('the guitar before the chain', () => {
  const plain: GuitarInputParams = {
    volume: 10,
    tone: 10,
    resistance: 6_200,
    inductance: 2.5,
    capacitance: 110e-12,
    volumeOhm: 250e3,
    volumeTaper: 'audio',
    bleedFarad: 0,
    bleedOhm: 0,
    bleedWay: 'none',
    toneOhm: 250e3,
    toneFarad: 22e-9,
    toneTaper: 'audio',
    cableFarad: 600e-12,
    inputOhm: 1e6,
    lowHz: 120,
    lowDb: 0,
    bellHz: 800,
    bellDb: 0,
    bellQ: 0.9,
    highHz: 3_000,
    highDb: 0,
  }
  /** A sine through it, with changes on the way; in chunks. */
  function run(hz: number, seconds: number, start: GuitarInputParams, change?: (s: number) => GuitarInputParams | null): Float64Array {
    const input = new GuitarInput()
    const machine = new Machine()
    input.prepare(RATE, machine)
    input.set(start, true)
    const block = createBlock(machine)
    const out = new Float64Array(Math.round((seconds * RATE) / CHUNK) * CHUNK)
    for (let n = 0; n < out.length; n += CHUNK) {
      const next = change?.(n / RATE)
      if (next) input.set(next, false)
      input.tick()
      for (let i = 0; i < CHUNK; i++) block.left[i] = Math.sin((2 * Math.PI * hz * (n + i)) / RATE)
      input.process(block)
      out.set(block.left, n)
    }
    return out
  }
  const dbOf = (x: Float64Array) => 10 * Math.log10((2 * x.reduce((s, v) => s + v * v, 0)) / x.length)
  const steady = (hz: number, p: Partial<GuitarInputParams>) => dbOf(run(hz, 0.5, { ...plain, ...p }).subarray(12_000))

  it('does nothing with both knobs at 10', () => {
    const out = run(3_000, 0.2, plain)
    expect(Math.max(...out.map((y, n) => Math.abs(y - Math.sin((2 * Math.PI * 3_000 * n) / RATE))).subarray(200))).toBeLessThan(1e-6)
  })

  it('changes a tone by what the circuit changes', () => {
    const [coil, wiring] = CIRCUITS['single coil, no bleed']
    const wanted = (hz: number, volume: number, tone: number) =>
      transferDb(circuitTransfer(coil, wiring, volume, tone), hz) - transferDb(circuitTransfer(coil, wiring, 10, 10), hz)
    for (const [hz, volume, tone] of [
      [200, 7, 10],
      [3_000, 7, 10],
      [3_000, 10, 3],
      [1_000, 4, 5],
    ])
      expect(Math.abs(steady(hz, { volume, tone }) - wanted(hz, volume, tone))).toBeLessThan(0.3)
  })

  it('lifts what its bands lift', () => {
    expect(steady(40, { lowDb: 5, lowHz: 400 })).toBeCloseTo(5, 0)
    expect(steady(800, { bellDb: -4 })).toBeCloseTo(-4, 2)
    expect(steady(12_000, { highDb: 3, highHz: 2_000 })).toBeCloseTo(3, 0)
  })

  it('is turned without a click', () => {
    const out = run(200, 1, plain, (s) => (s > 0.3 ? { ...plain, volume: Math.max(5, 10 - 20 * (s - 0.3)) } : null))
    // no step is larger than the sine's own at full level
    const steepest = (2 * Math.PI * 200) / RATE
    let most = 0
    for (let n = 1; n < out.length; n++) most = Math.max(most, Math.abs(out[n] - out[n - 1]))
    expect(most).toBeLessThan(1.2 * steepest)
    expect(dbOf(out.subarray(-12_000))).toBeLessThan(-15)
  })
})
