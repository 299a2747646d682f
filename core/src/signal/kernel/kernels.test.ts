import { describe, expect, it } from 'vitest'
import { CHUNK, createBlock } from '../base/block'
import { Lfo } from '../base/lfo'
import { Ring } from '../base/ring'
import { LoopClip } from '../clipping/plainLoopClip'
import { Delay, type DelayParams } from '../delays/delay'
import { Echo, type EchoSettings } from '../delays/echo'
import { Compressor, staticCurve, type CompressorSettings, type Detector } from '../dynamics/compressor'
import { Gate, type GateParams } from '../dynamics/gate'
import { EnvelopeFilter, Wah } from '../filters/filters'
import { ModulatedDelay, type ModulatedDelayParams } from '../modulation/modulatedDelay'
import { PHASER, PhaseShifter } from '../modulation/phaseShifter'
import { Rotary } from '../modulation/rotary'
import { PlateTank } from '../reverbs/plateTank'
import { Placing } from '../routing/placing'
import { Machine } from './machine'

// each kernel against its difference equations in f64, a sample at a time

const rate = 48_000
const input = (n: number): number => 0.5 * Math.sin(0.02 * n) + 0.2 * Math.sin(0.9 * n) + (n % 4_000 < 40 ? 0.3 : 0)

/** dB of the largest difference over the largest value. */
function differenceDb(got: readonly number[], wanted: readonly number[]): number {
  let [worst, peak] = [0, 0]
  got.forEach((y, n) => {
    worst = Math.max(worst, Math.abs(y - wanted[n]))
    peak = Math.max(peak, Math.abs(wanted[n]))
  })
  return 20 * Math.log10(worst / peak)
}

describe('delay', () => {
  const start: DelayParams = { time: 500, feedback: 60, tone: 4_000, mix: 40 }
  // 1 ms is shorter than a chunk; 25 ms fills several
  it.each([1, 1.34, 25, 333.3])('of %s ms is a line with a low-pass in its loop', (time) => {
    const machine = new Machine()
    const delay = new Delay()
    delay.prepare(rate, machine)
    delay.set({ ...start, time }, true)
    const block = createBlock(machine)
    const [heard, heardRight]: number[][] = [[], []]
    for (let chunk = 0; chunk < 500; chunk++) {
      block.stereo = true
      for (let i = 0; i < CHUNK; i++) {
        block.left[i] = input(chunk * CHUNK + i)
        block.right[i] = -block.left[i]
      }
      delay.tick()
      delay.process(block)
      heard.push(...block.left)
      heardRight.push(...block.right)
    }
    const frames = Math.round((time / 1000) * rate)
    const c = 1 - Math.exp((-2 * Math.PI * start.tone) / rate)
    // as every mix: both whole in the middle
    const [dry, wet] = [Math.min(1, 2 - start.mix / 50), Math.min(1, start.mix / 50)]
    const line: number[] = []
    let low = 0
    const wanted = heard.map((_, n) => {
      const x = Math.fround(input(n))
      low += c * ((line[n - frames] ?? 0) - low)
      line.push(x + 0.6 * low)
      return dry * x + wet * low
    })
    expect(differenceDb(heard, wanted)).toBeLessThan(-110)
    expect(heardRight).toEqual(heard.map((y) => -y))
    delay.reset()
    block.left.fill(0)
    delay.tick()
    delay.process(block)
    expect(block.left.every((y) => y === 0)).toBe(true)
  })
})

describe('echo', () => {
  const line = { time: 120, feedback: 45, lowCut: 90, highCut: 5_000, pan: -40, level: 0.9, rate: 0.7, swing: 1.5, diffusion: 0 }
  const plain: EchoSettings = { lines: [line], cross: 0, flutterRate: 6, flutter: 0, drive: null, ducking: 0, mix: 45 }
  const kinds: Record<string, EchoSettings> = {
    'one line that swings': plain,
    'two lines across, with flutter': {
      ...plain,
      lines: [line, { ...line, time: 77.7, feedback: 60, pan: 70, swing: 0.4 }],
      cross: 0.4,
      flutter: 0.2,
    },
    // nothing moves: taken a chunk at a time, but for what comes back within it
    'two lines across that stand still': {
      ...plain,
      lines: [
        { ...line, swing: 0 },
        { ...line, time: 77.7, feedback: 60, pan: 70, swing: 0 },
      ],
      cross: 0.4,
    },
    'one that stands still, of a whole number of frames': { ...plain, lines: [{ ...line, time: 1.5, swing: 0 }] },
    'one that stands still, too near': { ...plain, lines: [{ ...line, time: 1.2, swing: 0 }] },
    diffused: { ...plain, lines: [{ ...line, diffusion: 80 }] },
    saturated: { ...plain, lines: [line, { ...line, time: 200, pan: 10 }], drive: 14 },
  }
  it.each(Object.keys(kinds))('%s is what its equations say', (kind) => {
    const s = kinds[kind]
    const machine = new Machine()
    const echo = new Echo<EchoSettings>((p) => p)
    echo.prepare(rate, machine)
    echo.set(s, true)
    const coefficient = (hz: number) => 1 - Math.exp((-2 * Math.PI * hz) / rate)
    const fast = new Lfo()
    fast.prepare(rate, 0.31)
    fast.set(s.flutterRate, 'sine')
    const lines = s.lines.map((of, k) => {
      const lfo = new Lfo()
      lfo.prepare(rate, k / 2)
      lfo.set(of.rate, 'sine')
      const diffusers = [13.7, 21.3, 31.1, 7.9].map((ms) => ({ length: Math.round((ms / 1000) * rate), data: [] as number[] }))
      return { of, lfo, diffusers, ring: new Ring(2.1 * rate), clip: new LoopClip(), low: 0, high: 0 }
    })
    const block = createBlock(machine)
    const got: number[] = []
    const wanted: number[] = []
    for (let chunk = 0; chunk < 400; chunk++) {
      block.stereo = true
      for (let i = 0; i < CHUNK; i++) {
        block.left[i] = input(chunk * CHUNK + i)
        block.right[i] = 0.5 * block.left[i]
      }
      echo.tick()
      fast.tick()
      for (const { lfo } of lines) lfo.tick()
      for (let i = 0; i < CHUNK; i++) {
        const n = chunk * CHUNK + i
        const [l, r] = [block.left[i], block.right[i]]
        const drive = s.drive === null ? 0 : 10 ** (s.drive / 20)
        const echoes = lines.map((one) => {
          const bend =
            ((one.of.swing * rate) / 1000) * (one.lfo.value + i * one.lfo.step) + ((s.flutter * rate) / 1000) * (fast.value + i * fast.step)
          let x = one.ring.between((one.of.time * rate) / 1000 + bend - (drive > 0 ? 5 : 0))
          if (drive > 0) x = one.clip.process(x, drive)
          if (one.of.diffusion)
            for (const { length, data } of one.diffusers) {
              const delayed = data[n - length] ?? 0
              const v = x - 0.7 * (one.of.diffusion / 100) * delayed
              data.push(v)
              x = delayed + 0.7 * (one.of.diffusion / 100) * v
            }
          one.high += coefficient(one.of.highCut) * (x - one.high)
          one.low += coefficient(one.of.lowCut) * (one.high - one.low)
          return one.high - one.low
        })
        const mono = 0.5 * (l + r)
        const back = echoes.map((e, k) => (e * s.lines[k].feedback) / 100)
        lines[0].ring.push(mono + back[0] * (1 - s.cross) + (back[1] ?? 0) * s.cross)
        if (lines.length > 1) lines[1].ring.push(mono * (1 - s.cross) + back[1] * (1 - s.cross) + back[0] * s.cross)
        const [dry, wet] = [Math.min(1, 2 - s.mix / 50), Math.min(1, s.mix / 50)]
        const side = (sign: 1 | -1) =>
          echoes.reduce((sum, e, k) => sum + e * s.lines[k].level * Math.min(1, 1 + (sign * s.lines[k].pan) / 100), 0)
        wanted.push(l * dry + wet * side(-1), r * dry + wet * side(1))
      }
      echo.process(block)
      block.left.forEach((y, i) => got.push(y, block.right[i]))
    }
    expect(differenceDb(got, wanted)).toBeLessThan(-110)
    echo.reset()
    block.left.fill(0)
    block.right.fill(0)
    echo.process(block)
    expect(block.left.every((y) => y === 0)).toBe(true)
  })
})

it('a rotary is two rotors behind a crossover that each side hears turn', () => {
  const machine = new Machine()
  const rotary = new Rotary()
  rotary.prepare(rate, machine)
  rotary.set({ speed: 'fast', ramp: 1, balance: 60, depth: 80, mix: 70 }, true)
  const block = createBlock(machine)
  const got: number[] = []
  const wanted: number[] = []
  const [horn, drum] = [new Ring(400), new Ring(400)]
  const c = 1 - Math.exp((-2 * Math.PI * 800) / rate)
  const [dry, wet, depth, hornLevel, drumLevel] = [2 - 70 / 50, 1, 0.8, 1, 2 - 60 / 50]
  let [low1, low2] = [0, 0]
  for (let chunk = 0; chunk < 300; chunk++) {
    // turns a second at full speed; the drum turns the other way, and within a chunk both turn in a straight line
    const turned = (of: (x: number) => number, perSecond: number) => (i: number) => {
      const at = (n: number) => of((2 * Math.PI * perSecond * n * CHUNK) / rate)
      return at(chunk) + ((at(chunk + 1) - at(chunk)) * i) / CHUNK
    }
    const swings = [turned(Math.sin, 6.7), turned(Math.cos, 6.7), turned(Math.sin, -5.7), turned(Math.cos, -5.7)]
    block.stereo = false
    for (let i = 0; i < CHUNK; i++) {
      const x = (block.left[i] = input(chunk * CHUNK + i))
      low1 += c * (x - low1)
      low2 += c * (low1 - low2)
      horn.push(x - low2)
      drum.push(low2)
      for (const side of [0, 1]) {
        const [h, d] = [depth * swings[side](i), depth * swings[2 + side](i)]
        const ofHorn = hornLevel * (1 - 0.225 * depth + 0.225 * h) * horn.between(4 + 0.00055 * rate * (1 + h))
        const ofDrum = drumLevel * (1 - 0.15 * depth + 0.15 * d) * drum.between(4 + 0.00035 * rate * (1 + d))
        wanted.push(dry * x + wet * (ofHorn + ofDrum))
      }
    }
    rotary.tick()
    rotary.process(block)
    block.left.forEach((y, i) => got.push(y, block.right[i]))
  }
  expect(differenceDb(got, wanted)).toBeLessThan(-110)
  expect(block.stereo).toBe(true)
})

/** A value at the beginning of a chunk after it was set anew: one-pole with 12 ms on the grid of chunks. */
const glided = (from: number, to: number, chunk: number): number => to + (from - to) * Math.exp((-CHUNK * chunk) / (0.012 * rate))

/** State-variable band-pass in trapezoidal form, 0 dB at its centre. */
class PlainBand {
  private s1 = 0
  private s2 = 0

  next(x: number, g: number, k: number): number {
    const band = (this.s1 + g * (x - this.s2)) / (1 + g * (g + k))
    const low = this.s2 + g * band
    this.s1 = 2 * band - this.s1
    this.s2 = 2 * low - this.s2
    return k * band
  }
}

it('a wah is a band that sweeps, of each side and of one alone', () => {
  const machine = new Machine()
  const wah = new Wah()
  wah.prepare(rate, machine)
  const start = { position: 2, q: 4, mix: 60 }
  wah.set(start, true)
  wah.set({ ...start, position: 9 }, false)
  const block = createBlock(machine)
  const [got, wanted]: number[][] = [[], []]
  const bands = [new PlainBand(), new PlainBand()]
  // 400 to 2,200 Hz over the travel
  const g = (chunk: number) => Math.tan((Math.PI * 400 * Math.pow(5.5, glided(2, 9, Math.max(0, chunk)) / 10)) / rate)
  for (let chunk = 0; chunk < 60; chunk++) {
    // alone, then as two sides
    block.stereo = chunk > 20
    wah.tick()
    for (let i = 0; i < CHUNK; i++) {
      block.left[i] = input(chunk * CHUNK + i)
      block.right[i] = input(chunk * CHUNK + i + 700)
      const now = g(chunk - 1) + ((g(chunk) - g(chunk - 1)) * i) / CHUNK
      ;[block.left[i], block.right[i]].slice(0, block.stereo ? 2 : 1).forEach((x, side) => {
        wanted.push(0.4 * x + 2.4 * bands[side].next(x, now, 1 / 4))
      })
    }
    wah.process(block)
    block.left.forEach((y, i) => got.push(...(block.stereo ? [y, block.right[i]] : [y])))
  }
  // the glide itself ends a hundred thousandth before its aim
  expect(differenceDb(got, wanted)).toBeLessThan(-90)
  wah.reset()
  block.left.fill(0)
  block.right.fill(0)
  wah.process(block)
  expect(block.left.every((y) => y === 0) && block.right.every((y) => y === 0)).toBe(true)
})

it('an envelope filter opens for the louder side', () => {
  const opened = (left: number, right: number) => {
    const machine = new Machine()
    const filter = new EnvelopeFilter()
    filter.prepare(rate, machine)
    filter.set({ sensitivity: 20, from: 200, to: 2_000, q: 5, attack: 1, release: 100, mix: 100 }, true)
    const block = createBlock(machine)
    let power = 0
    for (let chunk = 0; chunk < 200; chunk++) {
      block.stereo = true
      for (let i = 0; i < CHUNK; i++) {
        const x = Math.sin((2 * Math.PI * 2_000 * (chunk * CHUNK + i)) / rate)
        block.left[i] = left * x
        block.right[i] = right * x
      }
      filter.tick()
      filter.process(block)
      if (chunk > 100) power += block.left.reduce((sum, y) => sum + (y / left) ** 2, 0)
    }
    return 10 * Math.log10(power)
  }
  // the same soft left side: open beside a loud right one, shut beside a soft one
  expect(opened(0.001, 0.5) - opened(0.001, 0.001)).toBeGreaterThan(15)
})

it('a placing is width about the middle and a pan whose near side keeps its level, both gliding', () => {
  const machine = new Machine()
  const placing = new Placing()
  placing.prepare(rate, machine)
  placing.set({ pan: -60, width: 40 }, true)
  placing.set({ pan: 80, width: 170, polarity: 'inverted' }, false)
  const block = createBlock(machine)
  const [got, wanted]: number[][] = [[], []]
  const gliding = (from: number, to: number) => (chunk: number, i: number) =>
    glided(from, to, chunk) + ((glided(from, to, chunk + 1) - glided(from, to, chunk)) * i) / CHUNK
  const [pan, width, sign] = [gliding(-0.6, 0.8), gliding(0.4, 1.7), gliding(1, -1)]
  for (let chunk = 0; chunk < 40; chunk++) {
    block.stereo = true
    for (let i = 0; i < CHUNK; i++) {
      const l = (block.left[i] = input(chunk * CHUNK + i))
      const r = (block.right[i] = input(chunk * CHUNK + i + 900))
      const [p, w, s] = [pan, width, sign].map((of) => of(chunk, i))
      const [middle, side] = [(l + r) / 2, (w * (l - r)) / 2]
      wanted.push(s * (middle + side) * Math.min(1, 1 - p), s * (middle - side) * Math.min(1, 1 + p))
    }
    placing.tick()
    placing.process(block)
    block.left.forEach((y, i) => got.push(y, block.right[i]))
  }
  // the glide itself ends a hundred thousandth before its aim
  expect(differenceDb(got, wanted)).toBeLessThan(-90)
})

describe('gate', () => {
  const params: GateParams = { threshold: -24, hysteresis: 6, attack: 2, hold: 20, release: 60, range: 50, key: 'own' }
  /** A tone that comes and goes. */
  const tone = (n: number) => (n % 24_000 < 9_000 ? 0.2 : 0.004) * Math.sin(0.05 * n)

  it.each(['own', 'dry'] as const)('opens, holds and closes by its rules, key %s', (key) => {
    const machine = new Machine()
    const gate = new Gate()
    gate.prepare(rate, machine)
    gate.set({ ...params, key }, true)
    const [block, side] = [createBlock(machine), createBlock(machine)]
    block.key = side.left
    block.keyAt = side.leftAt
    const got: number[] = []
    const wanted: number[] = []
    let [level, held, open, db] = [0, Infinity, false, -50]
    for (let chunk = 0; chunk < 1_000; chunk++) {
      block.stereo = true
      for (let i = 0; i < CHUNK; i++) {
        const n = chunk * CHUNK + i
        block.left[i] = 0.5 * tone(n)
        block.right[i] = tone(n)
        side.left[i] = tone(n + 5_000)
        const magnitude = Math.abs(key === 'dry' ? side.left[i] : block.right[i])
        level = magnitude > level ? magnitude : level * Math.exp(-1 / (0.01 * rate))
        if (level >= 10 ** (-24 / 20)) [open, held] = [true, 0]
        else if (level >= 10 ** (-30 / 20)) held = 0
        else if (++held > 0.02 * rate) open = false
        db = open ? Math.min(0, db + 50 / (0.002 * rate)) : Math.max(-50, db - 50 / (0.06 * rate))
        wanted.push(block.left[i] * 10 ** (db / 20))
      }
      gate.process(block)
      got.push(...block.left)
    }
    expect(differenceDb(got, wanted)).toBeLessThan(-110)
  })
})

// Jot & Chaigne, 90th AES Convention 1991: lines through a unitary matrix, each with a gain and a one-pole
describe('compressor', () => {
  const settings: CompressorSettings = { threshold: -30, ratio: 4, knee: 8, attack: 3, release: 90, makeup: 6, mix: 80 }
  const coefficient = (ms: number) => Math.exp(-1000 / (ms * rate))
  const after = (s: number) => 1 - Math.exp(-1 / (s * rate))

  // Giannoulis, Massberg, Reiss, JAES 2012: detector, soft knee and smooth branching in plain f64; times as the class splits them
  it.each(['peak', 'rms', 'optical'] as const)('follows its equations, detector %s', (detector: Detector) => {
    const machine = new Machine()
    const compressor = new Compressor<CompressorSettings>(detector, (s) => s)
    compressor.prepare(rate, machine)
    compressor.set(settings, true)
    const block = createBlock(machine)
    const [got, wanted]: number[][] = [[], []]
    const mean = detector === 'rms' ? Math.min(10, settings.attack / 3) : 0
    const hold = detector === 'rms' ? 0 : Math.min(12.5, settings.release / 2)
    const attack = coefficient(settings.attack - 0.5 * mean)
    const [release, slow] = [coefficient(settings.release - hold), coefficient(8 * settings.release)]
    let [square, held, holding, reduction, memory] = [0, 0, 0, 0, 0]
    for (let n = 0; n < 400 * CHUNK; n++) {
      const at = n % CHUNK
      if (at === 0) {
        block.stereo = true
        for (let i = 0; i < CHUNK; i++) {
          block.left[i] = input(n + i) * (n % 9_000 < 4_000 ? 1 : 0.05)
          block.right[i] = 0.5 * block.left[i]
        }
      }
      const x = block.left[at]
      const magnitude = Math.abs(x)
      let level: number
      if (detector === 'rms') {
        square += after(mean / 1000) * (magnitude * magnitude - square)
        level = 10 * Math.log10(square + 1e-12)
      } else {
        if (magnitude >= held) [held, holding] = [magnitude, Math.round((hold / 1000) * rate)]
        else if (holding > 0) holding--
        else held += after(0.004) * (magnitude - held)
        level = 20 * Math.log10(held + 1e-6)
      }
      const over = level - staticCurve(level, settings.threshold, settings.ratio, settings.knee)
      const falling = detector === 'optical' ? release + (slow - release) * Math.min(1, memory / 8) : release
      const step = over > reduction ? attack : falling
      reduction = step * reduction + (1 - step) * over
      memory += after(0.8) * (reduction - memory)
      wanted.push(x * (0.2 + 0.8 * Math.pow(10, (6 - reduction) / 20)))
      if (at < CHUNK - 1) continue
      compressor.tick()
      compressor.process(block)
      got.push(...block.left)
      expect(block.right[7]).toBeCloseTo(0.5 * block.left[7], 7)
    }
    expect(differenceDb(got, wanted)).toBeLessThan(-110)
    expect(compressor.reduction).toBeCloseTo(reduction, 6)
  })
})

it('feedback delay network: diffusers, lines, damping and an eight by eight Hadamard matrix', () => {
  const machine = new Machine()
  const { kernel } = machine
  const [lineSize, diffuserSize] = [512, 256]
  const network = machine.make(() => kernel.networkCreate(lineSize, diffuserSize))
  const at = kernel.networkSettingsAt(network)
  const lengths = [67, 83, 97, 131, 151, 211, 307, 401, 70, 89, 113, 180]
  const [gains, poles, below] = [0, 1, 2].map((k) =>
    Array.from({ length: 8 }, (_, n) => [0.5 + 0.04 * n, 0.1 + 0.03 * n, 0.05 - 0.01 * n][k]),
  )
  new Int32Array(kernel.memory.buffer, at, 12).set(lengths)
  new Float32Array(kernel.memory.buffer, at + 48, 28).set([0.6, 0.03, 0, 0, ...gains, ...poles, ...below])
  const [feed, tail] = [createBlock(machine), createBlock(machine)]
  const got: number[] = []
  const wanted: number[] = []
  const lines = Array.from({ length: 12 }, () => [] as number[])
  const [states, lows] = [new Array<number>(8).fill(0), new Array<number>(8).fill(0)]
  const sign = (i: number, j: number): number => ([0, 1, 2].filter((bit) => ((i & j) >> bit) & 1).length % 2 ? -1 : 1)
  const into = [1, 1, -1, -1, 1, -1, -1, 1]
  for (let chunk = 0; chunk < 150; chunk++) {
    for (let i = 0; i < CHUNK; i++) {
      const n = chunk * CHUNK + i
      feed.left[i] = chunk < 40 ? input(n) : 0
      let x = feed.left[i]
      for (let d = 8; d < 12; d++) {
        const delayed = lines[d][n - lengths[d]] ?? 0
        const v = x - 0.6 * delayed
        lines[d].push(v)
        x = delayed + 0.6 * v
      }
      for (let k = 0; k < 8; k++) {
        const out = lines[k][n - lengths[k]] ?? 0
        lows[k] += 0.03 * (out - lows[k])
        states[k] = poles[k] * states[k] + gains[k] * out + below[k] * lows[k]
      }
      for (let k = 0; k < 8; k++) lines[k].push(into[k] * x + states.reduce((sum, s, j) => sum + sign(k, j) * s, 0) / Math.sqrt(8))
      wanted.push(0.7 * (states[0] + states[4] - states[2] - states[6]), 0.7 * (states[1] + states[5] - states[3] - states[7]))
    }
    kernel.networkProcess(network, feed.leftAt, tail.leftAt, tail.rightAt, 0.7)
    tail.left.forEach((y, i) => got.push(y, tail.right[i]))
  }
  expect(differenceDb(got, wanted)).toBeLessThan(-110)
})

describe('modulation', () => {
  // Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2: a line whose length swings, read between the frames, fed back and mixed
  it.each([
    ['a chorus with a tone', { feedback: 0, tone: 3_000, spread: 70 }],
    ['a flanger, fed back with another sign', { feedback: -60, spread: 0 }],
    ['the dimension form', { feedback: 10, dimension: true, spread: 100 }],
  ])('%s is a line a side that swings', (_, own) => {
    const machine = new Machine()
    const delay = new ModulatedDelay()
    const p: ModulatedDelayParams = { rate: 1.7, depth: 2, delay: 7, mix: 40, ...own }
    delay.prepare(rate, machine)
    delay.set(p, true)
    const block = createBlock(machine)
    const frames = (ms: number) => (ms / 1000) * rate
    const lines = [new Ring(frames(60)), new Ring(frames(60))]
    const low = 1 - Math.exp((-2 * Math.PI * (p.tone ?? 0)) / rate)
    const states = [0, 0]
    const [got, wanted]: [number[], number[]] = [[], []]
    for (let chunk = 0; chunk < 300; chunk++) {
      const along = (offset: number, i: number) => {
        const at = (k: number) => Math.sin(2 * Math.PI * (offset + (p.rate * k * CHUNK) / rate))
        return at(chunk) + (i / CHUNK) * (at(chunk + 1) - at(chunk))
      }
      block.stereo = true
      for (let i = 0; i < CHUNK; i++) {
        const n = chunk * CHUNK + i
        const x = [input(n), input(n + 1_000)]
        block.left[i] = x[0]
        block.right[i] = x[1]
        const [sine, cosine] = [along(0, i), along(0.25, i)]
        const apart = p.spread / 100
        const swings = [sine, p.dimension ? -sine : (1 - apart) * sine + apart * cosine]
        const copies = lines.map((line, side) => {
          const echo = line.between(frames(p.delay) + frames(p.depth) * swings[side])
          line.push(x[side] + (echo * p.feedback) / 100)
          if (p.tone === undefined) return echo
          states[side] += low * (echo - states[side])
          return states[side]
        })
        // at a mix of 40 % the dry signal is whole
        const across = p.dimension ? 0.35 : 0
        wanted.push(x[0] + 0.8 * (copies[0] - across * copies[1]), x[1] + 0.8 * (copies[1] - across * copies[0]))
      }
      delay.tick()
      delay.process(block)
      block.left.forEach((y, i) => got.push(y, block.right[i]))
    }
    expect(differenceDb(got, wanted)).toBeLessThan(-110)
  })

  // Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2: (a + z⁻¹) / (1 + a·z⁻¹) in a row, a = (tan(π·f/fs) − 1) / (tan(π·f/fs) + 1)
  it.each([4, 6, 8])('%s allpasses are swept together, the right side the other way', (count) => {
    const machine = new Machine()
    const phaser = new PhaseShifter(PHASER)
    phaser.prepare(rate, machine)
    phaser.set({ rate: 0.9, depth: 80, feedback: 45, stages: String(count), intensity: 70, spread: 100, mix: 60 }, true)
    const block = createBlock(machine)
    const { lowHz, highHz } = PHASER
    const sides = [1, -1].map((sign) => ({ sign, x: new Float64Array(count), last: 0 }))
    const [got, wanted]: [number[], number[]] = [[], []]
    const triangle = (t: number) => 4 * Math.abs(((t + 0.75) % 1) - 0.5) - 1
    for (let chunk = 0; chunk < 300; chunk++) {
      const coefficient = (sign: number, k: number) => {
        const hz = lowHz * Math.pow(highHz / lowHz, 0.5 + 0.4 * sign * triangle((0.9 * k * CHUNK) / rate))
        const t = Math.tan((Math.PI * hz) / rate)
        return (t - 1) / (t + 1)
      }
      block.stereo = true
      for (let i = 0; i < CHUNK; i++) {
        const n = chunk * CHUNK + i
        const dry = [input(n), input(n + 1_000)]
        block.left[i] = dry[0]
        block.right[i] = dry[1]
        sides.forEach((side, k) => {
          const [from, to] = [coefficient(side.sign, chunk), coefficient(side.sign, chunk + 1)]
          const a = from + (i / CHUNK) * (to - from)
          let y = dry[k] + 0.45 * side.last
          for (let s = 0; s < count; s++) {
            // transposed: what it holds is its input less a times its output
            const out = a * y + side.x[s]
            side.x[s] = y - a * out
            y = out
          }
          side.last = y
          const shifted = dry[k] + 0.7 * (y - dry[k])
          wanted.push(0.8 * dry[k] + shifted)
        })
      }
      phaser.tick()
      phaser.process(block)
      block.left.forEach((y, i) => got.push(y, block.right[i]))
    }
    expect(differenceDb(got, wanted)).toBeLessThan(-110)
  })
})

describe('plate', () => {
  it('sweeps an allpass between frames', () => {
    const machine = new Machine()
    const size = 1_024
    const ring = machine.make((kernel) => kernel.ringCreate(size))
    const block = createBlock(machine)
    const line: number[] = []
    const got: number[] = []
    const wanted: number[] = []
    for (let chunk = 0; chunk < 100; chunk++) {
      const [delay, slope] = [300 + 50 * Math.sin(chunk / 9), 0.01 * Math.cos(chunk / 9)]
      for (let i = 0; i < CHUNK; i++) {
        const n = chunk * CHUNK + i
        block.left[i] = input(n)
        const back = delay + slope * i
        const part = back - Math.floor(back)
        const old = (k: number) => line[n - Math.floor(back) - k] ?? 0
        const delayed = old(0) * (1 - part) + old(1) * part
        const v = block.left[i] + 0.6 * delayed
        line.push(v)
        wanted.push(delayed - 0.6 * v)
      }
      machine.kernel.ringSweep(ring, block.leftAt, delay, slope, -0.6)
      got.push(...block.left)
    }
    expect(differenceDb(got, wanted)).toBeLessThan(-110)
  })

  // Dattorro, JAES 1997, part 1, figure 1, sample by sample in f64; lengths, gains and taps of the paper's table, at its own rate twice over
  it('turns its network as the paper draws it', () => {
    const machine = new Machine()
    const fast = 2 * 29_761
    const tank = new PlateTank()
    tank.prepare(fast, machine)
    tank.tune(1.8, 0.7, 1.3, 300)
    const [feed, tail] = [createBlock(machine), createBlock(machine)]
    const pole = (hz: number) => 1 - Math.exp((-2 * Math.PI * hz) / fast)
    const damping = pole(7_000)
    const w = (2 * Math.PI * 1_000) / fast
    const lost = damping / Math.hypot(1 - (1 - damping) * Math.cos(w), (1 - damping) * Math.sin(w))
    const turn = 672 + 4453 + 1800 + 3720 + 908 + 4217 + 2656 + 3163
    const pass = (seconds: number) => Math.pow(10, (-3 * turn) / 29_761 / 4 / (0.97 * seconds)) / lost
    const [gain, below] = [pass(1.8), pass(1.8 * 1.3) - pass(1.8)]
    const held = (frames: number) => Math.pow(10, (-3 * frames) / 29_761 / (0.55 * 1.8))
    const past = (line: readonly number[], n: number, back: number): number => line[n - back] ?? 0
    const allpass = (line: number[], n: number, length: number, g: number, x: number): number => {
      const v = x - g * past(line, n, length)
      line[n] = v
      return past(line, n, length) + g * v
    }
    const inputs = [142, 107, 379, 277].map((frames) => ({ frames: 2 * frames, line: [] as number[] }))
    const halves = [
      [672, 4453, 1800, 3720],
      [908, 4217, 2656, 3163],
    ].map((frames) => ({ frames: frames.map((f) => 2 * f), lines: frames.map((): number[] => []), low: 0, bass: 0 }))
    const lengths = [672, 1800, 908, 2656]
    const swept = [Math.min(0.49, held(lengths[0])), Math.min(0.49, held(lengths[2]))]
    const plain = [Math.min(0.35, held(lengths[1])), Math.min(0.35, held(lengths[3]))]
    const taps = (of: readonly (readonly [number, number, number, number])[], n: number): number =>
      of.reduce((sum, [h, line, back, sign]) => sum + 0.35 * sign * past(halves[h].lines[line], n, 2 * back), 0)
    const [got, wanted]: [number[], number[]] = [[], []]
    for (let chunk = 0; chunk < 400; chunk++) {
      for (let i = 0; i < CHUNK; i++) {
        const n = chunk * CHUNK + i
        feed.left[i] = chunk < 60 ? input(n) : 0
        let x = feed.left[i]
        inputs.forEach(({ frames, line }, k) => (x = allpass(line, n, frames, (k < 2 ? 0.75 : 0.625) * (0.4 + 0.6 * 0.7), x)))
        const ends = halves.map(({ lines, frames }) => past(lines[3], n, frames[3]))
        halves.forEach((half, h) => {
          const { lines, frames } = half
          const swing = (k: number) => Math.sin(2 * Math.PI * (h / 4 + (k * CHUNK) / fast))
          const back = frames[0] + 16 * (swing(chunk) + (i / CHUNK) * (swing(chunk + 1) - swing(chunk)))
          const [whole, part] = [Math.floor(back), back - Math.floor(back)]
          const delayed = (1 - part) * past(lines[0], n, whole) + part * past(lines[0], n, whole + 1)
          const v = x + gain * ends[1 - h] + swept[h] * delayed
          lines[0][n] = v
          const late = past(lines[1], n, frames[1])
          lines[1][n] = delayed - swept[h] * v
          half.low += damping * (late - half.low)
          half.bass += pole(300) * (half.low - half.bass)
          lines[3][n] = allpass(lines[2], n, frames[2], plain[h], gain * half.low + below * half.bass)
        })
        const left = [[1, 1, 266, 1], [1, 1, 2974, 1], [1, 2, 1913, -1], [1, 3, 1996, 1], [0, 1, 1990, -1], [0, 2, 187, -1], [0, 3, 1066, -1]] as const // prettier-ignore
        const right = [[0, 1, 353, 1], [0, 1, 3627, 1], [0, 2, 1228, -1], [0, 3, 2673, 1], [1, 1, 2111, -1], [1, 2, 335, -1], [1, 3, 121, -1]] as const // prettier-ignore
        wanted.push(taps(left, n), taps(right, n))
      }
      tank.tick()
      tank.process(feed, tail)
      tail.left.forEach((y, i) => got.push(y, tail.right[i]))
    }
    expect(Math.max(...wanted.slice(-20_000))).toBeGreaterThan(0.01)
    expect(differenceDb(got, wanted)).toBeLessThan(-110)
  })
})

// Abel, Berners, Costello & Smith, AES 121st Convention 2006: (a + z⁻ᴷ) / (1 + a·z⁻ᴷ) in a row
it.each([4, 5, 6, 7, 8, 11])('a spring’s cascade of stretched allpasses, stretched by %s', (stretch) => {
  const machine = new Machine()
  const { kernel } = machine
  const spring = machine.make(() => kernel.springCreate(7, stretch, CHUNK, 2 * CHUNK))
  const rows = Array.from({ length: 8 }, () => [] as number[])
  const got: number[] = []
  for (let chunk = 0; chunk < 80; chunk++) {
    const data = new Float32Array(kernel.memory.buffer, kernel.springInputAt(spring), CHUNK)
    for (let i = 0; i < CHUNK; i++) {
      const n = chunk * CHUNK + i
      data[i] = input(n)
      rows[0].push(data[i])
      for (let s = 0; s < 7; s++) rows[s + 1].push(0.62 * (rows[s][n] - (rows[s + 1][n - stretch] ?? 0)) + (rows[s][n - stretch] ?? 0))
    }
    kernel.springProcess(spring, 0.62)
    got.push(...new Float32Array(kernel.memory.buffer, kernel.springOutputAt(spring), CHUNK))
  }
  expect(differenceDb(got, rows[7])).toBeLessThan(-110)
})

it('a machine tells those who keep its memory when it has grown', () => {
  const machine = new Machine()
  const block = createBlock(machine)
  block.left[3] = 0.25
  block.key[5] = 0.5
  const before = machine.kernel.memory.buffer
  machine.make((kernel) => kernel.alloc(8_000_000))
  expect(machine.kernel.memory.buffer).not.toBe(before)
  expect([block.left[3], block.left[5]]).toEqual([0.25, 0.5])
  expect(block.key).toBe(block.left)
})
