import { describe, expect, it } from 'vitest'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { createStage, type ParamMap } from '@fulgor/core/preset'
import { Fft, Machine, staticCurve } from '.'
import { runThrough, type Sound } from '../render/offline'
import { stageFeel, stageResponse } from '../render/probe'
import { StageRunner } from '../render/stageRunner'

const rate = 48_000
const context = { responses: () => [1], quality: 'live' as const }

function run(model: string, params: ParamMap, input: Float32Array | Sound, key?: Float32Array): Sound {
  const sound = input instanceof Float32Array ? { left: input, right: input, stereo: false } : input
  const machine = new Machine()
  const runner = new StageRunner('x', modelOf(model), context, rate, machine)
  runner.apply({ x: { on: true, params: createStage('x', model, params).params } }, true)
  return runThrough(runner, machine, sound, key)
}
const sine = (hz: number, amplitude: number, seconds: number) =>
  Float32Array.from({ length: Math.round(seconds * rate) }, (_, n) => amplitude * Math.sin((2 * Math.PI * hz * n) / rate))
const impulse = (frames: number, at = 100) => {
  const x = new Float32Array(frames)
  x[at] = 1
  return x
}
const db = (x: number) => 20 * Math.log10(x)
const peak = (x: Float32Array) => x.reduce((most, y) => Math.max(most, Math.abs(y)), 0)
const rms = (x: Float32Array) => Math.sqrt(x.reduce((sum, y) => sum + y * y, 0) / x.length)
const response = (model: string, params: ParamMap, hz: readonly number[]) => {
  const { re, im } = stageResponse(createStage('x', model, params), hz, context, rate)
  return re.map((r, i) => db(Math.hypot(r, im[i])))
}
/** Amplitudes of a sound's spectrum at chosen frequencies, by direct sums over whole periods of 10 Hz. */
function partials(x: Float32Array, hz: readonly number[]): number[] {
  const tail = x.slice(x.length - rate / 2)
  return hz.map((f) => {
    let re = 0
    let im = 0
    tail.forEach((y, n) => {
      re += y * Math.cos((2 * Math.PI * f * n) / rate)
      im += y * Math.sin((2 * Math.PI * f * n) / rate)
    })
    return (2 * Math.hypot(re, im)) / tail.length
  })
}
/** Frequency of the strongest bin, Hz, with parabolic interpolation. */
function strongest(x: Float32Array): number {
  const size = 32_768
  const re = Float64Array.from({ length: size }, (_, n) => x[x.length - size + n] * (0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size)))
  const im = new Float64Array(size)
  new Fft(size).forward(re, im)
  const level = (k: number) => Math.log(Math.hypot(re[k], im[k]) + 1e-20)
  let best = 10
  for (let k = 10; k < size / 2; k++) if (level(k) > level(best)) best = k
  const [a, b, c] = [level(best - 1), level(best), level(best + 1)]
  return ((best + (0.5 * (a - c)) / (a - 2 * b + c)) * rate) / size
}

describe('compressors', () => {
  // Giannoulis, Massberg, Reiss, JAES 2012, eq. 4; the case of threshold −34, ratio 6.45, input −10 is common practice
  it('follow the published static curve', () => {
    expect(-10 - staticCurve(-10, -34, 6.45, 0)).toBeCloseTo(20.28, 2)
    expect(staticCurve(-60, -34, 4, 6)).toBe(-60)
    // in the middle of the knee: (1/R − 1) · (W/2)² / (2W) = (1/4 − 1) · 9 / 12
    expect(staticCurve(-34, -34, 4, 6)).toBeCloseTo(-34.5625, 4)
    expect(staticCurve(-31, -34, 4, 6)).toBeCloseTo(-34 + 3 / 4, 6)
  })

  it('reach the static gain reduction on a steady level, and 63 % of it after the attack time', () => {
    const square = Float32Array.from({ length: rate }, (_, n) => (n < 4800 ? 0 : Math.pow(10, -10 / 20)) * (n % 96 < 48 ? 1 : -1))
    const params = { threshold: -34, ratio: 6.45, knee: 0, attack: 20, release: 200, mix: 100 }
    const { left } = run('compressor.vca', params, square)
    expect(db(Math.abs(left[rate - 1])) + 10).toBeCloseTo(-20.28, 1)
    const reduction = (n: number) => -10 - db(Math.abs(left[n]))
    // from the silence's level: the smoother runs on the reduction, which starts at zero
    expect(reduction(4800 + 960) / 20.28).toBeCloseTo(1 - 1 / Math.E, 1)
  })

  it('leave the sound alone below the threshold and at 0 % mix', () => {
    const x = sine(220, 0.01, 0.3)
    expect(rms(run('compressor.vca', { threshold: -20 }, x).left) / rms(x)).toBeCloseTo(1, 4)
    const loud = sine(220, 0.7, 0.3)
    for (const model of ['compressor.vca', 'compressor.optical', 'compressor.bus'])
      expect(rms(run(model, { mix: 0 }, loud).left) / rms(loud)).toBeCloseTo(1, 4)
  })

  it('sustain: soft is raised, loud is held', () => {
    const gain = (amplitude: number) => {
      const x = sine(220, amplitude, 1)
      return db(rms(run('compressor.optical', { sustain: 7 }, x).left.slice(rate / 2)) / rms(x))
    }
    expect(gain(0.003)).toBeGreaterThan(8)
    expect(gain(0.5)).toBeLessThan(gain(0.003) - 10)
  })
})

describe('compressor detectors', () => {
  // Giannoulis, Massberg, Reiss, JAES 2012, eq. 4: the curve holds for the peaks of a sine too
  it.each([82, 220, 1_000])('the VCA type lies on its curve for a sine of %s Hz', (hz) => {
    for (const level of [-6, -12, -18]) {
      const { left } = run('compressor.vca', {}, sine(hz, Math.pow(10, level / 20), 1))
      expect(Math.abs(db(peak(left.slice(rate / 2))) - staticCurve(level, -24, 4, 6))).toBeLessThan(0.1)
    }
  })

  it.each([5, 10, 30, 60])('the bus compressor reaches 63 %% of its reduction after its %s ms of attack', (attack) => {
    const square = Float32Array.from({ length: rate }, (_, n) => (n < 9_600 ? 0.001 : Math.pow(10, -10 / 20)) * (n % 96 < 48 ? 1 : -1))
    const { left } = run('compressor.bus', { threshold: -34, ratio: '4', attack, release: 250 }, square)
    const reduction = (n: number) => db(Math.abs(square[n])) - db(Math.abs(left[n]))
    const full = reduction(rate - 1)
    let n = 9_600
    while (reduction(n) < full * (1 - 1 / Math.E)) n++
    expect(Math.abs((n - 9_600) / 48 / attack - 1)).toBeLessThan(0.1)
  })
})

describe('gate', () => {
  it('keyed from the dry guitar opens and shuts by it, not by its own input', () => {
    const hiss = sine(3_000, 0.2, 0.5)
    const silent = new Float32Array(hiss.length)
    const params = { threshold: -50, range: 60 }
    expect(peak(run('gate', { ...params, key: 'dry' }, hiss, silent).left.slice(rate / 4))).toBeLessThan(0.001)
    expect(peak(run('gate', { ...params, key: 'own' }, hiss, silent).left.slice(rate / 4))).toBeCloseTo(0.2, 2)
  })
})

describe('filters', () => {
  // common practice, no source: a pedal wah sweeps 400 to 2,200 Hz
  it.each([
    [0, 400],
    [10, 2_200],
  ])('wah at position %s peaks at %s Hz', (position, hz) => {
    const around = [0.8, 0.95, 1, 1.05, 1.25].map((f) => f * hz)
    const levels = response('filter.wah', { position }, around)
    expect(Math.max(...levels)).toBe(levels[2])
    expect(levels[2]).toBeCloseTo(12.04, 1)
  })

  it('envelope filter opens with the picking', () => {
    const bright = (amplitude: number) => {
      const low = sine(200, amplitude, 0.5)
      const high = sine(2_000, amplitude * 0.1, 0.5)
      const { left } = run(
        'filter.envelope',
        { from: 200, to: 2_000, mix: 100 },
        low.map((x, n) => x + high[n]),
      )
      const [a, b] = partials(left, [200, 2_000])
      return b / a
    }
    expect(bright(0.5)).toBeGreaterThan(5 * bright(0.01))
  })
})

describe('modulation', () => {
  // Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2: a delay that swings by D at rate f bends the pitch by ±2πfD
  it('vibrato bends by 2π · rate · depth', () => {
    const { left } = run('modulation.vibrato', { rate: 4, depth: 1 }, sine(1_000, 0.5, 1.5))
    const crossings: number[] = []
    for (let n = rate / 2; n < left.length; n++)
      if (left[n - 1] < 0 && left[n] >= 0) crossings.push(n - 1 - left[n - 1] / (left[n] - left[n - 1]))
    const periods = crossings.slice(1).map((at, i) => at - crossings[i])
    const swing = 2 * Math.PI * 4 * 0.001
    expect(rate / Math.min(...periods)).toBeCloseTo(1_000 * (1 + swing), -1)
    expect(rate / Math.max(...periods)).toBeCloseTo(1_000 * (1 - swing), -1)
  })

  it('tremolo falls to silence at full depth, at its rate, and never above unity', () => {
    const { left } = run('modulation.tremolo', { rate: 5, depth: 100, shape: 'sine', spread: 0 }, new Float32Array(rate).fill(1))
    expect(peak(left)).toBeLessThanOrEqual(1.000001)
    const dips = left.filter((y, n) => n > 0 && left[n - 1] >= 0.5 && y < 0.5).length
    expect(Math.min(...left)).toBeLessThan(0.001)
    expect(dips).toBe(5)
  })

  // first-order allpasses turn by 2·atan(f/fc): four of them cancel the dry sound at fc·tan(π/8) and fc·tan(3π/8)
  it('phaser of four stages has its notches where the phases say', () => {
    const corner = Math.sqrt(200 * 2_400)
    for (const share of [Math.tan(Math.PI / 8), Math.tan((3 * Math.PI) / 8)]) {
      const hz = corner * share
      const [notch, beside] = response('modulation.phaser', { depth: 0, feedback: 0, mix: 50, stages: '4' }, [hz, hz * 1.6])
      expect(notch).toBeLessThan(-30)
      expect(beside).toBeGreaterThan(-10)
    }
  })

  it('chorus, flanger and rotary move the sound and keep its level within 6 dB', () => {
    const x = sine(440, 0.3, 2)
    for (const model of ['modulation.chorus', 'modulation.flanger', 'modulation.rotary', 'modulation.vibe', 'delay.doubler']) {
      const { left, right } = run(model, {}, x)
      expect(Math.abs(db(rms(left) / rms(x)))).toBeLessThan(6)
      // a vibe is one lamp: both sides swing together until they are spread
      const apart = peak(left.map((y, n) => y - right[n]))
      if (model === 'modulation.vibe') expect(apart).toBe(0)
      else expect(apart).toBeGreaterThan(0.01)
    }
  })
})

describe('pitch', () => {
  it.each([
    ['pitch.octave-down', {}, 220],
    ['pitch.octave-up', {}, 880],
    ['pitch.interval', { interval: 7, fine: 0 }, 440 * Math.pow(2, 7 / 12)],
    // common practice: a half-step is 100 cents
    ['pitch.interval', { interval: 0, fine: -100 }, 440 * Math.pow(2, -1 / 12)],
    ['pitch.detune', { cents: 50 }, 440 * Math.pow(2, -50 / 1200)],
  ] as const)('%s %o brings 440 Hz to %s Hz', (model, params, hz) => {
    const { left } = run(model, { ...params, mix: 100, tone: 20_000 }, sine(440, 0.3, 2))
    expect(Math.abs(1200 * Math.log2(strongest(left) / hz))).toBeLessThan(8)
    expect(Math.abs(db(rms(left.slice(rate)) / (0.3 * Math.SQRT1_2)))).toBeLessThan(1.5)
  })

  // what was measured before: every pluck doubled, 12 to 42 ms late
  it.each([
    ['pitch.octave-up', {}],
    ['pitch.interval', { interval: 7 }],
    ['pitch.octave-down', {}],
  ] as const)('%s plays every attack once, within 4 ms', (model, params) => {
    const x = new Float32Array(4 * rate)
    const at = (k: number) => 4_800 + k * (rate / 4)
    for (let k = 0; k < 14; k++) {
      const hz = 110 * Math.pow(2, ((k * 5) % 24) / 12)
      for (let n = 0; n < 0.22 * rate; n++) {
        const t = n / rate
        const tone = [1, 2, 3, 4, 5].reduce((sum, h) => sum + Math.sin(2 * Math.PI * hz * h * t) / h, 0)
        x[at(k) + n] = 0.4 * Math.exp(-4 * t) * tone + (n < 96 ? 0.4 * Math.sin(1.3 * n) * (1 - n / 96) : 0)
      }
    }
    const { left } = run(model, { ...params, mix: 100, tone: 20_000 }, x)
    for (let k = 0; k < 14; k++) {
      // the pick's click by its steepness, in milliseconds
      const click = Array.from({ length: 60 }, (_, i) => {
        let most = 0
        for (let n = at(k) + i * 48; n < at(k) + (i + 1) * 48; n++) most = Math.max(most, Math.abs(left[n] - 2 * left[n - 1] + left[n - 2]))
        return most
      })
      const top = Math.max(...click)
      const first = click.findIndex((c) => c > 0.5 * top)
      expect(first).toBeLessThanOrEqual(4)
      expect(click.slice(first + 6).filter((c) => c > 0.5 * top)).toHaveLength(0)
    }
  })
})

describe('delays', () => {
  const loudest = (x: Float32Array, from: number, to: number) => {
    let at = from
    for (let n = from; n < to; n++) if (Math.abs(x[n]) > Math.abs(x[at])) at = n
    return at
  }
  const open = { note: 'free', lowCut: 20, highCut: 20_000, mix: 100 }

  it('ping-pong sounds left, then right, then left', () => {
    const { left, right } = run('delay.ping-pong', { ...open, time: 200, feedback: 50, width: 100 }, impulse(rate))
    const share = (k: number) => {
      const at = 100 + k * 9600
      const energy = (x: Float32Array) => x.slice(at - 40, at + 40).reduce((s, y) => s + y * y, 0)
      return energy(left) / (energy(left) + energy(right))
    }
    expect(share(1)).toBeGreaterThan(0.99)
    expect(share(2)).toBeLessThan(0.01)
    expect(share(3)).toBeGreaterThan(0.99)
  })

  it('dual keeps two times, feedbacks and places apart', () => {
    const both = { note1: 'free', note2: 'free', time1: 300, time2: 170, pan1: -100, pan2: 100, feedback1: 0, feedback2: 50, mix: 100 }
    const { left, right } = run('delay.dual', both, impulse(rate))
    expect(Math.abs(loudest(left, 200, rate) - (100 + 14_400))).toBeLessThan(3)
    expect(Math.abs(loudest(right, 200, rate) - (100 + 8_160))).toBeLessThan(3)
    expect(peak(right.slice(100 + 16_320 - 60, 100 + 16_320 + 60))).toBeGreaterThan(0.05)
    expect(peak(left.slice(100 + 28_800 - 60, 100 + 28_800 + 60))).toBeLessThan(0.01)
  })

  it('tape stays bounded with more than 100 % feedback, and glides to a new time', () => {
    const { left } = run('delay.tape', { ...open, time: 120, feedback: 110, headroom: 0 }, sine(220, 0.5, 6))
    expect(peak(left)).toBeLessThan(4)
    expect(left.every(Number.isFinite)).toBe(true)
  })

  it('bucket-brigade repeats are darker the longer the time', () => {
    const brightness = (time: number) => {
      const { left } = run('delay.bucket', { note: 'free', time, feedback: 0, mix: 100 }, impulse(rate))
      const energy = left.reduce((s, y) => s + y * y, 0)
      return left.reduce((s, y, n) => s + (y - (left[n - 1] ?? 0)) ** 2, 0) / energy
    }
    expect(brightness(700)).toBeLessThan(brightness(100) / 2)
  })

  it('reverse plays a piece backwards', () => {
    const frames = Math.round(0.4 * rate)
    const x = new Float32Array(frames * 3)
    x[Math.round(0.3 * rate)] = 1
    const { left } = run('delay.reverse', { note: 'free', time: 400, feedback: 0, tone: 20_000, mix: 100 }, x)
    // written 100 ms before the piece's end, heard 100 ms after it
    expect(Math.abs(loudest(left, 0, left.length) - (frames + Math.round(0.1 * rate)))).toBeLessThan(3)
  })

  it('ducking lowers the repeats while the player plays', () => {
    const { left: plain } = run('delay.tape', { ...open, time: 100, feedback: 0, ducking: 0 }, sine(220, 0.3, 2))
    const { left: ducked } = run('delay.tape', { ...open, time: 100, feedback: 0, ducking: 12 }, sine(220, 0.3, 2))
    expect(db(rms(ducked.slice(rate)) / rms(plain.slice(rate)))).toBeCloseTo(-12, 0)
  })
})

describe('reverbs', () => {
  /** Seconds until −60 dB of the band 500 Hz–2 kHz, from the −5 … −35 dB slope (Schroeder, JASA 1965; ISO 3382). */
  const rt60 = (model: string, params: ParamMap, low = 500, high = 2_000) => {
    const frames = Math.round(rate * (Number(params.decay) * 1.3 + 0.3))
    const wet = run(model, { preDelay: 0, lowCut: 20, highCut: 20_000, mix: 100, ...params }, impulse(frames))
    const { left, right } = run('eq.parametric', { lowCut: low, lowSlope: '24', highCut: high, highSlope: '24' }, wet)
    const integral = new Float32Array(frames + 1)
    for (let n = frames - 1; n >= 0; n--) integral[n] = integral[n + 1] + left[n] ** 2 + right[n] ** 2
    const at = (level: number) => integral.findIndex((e) => 10 * Math.log10(e / integral[0]) < level) / rate
    return 2 * (at(-35) - at(-5))
  }
  it.each([
    ['reverb.plate', [0.6, 2, 6]],
    ['reverb.hall', [0.6, 2, 6]],
    ['reverb.room', [0.6, 2]],
    ['reverb.ambience', [0.6]],
    ['reverb.spring', [0.6, 2, 5]],
  ])('%s decays 60 dB in what it says, within 7 %', (model, decays) => {
    for (const decay of decays) {
      const ratio = rt60(model, { decay }) / decay
      expect(ratio).toBeGreaterThan(0.93)
      expect(ratio).toBeLessThan(1.07)
    }
  })

  it.each(['reverb.hall', 'reverb.plate'])('%s lets lows die faster or slower below its crossover', (model) => {
    const lows = (lowDecay: number) => rt60(model, { decay: 2, crossover: 400, lowDecay }, 80, 160)
    expect(lows(50)).toBeLessThan(0.75 * lows(100))
    expect(lows(180)).toBeGreaterThan(1.25 * lows(100))
  })

  it('modulation makes the tail wander in pitch', () => {
    const tail = (modulation: number) => {
      const { left } = run('reverb.hall', { decay: 8, modulation, mix: 100 }, sine(1_000, 0.3, 3))
      // energy beside the tone, 2 to 8 Hz off
      const size = 2 * rate
      const at = (hz: number) => {
        let re = 0
        let im = 0
        for (let n = 0; n < size; n++) {
          const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size)
          re += w * left[rate + n] * Math.cos((2 * Math.PI * hz * n) / rate)
          im += w * left[rate + n] * Math.sin((2 * Math.PI * hz * n) / rate)
        }
        return Math.hypot(re, im)
      }
      return at(1_003) / at(1_000)
    }
    expect(tail(100)).toBeGreaterThan(20 * tail(0))
  })
})

describe('equalisers', () => {
  // Audio EQ Cookbook: a bell has its gain at its centre
  it('graphic bands have their gain at their centres, and a flat one is not there', () => {
    expect(response('eq.graphic-7', { g800: 9 }, [800])[0]).toBeCloseTo(9, 1)
    expect(response('eq.graphic-10', { g4000: -12 }, [4_000])[0]).toBeCloseTo(-12, 1)
    const x = sine(500, 0.3, 0.1)
    expect(run('eq.graphic-10', {}, x).left.every((y, n) => Math.abs(y - x[n]) < 1e-7)).toBe(true)
  })

  it('tilt turns about its pivot', () => {
    const [low, pivot, high] = response('eq.tilt', { tilt: 6, pivot: 800 }, [25, 800, 18_000])
    expect(low).toBeCloseTo(-6, 0)
    expect(pivot).toBeCloseTo(0, 1)
    expect(high).toBeCloseTo(6, 0)
  })
})

describe('utilities', () => {
  it('pan, width, polarity and delay do just that', () => {
    const x = sine(300, 0.5, 0.2)
    const right = run('utility.pan', { pan: 100 }, x)
    expect([peak(right.left), peak(right.right)]).toEqual([0, Math.fround(peak(x))])
    const apart: Sound = { left: x, right: x.map((y) => -y), stereo: true }
    expect(peak(run('utility.width', { width: 0 }, apart).left)).toBeLessThan(1e-12)
    expect(peak(run('utility.width', { width: 200 }, apart).left) / peak(x)).toBeCloseTo(2, 6)
    expect(run('utility.polarity', { polarity: 'inverted' }, x).left.every((y, n) => Math.abs(y + x[n]) < 1e-7)).toBe(true)
    expect(run('utility.delay', { delay: 10 }, impulse(2_000)).left.findIndex((y) => y > 0.5)).toBe(580)
    expect(run('utility.loop', { trip: 5, mix: 100 }, impulse(2_000)).left.findIndex((y) => y > 0.5)).toBe(340)
  })

  it('clipper holds its ceiling and passes what lies far below', () => {
    const { left } = run('utility.clipper', { ceiling: -12, knee: 100 }, sine(200, 0.9, 0.3))
    expect(db(peak(left.slice(4_800)))).toBeLessThan(-11)
    expect(db(rms(run('utility.clipper', { ceiling: 0 }, sine(200, 0.001, 0.3)).left.slice(4_800)) / 0.001) + 3.01).toBeCloseTo(0, 1)
  })
})

describe('drives', () => {
  it('clean boost is plain gain', () => {
    const x = sine(440, 0.1, 0.1)
    const { left } = run('drive.clean-boost', { boost: 12, bright: 'off' }, x)
    left.forEach((y, n) => expect(Math.abs(y - x[n] * Math.pow(10, 12 / 20))).toBeLessThan(1e-7))
  })

  it('a symmetric clip makes odd harmonics, an asymmetric one even ones too', () => {
    const second = (model: string, params: ParamMap) => {
      const [one, two, three] = partials(run(model, params, sine(220, 0.2, 1)).left, [220, 440, 660])
      return { even: db(two / one), odd: db(three / one) }
    }
    expect(second('drive.open', { gain: 8 }).even).toBeLessThan(-70)
    expect(second('drive.open', { gain: 8 }).odd).toBeGreaterThan(-30)
    expect(second('drive.round-fuzz', { fuzz: 7, starve: 5 }).even).toBeGreaterThan(-30)
    expect(second('drive.treble-booster', { boost: 8 }).even).toBeGreaterThan(-40)
  })

  it('octave fuzz doubles the frequency, and leaves some of the note', () => {
    const [one, two] = partials(run('drive.octave-fuzz', { fuzz: 5, octave: 100 }, sine(440, 0.2, 1)).left, [440, 880])
    expect(db(two / one)).toBeGreaterThan(4)
    expect(db(two / one)).toBeLessThan(25)
  })

  it('wall fuzz dips in the mids at the middle of its tone', () => {
    const tone = (hz: number) => response('drive.wall-fuzz', { sustain: 0, tone: 5 }, [hz])[0]
    expect(tone(900)).toBeLessThan(tone(250) - 2)
    expect(tone(900)).toBeLessThan(tone(2_600) - 1)
  })
})

describe('direct current', () => {
  const driven = catalogue.filter((m) => m.charts.includes('feel') && m.family !== 'amp')
  it.each(driven.map((m) => m.id))('%s leaves none', (id) => {
    const { left } = run(id, {}, sine(200, 0.3, 1))
    const mean = left.slice(rate / 2).reduce((s, y) => s + y, 0) / (rate / 2)
    expect(Math.abs(mean)).toBeLessThan(2e-3 * peak(left))
  })
})

describe('feel', () => {
  // y = x − x³/2 + … of x/√(1+x²): the third harmonic of amplitude a is a³/8, so THD is a²/8 for small a
  it('measures the distortion that the clip’s series says', () => {
    const feel = stageFeel(createStage('x', 'utility.clipper', { ceiling: -12, knee: 0, mix: 100 }), context, rate)
    const at = feel.inputDb.indexOf(-24)
    const a = Math.pow(10, -12 / 20)
    expect(feel.thd[at]).toBeCloseTo((100 * a * a) / 8, 1)
  })

  it('puts the edge of breakup where the distortion passes 1, 3 and 10 %', () => {
    const { edges } = stageFeel(createStage('x', 'utility.clipper', { ceiling: -20, knee: 0, mix: 100 }), context, rate)
    // THD a²/8: 1 % at a = 0.283, −11 dB under the ceiling
    expect(edges[0].inputDb).toBeCloseTo(-31, 0)
    expect(edges[1].inputDb ?? 0).toBeGreaterThan(edges[0].inputDb ?? 0)
    expect(edges[2].inputDb ?? 0).toBeGreaterThan(edges[1].inputDb ?? 0)
  })

  // common practice: from 20 W to 2 W the power stage breaks up 10 dB earlier
  it('moves an amp’s breakup by its power', () => {
    const edge = (power: number) =>
      stageFeel(createStage('x', 'amp.pier', { gain: 4, master: 9, sag: 0, power }), context, rate).edges[2].inputDb ?? 0
    expect(edge(0) - edge(10)).toBeGreaterThan(5)
    expect(edge(0) - edge(10)).toBeLessThan(11)
  })

  it('orders the amps from clean to high gain', () => {
    const edge = (model: string, params: ParamMap = {}) =>
      stageFeel(createStage('x', model, { gain: 5, ...params }), context, rate).edges[1].inputDb ?? 0
    const order = [
      edge('amp.pier'),
      edge('amp.bellbuoy'),
      edge('amp.breakwater'),
      edge('amp.riptide'),
      edge('amp.ironwork', { channel: 'lead' }),
    ]
    expect([...order].sort((a, b) => b - a)).toEqual(order)
  })
})

describe('amps', () => {
  const amps = catalogue.filter((m) => m.family === 'amp')
  it('are at least nine, each with a response of its own', () => {
    expect(amps.length).toBeGreaterThanOrEqual(9)
    const hz = [80, 160, 320, 640, 1_280, 2_560, 5_120]
    const shapes = amps.map((m) => {
      const levels = response(m.id, {}, hz)
      const mean = levels.reduce((a, b) => a + b) / levels.length
      return levels.map((l) => l - mean)
    })
    shapes.forEach((a, i) =>
      shapes.slice(i + 1).forEach((b) => expect(Math.max(...a.map((x, k) => Math.abs(x - b[k])))).toBeGreaterThan(1.5)),
    )
  })

  it.each(amps.map((m) => m.id))('%s: every knob changes the sound, no direct current, off is the input', (id) => {
    const x = sine(196, 0.15, 0.5).map((y, n) => y + 0.08 * Math.sin((2 * Math.PI * 3_300 * n) / rate))
    const { params } = modelOf(id)
    for (const [key, spec] of Object.entries(params)) {
      const ends = spec.kind === 'number' ? [spec.min, spec.max] : spec.options.slice(0, 2).map((o) => o.value)
      // a supply gives way only under load
      const set = key === 'sag' ? { gain: 9, ...('master' in params ? { master: 9 } : {}) } : { gain: 4 }
      const [a, b] = ends.map((value) => run(id, { ...set, [key]: value }, x).left.slice(rate / 4))
      expect([key, peak(a.map((y, n) => y - b[n])) / (peak(a) + peak(b)) > 0.002]).toEqual([key, true])
    }
    const { left } = run(id, { gain: 8 }, x)
    expect(Math.abs(left.slice(rate / 4).reduce((s, y) => s + y, 0)) / (rate / 4)).toBeLessThan(1e-3)
  })
})
