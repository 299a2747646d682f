import { describe, expect, it } from 'vitest'
import { catalogue, type StageModel } from '@fulgor/core/catalogue'
import { worstAliasDb } from '@fulgor/core/render'
import { CHUNK, createBlock } from '../base/block'
import { Machine } from '../kernel/machine'
import { Clipping, type Quality } from './clipping'
import { Oversampler4, SoftClip } from './plainClipping'

describe('clipping kernel', () => {
  it('agrees with its plain TypeScript form within −110 dB', () => {
    const machine = new Machine()
    const kernel = new Clipping('live', 48_000, machine)
    const block = createBlock(machine)
    const stage = kernel.stage({ bias: 0.2 })
    const plain = new Oversampler4(CHUNK)
    const clip = new SoftClip()
    let worst = 0
    let peak = 0
    for (let chunk = 0; chunk < 200; chunk++) {
      const a = block.left
      for (let i = 0; i < CHUNK; i++) a[i] = Math.sin((chunk * CHUNK + i) * 0.13) * 2
      const b = Float64Array.from(a)
      stage.put('gain', 3)
      stage.put('gainStep', 0.01)
      kernel.process(block.leftAt)
      plain.raise(b, CHUNK)
      clip.process(plain.data, 4 * CHUNK, 3, 0.01, 0, 0.2)
      plain.lower(b, CHUNK)
      for (let i = 0; i < CHUNK; i++) {
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
    let last = 0
    x.forEach((now, n) => {
      const before = n === 0 ? 0 : x[n - 1]
      const clipped = (F(now) - F(before)) / (now - before)
      expect(data[n]).toBeCloseTo(1.20710678 * clipped - 0.20710678 * last, 7)
      last = clipped
    })
  })

  // Parker, Zavalishin, Le Bivic, DAFx-16: what the form gives is the mean of the clip between two samples, here as a fine sum
  it.each([0.3, 1])('is the mean of the clip between two samples however far it is driven, hardness %s', (hardness) => {
    const kernel = new Clipping('live', 48_000)
    const gain = 300
    kernel.stage({ gain, hardness, bias: 0.1 })
    const curve = (x: number) => (1 - hardness) * (x / Math.sqrt(1 + x * x)) + hardness * Math.max(-1, Math.min(1, x))
    const mean = (from: number, to: number) => {
      const parts = 20_000
      let sum = 0
      for (let k = 0; k < parts; k++) sum += curve(from + ((k + 0.5) / parts) * (to - from))
      return sum / parts
    }
    const raised = Float64Array.from({ length: 16 }, (_, n) => [0, 1e-5, 0.003, 0.0033, 0.0033, -0.5, -0.50001, 0.002][n % 8])
    kernel.data.set(raised)
    kernel.run(4)
    let last = 0
    raised.forEach((now, n) => {
      const clipped = mean(gain * (n === 0 ? 0 : raised[n - 1]) + 0.1, gain * now + 0.1) - curve(0.1)
      expect(Math.abs(kernel.data[n] - (1.20710678 * clipped - 0.20710678 * last))).toBeLessThan(1e-5)
      last = clipped
    })
  })

  it.each(['live', 'high', 'highest'] as const)('passes the audio band through a trip up and down, %s', (quality) => {
    const machine = new Machine()
    const kernel = new Clipping(quality, 48_000, machine)
    const block = createBlock(machine)
    for (const hz of [100, 5_000, 18_000]) {
      let power = 0
      for (let chunk = 0; chunk < 150; chunk++) {
        for (let i = 0; i < CHUNK; i++) block.left[i] = Math.sin((2 * Math.PI * hz * (chunk * CHUNK + i)) / 48_000)
        kernel.process(block.leftAt)
        if (chunk >= 50) for (const y of block.left) power += y * y
      }
      expect(10 * Math.log10((2 * power) / 6400)).toBeCloseTo(0, 1)
    }
  })

  it.each(['live', 'high', 'highest'] as const)('tells its delay within half a frame, %s', (quality) => {
    const machine = new Machine()
    const kernel = new Clipping(quality, 48_000, machine)
    const block = createBlock(machine)
    const w = (2 * Math.PI * 1000) / 48_000
    let re = 0
    let im = 0
    for (let n = 0; n < 9600; n += CHUNK) {
      for (let i = 0; i < CHUNK; i++) block.left[i] = Math.sin(w * (n + i))
      kernel.process(block.leftAt)
      if (n >= 4800)
        block.left.forEach((y, i) => {
          re += y * Math.sin(w * (n + i))
          im += y * Math.cos(w * (n + i))
        })
    }
    expect(Math.abs(-Math.atan2(im, re) / w - Clipping.latency(quality))).toBeLessThan(0.5)
  })
})

/** Operations by their difference equations in f64, a sample at a time; the definitions stand with the operations. */
const onePole = (c: number) => {
  let state = 0
  return (x: number) => (state += c * (x - state))
}
const coupled = (high: number, low: number, out: number) => {
  const [lows, tops] = [onePole(high), onePole(low)]
  return (x: number) => out * tops(high === 0 ? x : x - lows(x))
}
const softly = (bias = 0) => {
  let [before, last] = [bias, 0]
  return (v: number) => {
    const x = v + bias
    const c = (x + before) / (Math.hypot(1, x) + Math.hypot(1, before)) - bias / Math.hypot(1, bias)
    const y = 1.20710678 * c - 0.20710678 * last
    before = x
    last = c
    return y
  }
}
const operations: Record<string, (clipping: Clipping) => (x: number, n: number) => number> = {
  'stage with coupling and Miller capacitance': (clipping) => {
    clipping.stage({ gain: 4, bias: 0.2, couplingHz: 30, millerHz: 9_000, out: 0.7 })
    const [clip, couple] = [softly(0.2), coupled(clipping.pole(30), clipping.pole(9_000), 0.7)]
    return (x) => couple(clip(4 * x))
  },
  'poles behind a gliding gain': (clipping) => {
    const op = clipping.poles(720, 7_000)
    op.put('gain', 0.5)
    op.put('gainStep', 0.001)
    const couple = coupled(clipping.pole(720), clipping.pole(7_000), 1)
    return (x, n) => couple(x * (0.5 + 0.001 * n))
  },
  'a high-pass alone': (clipping) => {
    clipping.poles(15, null, 2)
    return coupled(clipping.pole(15), 1, 2)
  },
  'a low-pass alone': (clipping) => {
    clipping.poles(null, 3_500, 2)
    return coupled(0, clipping.pole(3_500), 2)
  },
  shelf: (clipping) => {
    const op = clipping.shelf(2_200)
    op.put('share', -0.4)
    op.put('shareStep', 0.002)
    const low = onePole(clipping.pole(2_200))
    return (x, n) => x + (x - low(x)) * (-0.4 + 0.002 * n)
  },
  'saved, bent and blended': (clipping) => {
    clipping.save()
    clipping.poles(null, 500)
    clipping.blend(0.3, 1)
    const low = onePole(clipping.pole(500))
    return (x) => 0.3 * low(x) + x
  },
  rectify: (clipping) => {
    clipping.rectify(0.8)
    let before = 0
    return (x) => {
      // mean of |x| on the straight line between both
      const mean = x * before >= 0 ? Math.abs(x + before) / 2 : (x * x + before * before) / (2 * (Math.abs(x) + Math.abs(before)))
      const y = 0.8 * mean + 0.2 * 0.5 * (x + before)
      before = x
      return y
    }
  },
  scoop: (clipping) => {
    const op = clipping.scoop(420, 1_850)
    op.put('share', 0.3)
    op.put('shareStep', 0.001)
    const [low, high] = [onePole(clipping.pole(420)), onePole(clipping.pole(1_850))]
    return (x, n) => (1 - 0.3 - 0.001 * n) * low(x) + (0.3 + 0.001 * n) * (x - high(x))
  },
  'three modes': (clipping) => {
    const op = clipping.modes()
    const [poles, gains] = [
      [1e-4, 0.02, 1.3],
      [0.9, -0.5, 0.2],
    ]
    op.put('direct', 0.4)
    op.put('directStep', -0.001)
    op.put('pole1', poles[0])
    op.put('gain1', gains[0])
    op.put('gain1Step', 0.002)
    op.put('pole2', poles[1])
    op.put('gain2', gains[1])
    op.put('pole3', poles[2])
    op.put('gain3', gains[2])
    const states = [0, 0, 0]
    return (x, n) => {
      let y = (0.4 - 0.001 * n) * x
      states.forEach((state, k) => {
        y += (gains[k] + (k === 0 ? 0.002 * n : 0)) * state
        states[k] += poles[k] * (x - state)
      })
      return y
    }
  },
  'one mode': (clipping) => {
    const op = clipping.modes()
    op.put('pole1', 0.01)
    op.put('gain1', 2)
    let state = 0
    return (x) => {
      const y = 2 * state
      state += 0.01 * (x - state)
      return y
    }
  },
  section: (clipping) => {
    const op = clipping.section()
    const [b0, b1, b2, a1, a2] = [1.1, -1.8, 0.8, -1.85, 0.87]
    for (const [name, value] of Object.entries({ b0, b1, b2, a1, a2 })) op.put(name as 'b0', value)
    const past = [0, 0, 0, 0]
    return (x) => {
      const y = b0 * x + b1 * past[0] + b2 * past[1] - a1 * past[2] - a2 * past[3]
      past.splice(0, 4, x, past[0], y, past[2])
      return y
    }
  },
  'power stage': (clipping) => {
    const op = clipping.power({ bias: 0.1, hardness: 0, presenceHz: 3_000, lowHz: 32, highHz: 13_000, resonanceHz: 105, resonanceQ: 1.8 })
    op.put('gain', 1.5)
    op.put('supply', 0.9)
    op.put('presence', 0.7)
    op.put('resonance', 1.2)
    const [clip, top, couple] = [softly(0.1), onePole(clipping.pole(3_000)), coupled(clipping.pole(32), clipping.pole(13_000), 1)]
    const tune = 2 * Math.sin((Math.PI * 105) / (48_000 * clipping.factor))
    let [low, band] = [0, 0]
    return (x) => {
      const v = 0.9 * clip(1.5 * x)
      low += tune * band
      band += tune * (v - low - band / 1.8)
      return couple(v + 0.7 * (v - top(v)) + (1.2 * band) / 1.8)
    }
  },
}

describe('operations of the clipping program', () => {
  it.each(Object.keys(operations).flatMap((name) => (['live', 'highest'] as const).map((quality) => [name, quality] as const)))(
    'agree with their difference equations within −110 dB: %s, %s',
    (name, quality) => {
      const clipping = new Clipping(quality, 48_000)
      const plain = operations[name](clipping)
      const frames = CHUNK * clipping.factor
      let [worst, peak] = [0, 0]
      for (let chunk = 0; chunk < 60; chunk++) {
        const { data } = clipping
        const input = Float32Array.from({ length: frames }, (_, i) => {
          const t = (chunk * frames + i) / clipping.factor
          return 1.2 * Math.sin(0.011 * t) + 0.4 * Math.sin(0.7 * t) + (chunk < 20 ? 0.1 : 0)
        })
        data.set(input)
        clipping.run(CHUNK)
        input.forEach((x, n) => {
          const y = plain(x, n)
          worst = Math.max(worst, Math.abs(data[n] - y))
          peak = Math.max(peak, Math.abs(y))
        })
      }
      expect(20 * Math.log10(worst / peak)).toBeLessThan(-110)
    },
  )

  it('gathers magnitudes of a stage that is listened to', () => {
    const clipping = new Clipping('live', 48_000)
    const [stage, deaf] = [clipping.stage({}), clipping.stage({})]
    stage.put('listened', 1)
    clipping.data.fill(0.5)
    clipping.run(CHUNK)
    // a constant passes the soft clip as x/√(1+x²), but for the first sample
    expect(stage.read('driven') / (4 * CHUNK)).toBeCloseTo(0.5 / Math.sqrt(1.25), 2)
    expect(deaf.read('driven')).toBe(0)
  })

  // first-order rise and fall on the control grid (Pakarinen & Yeh, CMJ 2009: the capacitor charges fast and comes back slowly)
  it.each([0.2, -0.3, 0])('moves the bias of a driven stage that rests at %s', (rest) => {
    const clipping = new Clipping('live', 48_000)
    const stage = clipping.stage({ gain: 2, bias: rest, blocking: { most: 0.4, from: 0.45, even: 0.008, rise: 0.006, fall: 0.07 } })
    const share = (seconds: number) => 1 - Math.exp(-CHUNK / (48_000 * seconds))
    let [mean, charge] = [0, 0]
    for (let chunk = 0; chunk < 300; chunk++) {
      const driven = stage.read('driven') / (4 * CHUNK)
      // loud for half of the time
      clipping.data.fill(chunk < 150 ? 3 : 0.1)
      clipping.run(CHUNK)
      mean += (driven - mean) * share(0.008)
      const wanted = Math.max(0, (mean - 0.45) / 0.55)
      const before = charge
      charge += (wanted - charge) * share(wanted > charge ? 0.006 : 0.07)
      const sign = rest < 0 ? -1 : 1
      expect(stage.read('bias')).toBeCloseTo(rest + sign * 0.4 * before, 12)
      expect(stage.read('biasStep') * 4 * CHUNK).toBeCloseTo(sign * 0.4 * (charge - before), 12)
      if (chunk === 140) expect(Math.abs(stage.read('bias') - rest)).toBeGreaterThan(0.1)
    }
    expect(Math.abs(stage.read('bias') - rest)).toBeLessThan(0.1)
  })

  it('lets a power stage’s supply drop with what it draws, and its feedback give way', () => {
    const clipping = new Clipping('live', 48_000)
    const supply = clipping.supply({ fall: 0.01, recover: 0.08, feedback: 0.6, topDb: 5, resonanceDb: 4 })
    const power = clipping.power({
      bias: 0.05,
      hardness: 0,
      presenceHz: 3_000,
      lowHz: 40,
      highHz: 12_000,
      resonanceHz: 105,
      resonanceQ: 1.8,
    })
    const given = { sag: 0.5, output: 0.12, outputNext: 0.11, presence: 2, depth: 3 } as const
    for (const [name, value] of Object.entries(given)) supply.put(name as keyof typeof given, value)
    power.put('gain', 2)
    const share = (seconds: number) => 1 - Math.exp(-CHUNK / (48_000 * seconds))
    const gainOver = (db: number) => Math.pow(10, db / 20) - 1
    let [drop, lost] = [0, 0]
    let last: { lift: number; boom: number } | null = null
    for (let chunk = 0; chunk < 300; chunk++) {
      const load = Math.sqrt(power.read('drawn') / (4 * CHUNK))
      const { data } = clipping
      for (let i = 0; i < data.length; i++) data[i] = (chunk < 150 ? 1.5 : 0.02) * Math.sin((chunk * data.length + i) * 0.02)
      clipping.run(CHUNK)
      drop += (load - drop) * share(load > drop ? 0.01 : 0.08)
      const next = 0.5 * Math.min(1, drop)
      expect(power.read('supply')).toBeCloseTo(0.12 * (1 - lost), 12)
      expect(power.read('supply') + 4 * CHUNK * power.read('supplyStep')).toBeCloseTo(0.11 * (1 - next), 12)
      lost = next
      const open = 1 - 0.6 * Math.max(0, 1 - 1.6 * Math.max(0, drop - 0.4))
      const [lift, boom] = [gainOver(open * 5 + 2), gainOver(open * 4 + 3)]
      // the first chunk begins where it ends
      last ??= { lift, boom }
      expect(power.read('presence')).toBeCloseTo(last.lift, 12)
      expect(power.read('presence') + 4 * CHUNK * power.read('presenceStep')).toBeCloseTo(lift, 12)
      expect(power.read('resonance')).toBeCloseTo(last.boom, 12)
      expect(power.read('resonance') + 4 * CHUNK * power.read('resonanceStep')).toBeCloseTo(boom, 12)
      last = { lift, boom }
      if (chunk === 140) expect([drop > 0.6, open > 0.6]).toEqual([true, true])
    }
    expect(drop).toBeLessThan(0.4)
  })
})

// the limits are those of the product's design: 60 dB live, 80 dB high, below 16 kHz, for a 1,245 Hz sine at full drive
describe('aliases at full drive', () => {
  const models = catalogue.filter((m) => m.charts.includes('feel'))
  const full = (model: StageModel) =>
    Object.fromEntries(
      Object.entries(model.params).flatMap(([key, spec]) =>
        spec.kind !== 'number'
          ? []
          : key === 'ceiling'
            ? [[key, spec.min]]
            : ['gain', 'fuzz', 'sustain', 'boost', 'master'].includes(key)
              ? [[key, spec.max]]
              : [],
      ),
    )
  const limits: readonly (readonly [Quality, number])[] = [
    ['live', -60],
    ['high', -80],
  ]
  it.each(models.map((m) => m.id))('%s', (id) => {
    const model = models.find((m) => m.id === id)
    if (!model) throw new Error(id)
    for (const [quality, limit] of limits) {
      const context = { quality, responses: () => [1] }
      expect(
        worstAliasDb(id, { ...full(model), ...('sag' in model.params ? { sag: 0 } : {}) }, 1_244.5, 0.2, context, 48_000),
      ).toBeLessThan(limit)
    }
  })
})
