import { describe, expect, it } from 'vitest'
import { averageSpectrum, bandPower, thirdOctaves } from '@fulgor/core/measure'
import { Fft, resample } from '@fulgor/core/signal'
import { synthesiseResponse, cabinetResponses, minimumPhase } from '@fulgor/core/cabinet'
import { PICKUPS, playRiff, riffTempo, RIFF_PEAK_DBFS, shippedRiffs, synthesiseRiff, TUNINGS, type PickupKind } from '.'
import reference from './ngspice.reference.json'
import { coilTransfer, pickupOf, positionGain, throughCoil } from './pickups'
import { pluckGain, pluckString, type Pluck } from './pluckedString'
import { inharmonicity, lengthAt, openHz, partialRatio, partialT60, SCALE_LENGTH } from './strings'

const rate = 48_000
const peakDb = (x: Float32Array) => 20 * Math.log10(x.reduce((m, y) => Math.max(m, Math.abs(y)), 0))
const bandsOf = (x: Float32Array) => thirdOctaves(averageSpectrum([x], rate))
const loudest = (x: Float32Array) => bandsOf(x).reduce((a, b) => ((b.db ?? -200) > (a.db ?? -200) ? b : a)).hz

/** Slope of the third octaves by least squares, dB an octave. */
function tilt(x: Float32Array, from: number, to: number): number {
  const points = bandsOf(x).flatMap(({ hz, db }) => (hz >= from && hz <= to ? [[Math.log2(hz), db ?? -140]] : []))
  const mean = (k: number) => points.reduce((sum, p) => sum + p[k], 0) / points.length
  const [mx, my] = [mean(0), mean(1)]
  return points.reduce((sum, p) => sum + (p[0] - mx) * (p[1] - my), 0) / points.reduce((sum, p) => sum + (p[0] - mx) ** 2, 0)
}

describe('shipped riffs', () => {
  it.each(shippedRiffs.map((r) => r.id))('%s: 16 beats, softer and darker when picked softly, without a seam', (id) => {
    const [soft, normal, hard] = (['soft', 'normal', 'hard'] as const).map((strength) => synthesiseRiff(id, strength, 180, rate))
    expect(hard.length).toBe(256_000)
    expect(peakDb(hard) - peakDb(normal)).toBeGreaterThan(3)
    expect(peakDb(normal) - peakDb(soft)).toBeGreaterThan(3)
    // against the same riff's body, so that the hiss has no part in it
    const brightness = (x: Float32Array) => {
      const spectrum = averageSpectrum([x], rate)
      return bandPower(spectrum, 1_500, 3_000) / bandPower(spectrum, 80, 900)
    }
    expect(10 * Math.log10(brightness(hard) / brightness(soft))).toBeGreaterThan(1)
    const steps = hard.map((x, n) => Math.abs(x - hard[(n + hard.length - 1) % hard.length]))
    expect(steps[0]).toBeLessThan(Math.max(...steps.slice(1)))
  })

  it('are the same every time, and follow the tempo by halves and doubles', () => {
    expect(synthesiseRiff('lead-line', 'hard', 96, rate)).toEqual(synthesiseRiff('lead-line', 'hard', 96, rate))
    expect([40, 96, 220].map(riffTempo)).toEqual([80, 96, 110])
  })

  it.each(PICKUPS.map((p) => p.id))('strummed hard on the pickup “%s” they peak where a hot pickup does', (pickup) => {
    const peak = peakDb(playRiff('open-chords', rate, { strength: 'hard', bpm: 96, pickup }))
    expect(Math.abs(peak - RIFF_PEAK_DBFS)).toBeLessThan(0.5)
  })

  it('sound alike at every sample rate', () => {
    const [a, b] = [44_100, 96_000].map((sampleRate) => {
      const x = playRiff('stabs', sampleRate, { strength: 'hard', bpm: 120 })
      return thirdOctaves(averageSpectrum([x], sampleRate, sampleRate > 50_000 ? 16_384 : 8192))
    })
    for (const [k, { hz, db }] of a.entries()) if (hz >= 100 && hz <= 6_300) expect(Math.abs((db ?? 0) - (b[k].db ?? 0))).toBeLessThan(1.5)
  })

  it('tell what there is when a riff or pickup is unknown', () => {
    expect(() => synthesiseRiff('x', 'hard', 96, rate)).toThrow(/no riff “x”; there are palm-muted/)
    expect(() => playRiff('funk', rate, { strength: 'hard', bpm: 96, pickup: 'x' as PickupKind })).toThrow(
      /no pickup “x”; there are bridge/,
    )
  })
})

/**
 * Corridors of the dry spectra. Plucked-string theory with a velocity pickup gives −1.2 (chords) and −1.6 dB an octave, recorded guitars
 * lie near 0 to −3 (common practice, no source); towards the neck a pickup hears less top (Jungmann 1994).
 */
const CHORDS: readonly (readonly [id: string, from: number])[] = [
  ['open-chords', 100],
  ['sixteenth-strum', 160],
  ['arpeggio', 100],
  ['stabs', 100],
  ['octaves', 125],
]
describe('spectra of the dry riffs', () => {
  it.each(CHORDS)('%s falls by 0 to 3.5 dB an octave at the bridge, by 0.5 to 5.2 towards the neck', (id, from) => {
    for (const { id: pickup } of PICKUPS) {
      const slope = tilt(playRiff(id, rate, { strength: 'hard', bpm: 96, pickup }), from, 4000)
      const bridge = pickup === 'bridge' || pickup === 'split'
      expect(slope).toBeGreaterThan(bridge ? -3.5 : -5.2)
      expect(slope).toBeLessThan(bridge ? 1 : -0.5)
    }
  })

  it.each(['bridge', 'neck', 'middle-neck', 'single'] as const)(
    'palm mutes on the pickup “%s” peak below 250 Hz, soft and hard',
    (pickup) => {
      for (const strength of ['soft', 'normal', 'hard'] as const)
        expect(loudest(playRiff('palm-muted', rate, { strength, bpm: 96, pickup }))).toBeLessThan(250)
    },
  )

  it('a low riff keeps its lows: 80–200 Hz within 10 dB of the loudest band on every pickup', () => {
    for (const { id: pickup } of PICKUPS) {
      const bands = bandsOf(playRiff('low-riff', rate, { strength: 'hard', bpm: 96, pickup }))
      const most = Math.max(...bands.map((b) => b.db ?? -200))
      const low = Math.max(...bands.filter((b) => b.hz >= 80 && b.hz <= 200).map((b) => b.db ?? -200))
      expect(most - low).toBeLessThan(10)
    }
  })

  it.each(TUNINGS.map((t) => t.id))('in the tuning “%s” the low string sounds where it should', (tuning) => {
    // its first note, by the third partial: steps of a semitone are told apart there
    const x = playRiff('low-riff', rate, { strength: 'hard', bpm: 96, pickup: 'neck', tuning }).subarray(0, rate / 2)
    const semitones = { standard: 0, 'half-down': -1, 'drop-d': -2, 'whole-down': -2, 'drop-c': -4, 'drop-b': -5, 'drop-a': -7 }[tuning]
    const hz = 3 * 82.407 * Math.pow(2, semitones / 12)
    const at = (f: number) => partialPower(x, f)
    expect(at(hz)).toBeGreaterThan(5 * at(hz * Math.pow(2, 1 / 12)))
    expect(at(hz)).toBeGreaterThan(5 * at(hz * Math.pow(2, -1 / 12)))
  })
})

/** Power of a sine at `hz` in a signal, by a Hann-windowed direct sum. */
function partialPower(x: Float32Array, hz: number): number {
  let re = 0
  let im = 0
  for (let n = 0; n < x.length; n++) {
    const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / x.length)
    re += w * x[n] * Math.cos((2 * Math.PI * hz * n) / rate)
    im += w * x[n] * Math.sin((2 * Math.PI * hz * n) / rate)
  }
  return (re * re + im * im) / x.length ** 2
}

/** A pluck as a coil of no width, at an eleventh of the string, hears it. */
const POINT = { ...pickupOf('single'), coils: [{ at: SCALE_LENGTH / 11, share: 1 }], aperture: 1e-6 }
function plucked(pluck: Partial<Pluck>, seconds = 2): Float32Array {
  const out = new Float32Array(rate * seconds)
  const whole: Pluck = { at: 0, length: seconds, string: 0, fret: 0, hz: openHz(0, 'standard'), strength: 1, mute: 0, ...pluck }
  pluckString(out, [whole], { sampleRate: rate, pickAt: SCALE_LENGTH / 7, pickup: POINT }, () => 0.5)
  return out
}

describe('plucked string', () => {
  it.each([
    [0, 0, 82.407],
    [4, 0, 246.942],
    [5, 10, 587.33],
  ])('string %s at fret %s sounds at %s Hz within 3 cents', (string, fret, hz) => {
    const out = plucked({ string, fret, hz })
    const cents = Array.from({ length: 41 }, (_, i) => i - 20)
    const power = cents.map((c) => partialPower(out, hz * Math.pow(2, c / 1200)))
    expect(Math.abs(cents[power.indexOf(Math.max(...power))])).toBeLessThanOrEqual(3)
  })

  // Fletcher & Rossing 1998, section 2.7: displacement sin(nπβ)/n², so velocity sin(nπβ)/n; a contact without width
  it('is struck with harmonics sin(nπβ)/n: none at every seventh where it is plucked at a seventh', () => {
    const beta = 1 / 7
    for (let n = 1; n < 30; n++)
      expect(pluckGain(n, beta * SCALE_LENGTH, 1e-6, SCALE_LENGTH)).toBeCloseTo(Math.sin(n * Math.PI * beta) / n, 6)
    const out = plucked({})
    const b = inharmonicity(0, 0)
    const level = (n: number) => 10 * Math.log10(partialPower(out.subarray(0, rate / 2), 82.407 * partialRatio(n, b)))
    expect(level(7)).toBeLessThan(level(6) - 20)
    expect(level(7)).toBeLessThan(level(8) - 20)
    // and none at every eleventh where the coil lies at an eleventh (Jungmann 1994)
    expect(level(11)).toBeLessThan(level(10) - 20)
  })

  it('the partials of the table follow the formula within 2 dB', () => {
    const out = plucked({}, 1).subarray(0, rate / 8)
    const b = inharmonicity(0, 0)
    const level = (n: number) => 10 * Math.log10(partialPower(out, 82.407 * partialRatio(n, b)))
    // 20·log10 of sin(nπ/7)·sin(nπ/11)/n over n = 1, by hand from the formula
    const table = [
      [2, 4.76],
      [3, 6.06],
      [4, 5.17],
      [5, 2.05],
      [6, -4.65],
    ] as const
    for (const [n, db] of table) expect(Math.abs(level(n) - level(1) - db)).toBeLessThan(2)
  })

  // Fletcher & Rossing 1998, section 2.18: B = π³·E·d⁴ / (64·T·L²); wound low strings about 1e-4 (common practice, no source)
  it('is stiff: partials lie at n·f·√(1 + B·n²)', () => {
    expect(inharmonicity(0, 0)).toBeGreaterThan(0.7e-4)
    expect(inharmonicity(0, 0)).toBeLessThan(1.6e-4)
    expect(inharmonicity(0, 12) / inharmonicity(0, 0)).toBeCloseTo(4, 6)
    const out = plucked({})
    const size = 65_536
    const re = Float64Array.from({ length: size }, (_, n) => out[n] * (0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size)))
    const im = new Float64Array(size)
    new Fft(size).forward(re, im)
    const peakNear = (hz: number) => {
      const around = Math.round((hz * size) / rate)
      let best = around
      for (let k = around - 25; k <= around + 25; k++) if (Math.hypot(re[k], im[k]) > Math.hypot(re[best], im[best])) best = k
      return (best * rate) / size
    }
    for (const n of [10, 20, 30]) {
      const stretched = 82.407 * n * Math.sqrt((1 + 1.31e-4 * n * n) / (1 + 1.31e-4))
      // within 4 Hz: the gauge gives B within a few percent of 1.3e-4
      expect(Math.abs(peakNear(stretched) - stretched)).toBeLessThan(4)
    }
    expect(peakNear(82.407 * 30 * Math.sqrt(1 + 1.3e-4 * 900))).toBeGreaterThan(82.407 * 30 + 80)
  })

  it('dies partial by partial as its losses say, and partial 16 of E2 within 2 to 5 s', () => {
    const out = plucked({ length: 4 }, 4)
    const b = inharmonicity(0, 0)
    for (const n of [1, 4, 40]) {
      const hz = 82.407 * partialRatio(n, b)
      const t60 = partialT60(0, 0, 0, hz)
      const power = (from: number) => 10 * Math.log10(partialPower(out.subarray(from * rate, (from + 0.25) * rate), hz))
      const measured = (60 * 0.6) / (power(0.1) - power(0.7))
      // the second polarisation lengthens it
      expect(measured / t60).toBeGreaterThan(0.9)
      expect(measured / t60).toBeLessThan(1.7)
    }
    expect(partialT60(0, 0, 0, 1318)).toBeGreaterThan(2)
    expect(partialT60(0, 0, 0, 1318)).toBeLessThan(5)
    expect(partialT60(0, 5, 0, 1318)).toBeLessThan(partialT60(0, 0, 0, 1318))
  })

  it('under the palm keeps its fundamental and loses its top', () => {
    expect(partialT60(0, 0, 0.85, 82)).toBeGreaterThan(0.2)
    expect(partialT60(0, 0, 0.85, 3_000)).toBeLessThan(0.05)
    const [open, muted] = [0, 0.85].map((mute) => plucked({ mute }, 1))
    const early = (x: Float32Array) => x.subarray(0, rate / 8)
    const drop = (hz: number) => 10 * Math.log10(partialPower(early(open), hz) / partialPower(early(muted), hz))
    expect(drop(82.4)).toBeLessThan(16)
    expect(drop(82.407 * partialRatio(20, inharmonicity(0, 0)))).toBeGreaterThan(35)
  })

  it('bends up by a whole tone and stays there', () => {
    const hz = 440
    const out = plucked({ string: 5, fret: 5, hz, bend: [[0.3, 2]] }, 2).subarray(rate)
    expect(partialPower(out, hz * Math.pow(2, 2 / 12))).toBeGreaterThan(100 * partialPower(out, hz))
  })
})

describe('pickups', () => {
  // ngspice (scripts/reference/ngspice_coil.py): R and L into pots, input, coil and cable
  it.each(Object.entries(reference.db))('%s: coil, pots and cable follow ngspice', (id, expected) => {
    const pickup = pickupOf(id)
    const { a } = coilTransfer(pickup)
    const impulse = new Float32Array(16_384)
    impulse[8_000] = 1
    throughCoil(impulse, pickup, rate)
    reference.hz.forEach((hz, k) => {
      const w = 2 * Math.PI * hz
      expect(-20 * Math.log10(Math.hypot(a[0] - a[2] * w * w, a[1] * w))).toBeCloseTo(expected[k], 3)
      // the filter that runs, where the bilinear transform does not bend the axis yet
      if (hz <= 4_000) expect(Math.abs(10 * Math.log10(partialSum(impulse, hz)) - expected[k])).toBeLessThan(1)
    })
  })
  const partialSum = (x: Float32Array, hz: number) => {
    let re = 0
    let im = 0
    x.forEach((h, n) => {
      re += h * Math.cos((2 * Math.PI * hz * n) / rate)
      im -= h * Math.sin((2 * Math.PI * hz * n) / rate)
    })
    return re * re + im * im
  }

  it('hear nothing of a partial whose node lies over the coil, and little of waves shorter than the aperture', () => {
    const coil = { coils: [{ at: SCALE_LENGTH / 4, share: 1 }], aperture: 1e-6 }
    expect(positionGain(coil, 4, SCALE_LENGTH)).toBeCloseTo(0, 6)
    expect(positionGain(coil, 2, SCALE_LENGTH)).toBeCloseTo(1, 6)
    // a fretted string is shorter: an octave up the same coil lies at its middle
    expect(positionGain(coil, 2, lengthAt(12))).toBeCloseTo(0, 6)
    expect(Math.abs(positionGain({ ...coil, aperture: 0.02 }, 2 * 32.4, SCALE_LENGTH))).toBeLessThan(0.02)
  })
})

describe('resampling', () => {
  it.each([
    [44_100, 48_000],
    [96_000, 48_000],
    [48_000, 44_100],
  ])('keeps a 1 kHz sine from %s to %s Hz', (from, to) => {
    const x = Float32Array.from({ length: from }, (_, n) => Math.sin((2 * Math.PI * 1000 * n) / from))
    const y = resample(x, from, to)
    expect(y.length).toBe(to)
    let worst = 0
    for (let n = 2000; n < to - 2000; n++) worst = Math.max(worst, Math.abs(y[n] - Math.sin((2 * Math.PI * 1000 * n) / to)))
    expect(20 * Math.log10(worst)).toBeLessThan(-80)
  })

  it('takes out what the lower rate cannot hold', () => {
    const x = Float32Array.from({ length: 96_000 }, (_, n) => Math.sin((2 * Math.PI * 30_000 * n) / 96_000))
    expect(peakDb(resample(x, 96_000, 48_000).slice(2000, -2000))).toBeLessThan(-80)
  })
})

describe('cabinet responses', () => {
  it.each(cabinetResponses.map((r) => r.id))('%s cuts the fizz and the rumble, at every sample rate alike', (id) => {
    const gain = (sampleRate: number, hz: number) => {
      const taps = synthesiseResponse(id, sampleRate)
      let re = 0
      let im = 0
      taps.forEach((h, n) => {
        re += h * Math.cos((2 * Math.PI * hz * n) / sampleRate)
        im -= h * Math.sin((2 * Math.PI * hz * n) / sampleRate)
      })
      return 20 * Math.log10(Math.hypot(re, im))
    }
    expect(gain(rate, 30)).toBeLessThan(gain(rate, 150) - 10)
    expect(gain(rate, 12_000)).toBeLessThan(gain(rate, 2_500) - 20)
    for (const hz of [120, 1000, 3000]) expect(Math.abs(gain(96_000, hz) - gain(44_100, hz))).toBeLessThan(0.7)
  })

  // Oppenheim & Schafer: a minimum-phase sequence keeps the magnitude and has its energy first; x[0] = exp(c[0]/2 …), here one pole
  it('finds the minimum-phase sequence of a one-pole magnitude', () => {
    const size = 1024
    const magnitude = Float64Array.from(
      { length: size / 2 + 1 },
      (_, k) => 1 / Math.hypot(1 - 0.8 * Math.cos((2 * Math.PI * k) / size), 0.8 * Math.sin((2 * Math.PI * k) / size)),
    )
    const taps = minimumPhase(magnitude, size)
    for (let n = 0; n < 20; n++) expect(taps[n]).toBeCloseTo(Math.pow(0.8, n), 6)
  })
})
