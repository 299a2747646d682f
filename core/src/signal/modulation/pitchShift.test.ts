import { describe, expect, it } from 'vitest'
import { CHUNK, createBlock } from '../base/block'
import { OnePole } from '../base/onePole'
import { Ring } from '../base/ring'
import { Machine } from '../kernel/machine'
import { PitchShift } from './pitchShift'

/** By the definition: the place whose last `length` samples, every fourth of them, have the largest normalised product with those before `at`. */
function likest(sample: (n: number) => number, at: number, write: number, length: number, first: number, last: number): number {
  let [best, most] = [first, -Infinity]
  for (let place = first; place <= last; place += 2) {
    let [product, power] = [0, 1e-9]
    for (let n = -length; n < 0; n += 4) {
      product += sample(at + n) * sample(write - place + n)
      power += sample(write - place + n) ** 2
    }
    const likeness = (product * Math.abs(product)) / power
    if (likeness > most) [best, most] = [place, likeness]
  }
  return best
}

describe('search for a like place', () => {
  it.each([0, 1, 2, 3, 4, 5, 6, 7])('finds what the definition says, over the ring’s end too (%s)', (turn) => {
    const size = 4_096
    const machine = new Machine()
    const ring = machine.make((kernel) => kernel.alloc(4 * size))
    const data = new Float32Array(machine.kernel.memory.buffer, ring, size)
    let seed = 7 + turn
    const noise = () => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647 - 0.5
    for (let n = 0; n < size; n++) data[n] = Math.sin(n * (0.031 + 0.01 * turn)) + 0.4 * Math.sin(n * 0.0971) + 0.1 * noise()
    const sample = (n: number) => data[((n % size) + size) % size]
    for (const [write, delay, length, first, last] of [
      [100, 97, 240, 101, 820],
      [2_000, 300, 238, 333, 333],
      [3_999, 96, 241, 96, 500.5],
      [7, 1_050, 240, 200, 215],
    ]) {
      const found = machine.kernel.pitchBestPlace(ring, size, write, write - delay, length, first, last)
      expect(found).toBe(likest(sample, write - delay, write, length, first, last))
    }
    // nothing to choose from: the nearest
    expect(machine.kernel.pitchBestPlace(ring, size, 100, 50, 240, 60, 59)).toBe(60)
  })
})

const rate = 48_000
const frames = (ms: number) => (ms / 1000) * rate

/** The voice in plain form: core/kernel/effects/pitch.ts has to give the same. */
class PlainVoice {
  private readonly ring = new Ring(Math.ceil(frames(22) + frames(15) + 4 * frames(5)))
  private readonly all: number[] = []
  private readonly low = new OnePole()
  private readonly high = new OnePole()
  private readonly ratio: number
  private readonly far: number
  private readonly near = frames(2)
  private delay = frames(2)
  private leaving = frames(2)
  private leavingStep = 0
  private share = 1
  private shareStep = 1
  private since = 1e9
  private fast = 0
  private slow = 0
  onsets = 0
  jumps = 0

  constructor(cents: number, toneHz: number, lowCutHz: number) {
    this.ratio = Math.pow(2, cents / 1200)
    this.far = frames(Math.abs(cents) <= 60 ? 12 : 22)
    this.low.tune(toneHz, rate)
    this.high.tune(lowCutHz, rate)
  }

  private go(to: number, ms: number, leavingStep: number): void {
    this.leaving = this.delay
    this.leavingStep = leavingStep
    this.delay = to
    this.share = 0
    this.shareStep = 1 / Math.round(frames(ms))
  }

  private like(least: number, most: number): number {
    this.jumps++
    const last = Math.min(most, Math.max(least, this.since - 8))
    const now = this.all.length
    const sample = (n: number) => this.all.at(n - now) ?? 0
    const first = Math.round(least)
    return first > last
      ? first
      : likest((n) => (n < 0 ? 0 : sample(n)), now - Math.round(this.delay), now, Math.round(frames(5)), first, last)
  }

  process(data: Float32Array): Float32Array {
    const { near, far } = this
    const step = 1 - this.ratio
    const out = data.map((x) => {
      this.fast += (1 - Math.exp(-1 / frames(1))) * (x * x - this.fast)
      this.slow += (1 - Math.exp(-1 / frames(25))) * (x * x - this.slow)
      this.since++
      if (this.fast > 2.2 * 2.2 * this.slow && this.fast > 1e-6 && this.since > frames(30)) {
        const before = this.since > frames(9) ? step : 0
        this.since = 0
        this.onsets++
        this.go(near, 1.5, before)
      }
      this.ring.push(x)
      this.all.push(x)
      const moves = this.since > frames(9)
      if (moves) this.delay += step
      if (this.share >= 1 && moves) {
        if (step < 0 && this.delay + step * frames(5) < near) {
          const least = this.delay + Math.max(-step * frames(5), frames(2))
          const most = near - step * frames(5) + frames(15)
          this.go(this.like(least, Math.max(least, Math.min(most, far + this.delay))), 5, step)
        } else if (step > 0 && this.delay > far) this.go(this.like(near, Math.min(near + frames(15), this.delay - frames(2))), 5, step)
      }
      let y = this.ring.between(Math.max(2, this.delay))
      if (this.share < 1) {
        this.leaving += this.leavingStep
        y = this.share * y + (1 - this.share) * this.ring.between(Math.min(this.ring.frames, Math.max(2, this.leaving)))
        this.share = Math.min(1, this.share + this.shareStep)
      }
      return y
    })
    this.low.low(out)
    this.high.high(out)
    return out
  }
}

describe('a shifted voice', () => {
  it.each([
    ['an octave down', -1200],
    ['a fifth up', 700],
    ['an octave up', 1200],
    ['a doubler’s few cents', 9],
  ])('%s is what the plain form gives, through onsets and jumps', (_, cents) => {
    const machine = new Machine()
    const shift = new PitchShift()
    shift.prepare(rate, machine)
    shift.set({ cents, apart: 0, tone: 6_000, lowCut: 40, mix: 100 }, true)
    const plain = new PlainVoice(cents, 6_000, 40)
    const block = createBlock(machine)
    let [most, loudest] = [0, 0]
    for (let chunk = 0; chunk < 900; chunk++) {
      for (let i = 0; i < CHUNK; i++) {
        const n = chunk * CHUNK + i
        const sinceStroke = n % 14_400
        block.left[i] =
          Math.exp(-sinceStroke / 6_000) * (0.4 * Math.sin(n * 0.0144) + 0.2 * Math.sin(n * 0.0433 + 1) + 0.1 * Math.sin(n * 0.0719))
      }
      const wanted = plain.process(block.left.slice())
      shift.tick()
      shift.process(block)
      wanted.forEach((y, i) => {
        most = Math.max(most, Math.abs(y - block.left[i]))
        loudest = Math.max(loudest, Math.abs(y))
      })
    }
    expect(plain.onsets).toBe(4)
    expect(plain.jumps).toBeGreaterThan(3)
    expect(20 * Math.log10(most / loudest)).toBeLessThan(-110)
  })
})
