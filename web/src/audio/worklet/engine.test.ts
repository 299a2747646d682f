import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { modelOf } from '@fulgor/core/catalogue'
import { createStage, resolveValues, type ChainNode } from '@fulgor/core/preset'
import { blankPreset } from '@fulgor/core/preset'
import type { Plan } from '@fulgor/core/render'
import { chirp, chirpDelay } from './chirp'
import type { FromWorklet, ToWorklet } from './messages'

const rate = 48_000

interface Node {
  port: { onmessage: ((event: { data: ToWorklet }) => void) | null; postMessage(message: FromWorklet): void }
  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean
}
let Processor: new (options: object) => Node

/** The audio thread's globals, as far as the processor needs them. */
beforeAll(async () => {
  class AudioWorkletProcessor {
    readonly said: FromWorklet[] = []
    readonly port = { onmessage: null, postMessage: (message: FromWorklet) => this.said.push(message) }
  }
  Object.assign(globalThis, {
    AudioWorkletProcessor,
    sampleRate: rate,
    registerProcessor: (_: string, made: typeof Processor) => (Processor = made),
  })
  await import('./engine.worklet')
})

const planOf = (chain: readonly ChainNode[]): Plan => ({ chain, values: resolveValues({ ...blankPreset('x'), chain }, null) })
const trim = (level: number) => planOf([createStage('t', 'trim', { level })])

class Thread {
  readonly node: Node
  readonly said: FromWorklet[]
  constructor(...initial: ToWorklet[]) {
    this.node = new Processor({ processorOptions: { initial: [{ type: 'responses', responses: {} }, ...initial] } })
    this.said = (this.node as unknown as { said: FromWorklet[] }).said
  }
  send(message: ToWorklet): void {
    this.node.port.onmessage?.({ data: message })
  }
  /** Runs for a number of frames; `input` is what the interface brings, on two channels. */
  run(frames: number, input: (n: number) => readonly [number, number] = () => [0, 0]): [Float32Array, Float32Array] {
    const left = new Float32Array(frames)
    const right = new Float32Array(frames)
    for (let at = 0; at < frames; at += 128) {
      const out = [new Float32Array(128), new Float32Array(128)]
      const into = [0, 1].map((c) => Float32Array.from({ length: 128 }, (_, i) => input(at + i)[c]))
      this.node.process([into], [out])
      left.set(out[0].subarray(0, Math.min(128, frames - at)), at)
      right.set(out[1].subarray(0, Math.min(128, frames - at)), at)
    }
    return [left, right]
  }
  last<T extends FromWorklet['type']>(type: T): Extract<FromWorklet, { type: T }> | undefined {
    return this.said.filter((m): m is Extract<FromWorklet, { type: T }> => m.type === type).at(-1)
  }
}
const peak = (x: Float32Array) => x.reduce((most, y) => Math.max(most, Math.abs(y)), 0)
const ones = new Float32Array(48_000).fill(0.5)
const playing: ToWorklet = { type: 'play', on: true, loop: true, mono: false }
const start = (plan: Plan, ...more: ToWorklet[]) =>
  new Thread({ type: 'plan', plan, gain: 1, quality: 'live' }, { type: 'riff', samples: ones }, playing, ...more)

describe('the audio thread', () => {
  it('plays the riff through the plan, with a ramp at the start, and says where it is', () => {
    const thread = start(trim(-6.0206))
    const [left, right] = thread.run(9_600)
    expect(left[0]).toBeLessThan(0.01)
    expect(left[9_000]).toBeCloseTo(0.25, 5)
    expect(right[9_000]).toBe(left[9_000])
    const meter = thread.last('meter')
    expect(meter?.input).toBeCloseTo(0.5, 5)
    expect(meter?.left).toBeCloseTo(0.25, 5)
    expect(meter?.position).toBeGreaterThan(0.1)
  })

  it('stops at the end without a loop, and says so', () => {
    const thread = start(trim(0), { type: 'play', on: true, loop: false, mono: false })
    thread.run(60_000)
    expect(thread.said.some((m) => m.type === 'ended')).toBe(true)
    expect(peak(thread.run(4_800)[0])).toBeLessThan(1e-12)
  })

  it('glides to new values and crossfades to a new structure', () => {
    const thread = start(trim(0))
    thread.run(9_600)
    thread.send({ type: 'plan', plan: trim(-20), gain: 1, quality: 'live' })
    expect(thread.last('applied')?.structural).toBe(false)
    const [glide] = thread.run(9_600)
    expect(glide[9_000]).toBeCloseTo(0.05, 3)
    thread.send({ type: 'plan', plan: planOf([createStage('u', 'utility.polarity')]), gain: 1, quality: 'live' })
    expect(thread.last('applied')?.structural).toBe(true)
    const [cross] = thread.run(9_600)
    expect(cross[9_000]).toBeCloseTo(-0.5, 5)
    // from +0.05 to −0.5 over 20 ms and not in a step
    const steps = cross.slice(1).map((y, n) => Math.abs(y - cross[n]))
    expect(Math.max(...steps)).toBeLessThan(0.002)
  })

  it('builds anew for another quality', () => {
    const thread = start(trim(0))
    thread.send({ type: 'plan', plan: trim(0), gain: 1, quality: 'high' })
    expect(thread.last('applied')?.structural).toBe(true)
  })

  it('plays only what one plan has over another', () => {
    const thread = start(trim(0))
    thread.run(4_800)
    thread.send({ type: 'plan', plan: trim(-6.0206), gain: 1, quality: 'live', against: trim(-12.0412).values })
    expect(thread.run(9_600)[0][9_000]).toBeCloseTo(0.5 * (0.5 - 0.25), 5)
    thread.send({ type: 'plan', plan: trim(-6.0206), gain: 1, quality: 'live', against: trim(-6.0206).values })
    expect(peak(thread.run(19_200)[0].slice(18_000))).toBeLessThan(1e-6)
    thread.send({ type: 'plan', plan: trim(0), gain: 1, quality: 'live' })
    expect(thread.run(9_600)[0][9_000]).toBeCloseTo(0.5, 5)
  })

  it('matches by its gain, and sums to mono', () => {
    const thread = new Thread(
      { type: 'plan', plan: planOf([createStage('p', 'utility.pan', { pan: 100 })]), gain: 0.5, quality: 'live' },
      { type: 'riff', samples: ones },
      { type: 'play', on: true, loop: true, mono: true },
    )
    const [left, right] = thread.run(9_600)
    expect(left[9_000]).toBeCloseTo(0.5 * 0.5 * 0.5, 5)
    expect(right[9_000]).toBe(left[9_000])
  })

  it.each([
    ['left', 0.2],
    ['right', -0.6],
    ['sum', -0.2],
  ] as const)('hears the live input instead of the riff: channel %s', (channel, value) => {
    const thread = start(trim(0), { type: 'source', live: true, channel, trim: 0.5 })
    const [left] = thread.run(9_600, () => [0.2, -0.6])
    expect(left[9_000]).toBeCloseTo(0.5 * value, 5)
    expect(thread.last('meter')?.raw).toBeCloseTo(Math.abs(value), 5)
  })

  it('is silent for the input while it does not play', () => {
    const thread = start(
      trim(0),
      { type: 'source', live: true, channel: 'left', trim: 1 },
      { type: 'play', on: false, loop: true, mono: false },
    )
    expect(peak(thread.run(9_600, () => [0.5, 0.5])[0])).toBeLessThan(1e-12)
  })

  it('plays a band along from the riff’s start, round its own length, beside what is measured', () => {
    const band = Float32Array.from({ length: 20_000 }, (_, n) => (n === 15_000 ? 1 : 0))
    const thread = start(trim(-6.0206), { type: 'backing', sides: [band, new Float32Array(20_000)] })
    const [left, right] = thread.run(48_000)
    const hits = [...left.keys()].filter((n) => left[n] - right[n] > 0.5)
    expect(hits).toEqual([15_000, 35_000])
    expect(right[30_000]).toBeCloseTo(0.25, 5)
    expect(thread.last('meter')?.left).toBeCloseTo(0.25, 5)
    // from where the riff is put, and silent when nothing plays
    thread.send({ type: 'seek', share: 0.25 })
    const again = thread.run(10_000)[0]
    expect([...again.keys()].filter((n) => again[n] > 0.9)).toEqual([3_000])
    thread.send({ ...playing, on: false })
    thread.run(4_800)
    expect(peak(thread.run(48_000)[0])).toBeLessThan(1e-6)
  })

  it('lets a recording be heard in the preset’s place, at its own gain, round and round', () => {
    const ramp = Float32Array.from({ length: 12_000 }, (_, n) => n / 12_000)
    const thread = start(
      trim(0),
      { type: 'recording', sides: [ramp, ramp.map((v) => -v)] },
      { type: 'compare', recording: false, gain: 0.5 },
    )
    expect(thread.run(9_600)[0][9_000]).toBeCloseTo(0.5, 5)
    thread.send({ type: 'compare', recording: true, gain: 0.5 })
    const [left, right] = thread.run(24_000)
    // 20 ms from one to the other, then the ramp at half its height, which starts anew after 12,000 frames
    expect(left[6_000]).toBeCloseTo(0.25, 3)
    expect(right[6_000]).toBeCloseTo(-0.25, 3)
    expect(left[18_000]).toBeCloseTo(0.25, 3)
    expect(thread.last('meter')?.left).toBeGreaterThan(0.2)
    const steps = left.slice(1, 960).map((y, n) => Math.abs(y - left[n]))
    expect(Math.max(...steps)).toBeLessThan(0.002)
    thread.send({ type: 'compare', recording: false, gain: 0.5 })
    expect(thread.run(9_600)[0][9_000]).toBeCloseTo(0.5, 5)
    // nothing plays, nothing is heard of it
    thread.send({ type: 'compare', recording: true, gain: 0.5 })
    thread.send({ ...playing, on: false })
    thread.run(9_600)
    expect(peak(thread.run(4_800)[0])).toBeLessThan(1e-9)
  })

  it('is silent while the tuner listens, and as loud as before afterwards', () => {
    const thread = start(trim(0))
    thread.run(rate / 2)
    thread.send({ type: 'tuner', on: true })
    const [fading] = thread.run(rate / 2)
    expect(fading[0]).toBeGreaterThan(0.4)
    expect(fading[rate / 4]).toBe(0)
    expect(thread.last('heard')?.samples.at(-1)).toBe(0.5)
    const [silent] = thread.run(1_280)
    expect(peak(silent)).toBe(0)
    thread.send({ type: 'tuner', on: false })
    thread.run(rate / 2)
    const [back] = thread.run(1_280)
    back.forEach((y) => expect(y).toBeCloseTo(0.5, 6))
  })

  it('comes to another gain without a step, and arrives there', () => {
    const plan = trim(0)
    const thread = start(plan)
    thread.run(rate / 2)
    thread.send({ type: 'plan', plan, gain: 0.5, quality: 'live' })
    const [gliding] = thread.run(rate / 2)
    for (let n = 1; n < gliding.length; n++) expect(Math.abs(gliding[n] - gliding[n - 1])).toBeLessThan(0.001)
    expect(gliding[480]).toBeCloseTo(0.25 + 0.25 / Math.E, 2)
    const [there] = thread.run(1_280)
    there.forEach((y) => expect(y).toBe(0.25))
  })

  it('records the input dry, with its trim', () => {
    const thread = start(trim(20), { type: 'source', live: false, channel: 'left', trim: 2 })
    thread.run(1_280)
    thread.send({ type: 'record', on: true })
    thread.run(12_800, (n) => [n / 100_000, 0])
    thread.send({ type: 'record', on: false })
    const take = thread.last('recorded')?.channels[0] ?? new Float32Array()
    expect(take).toHaveLength(12_800)
    for (const n of [0, 1_000, 12_799]) expect(take[n]).toBeCloseTo((2 * n) / 100_000, 6)
  })

  it('sends a chirp alone and returns what came in meanwhile', () => {
    const thread = start(trim(0))
    thread.run(1_280)
    thread.send({ type: 'ping' })
    // a loop of 700 frames from out to in
    const sent: number[] = []
    const frames = Math.ceil((0.6 * rate) / 128) * 128
    for (let at = 0; at < frames; at += 128) {
      const [left] = thread.run(128, (n) => [sent[at + n - 700] ?? 0, 0])
      sent.push(...left)
    }
    const heard = thread.last('pinged')?.heard ?? new Float32Array()
    expect(chirpDelay(chirp(rate), heard)).toBe(700)
    expect(sent.slice(2_000, 20_000).every((y) => y === 0)).toBe(true)
  })

  it('says what it cannot do and plays on', () => {
    const thread = start(trim(0))
    thread.send({ type: 'plan', plan: planOf([createStage('c', 'cabinet')]), gain: 1, quality: 'live' })
    expect(thread.last('failed')?.reason).toContain('is not loaded')
    expect(peak(thread.run(9_600)[0])).toBeCloseTo(0.5, 5)
  })

  it('seeks by a share of the riff', () => {
    const ramp = Float32Array.from({ length: rate }, (_, n) => n / rate)
    const thread = new Thread({ type: 'plan', plan: trim(0), gain: 1, quality: 'live' }, { type: 'riff', samples: ramp }, playing)
    thread.send({ type: 'seek', share: 0.5 })
    expect(thread.run(2_560)[0][2_000]).toBeCloseTo(0.5 + 2_000 / rate, 3)
  })
})

describe('a stage that fails while it sounds', () => {
  afterEach(() => vi.restoreAllMocks())

  /** The width stage's processor, which throws from its 20th chunk on. */
  const failing = () => {
    const model = modelOf('utility.width')
    const build = model.build.bind(model)
    vi.spyOn(model, 'build').mockImplementation((context) => {
      const processor = build(context)
      const process = processor.process.bind(processor)
      let chunks = 0
      processor.process = (block) => {
        if (++chunks > 20) throw new RangeError('unreachable')
        process(block)
      }
      // it has to be asked every time
      return Object.defineProperty(processor, 'steady', { value: false })
    })
  }
  const width = (percent: number) => planOf([createStage('w', 'utility.width', { width: percent }), createStage('t', 'trim', { level: 0 })])

  it('is mute and told once, the thread goes on, and another value brings it back', () => {
    failing()
    const thread = start(width(100))
    const [left] = thread.run(9_600)
    expect(peak(left.subarray(600, 1_000))).toBeCloseTo(0.5, 5)
    expect(peak(left.subarray(2_000))).toBeLessThan(1e-12)
    expect(thread.said.filter((m) => m.type === 'muted')).toEqual([{ type: 'muted', stage: 'w', reason: 'unreachable' }])
    thread.send({ type: 'plan', plan: width(80), gain: 1, quality: 'live' })
    const [again] = thread.run(1_024)
    expect(peak(again.subarray(400))).toBeGreaterThan(0.45)
    // switched off it lets the sound pass, though it has failed again
    thread.run(9_600)
    const off = width(80)
    thread.send({ type: 'plan', plan: { ...off, values: { ...off.values, w: { ...off.values.w, on: false } } }, gain: 1, quality: 'live' })
    expect(peak(thread.run(4_800)[0].subarray(4_000))).toBeCloseTo(0.5, 5)
  })
})
