import { describe, expect, it } from 'vitest'
import { CHUNK, createBlock, foldToMono, spreadToStereo } from './block'
import { Biquad, design, sectionResponse } from '../filters/biquad'
import { Machine } from '../kernel/machine'
import { Fft } from './fft'
import { Lfo } from './lfo'
import { mixGains } from './mix'
import { OnePole, onePoleCoefficient } from './onePole'
import { ChunkRing } from './chunkRing'
import { Ring } from './ring'
import { Fade, Glides, Smooth } from './smooth'
import { SwapDelay } from './swapDelay'
import { audioTaper, dbToGain, gainToDb } from './units'

const rate = 48_000
const peak = (x: ArrayLike<number>) => Array.from(x).reduce((most, y) => Math.max(most, Math.abs(y)), 0)

describe('units', () => {
  it('turn dB into factors and back', () => {
    // 6.0206 dB is a factor of two by definition
    expect(dbToGain(20 * Math.log10(2))).toBeCloseTo(2, 12)
    for (const db of [-60, -6, 0, 12]) expect(gainToDb(dbToGain(db))).toBeCloseTo(db, 10)
    expect(gainToDb(0)).toBe(-Infinity)
  })

  // common practice, no source: an audio-taper pot stands at 10 % in the middle
  it('give an audio pot a tenth at half travel', () => {
    expect(audioTaper(0)).toBe(0)
    expect(audioTaper(5)).toBeCloseTo(0.1, 3)
    expect(audioTaper(10)).toBeCloseTo(1, 12)
  })

  it('keep dry and wet whole at half mix', () => {
    expect(mixGains(0)).toEqual({ dry: 1, wet: 0 })
    expect(mixGains(25)).toEqual({ dry: 1, wet: 0.5 })
    expect(mixGains(50)).toEqual({ dry: 1, wet: 1 })
    expect(mixGains(100)).toEqual({ dry: 0, wet: 1 })
  })
})

describe('block', () => {
  it('folds to the mean and spreads alike', () => {
    const block = createBlock()
    block.stereo = true
    block.left.fill(0.6)
    block.right.fill(0.2)
    foldToMono(block)
    expect([block.stereo, block.left[3]]).toEqual([false, Math.fround(0.4)])
    spreadToStereo(block)
    expect([block.stereo, block.right[CHUNK - 1]]).toEqual([true, Math.fround(0.4)])
  })
})

describe('smooth', () => {
  const path = (from: number, to: number, chunks: number) => {
    const smooth = new Smooth()
    smooth.prepare(rate)
    smooth.set(from, true)
    smooth.tick()
    smooth.set(to, false)
    const values: number[] = []
    for (let c = 0; c < chunks; c++) {
      smooth.tick()
      for (let i = 0; i < CHUNK; i++) values.push(smooth.value + i * smooth.step)
    }
    return { smooth, values }
  }

  it('goes without a step, and follows an exponential of 12 ms', () => {
    const { values } = path(0, 1, 60)
    const steps = values.slice(1).map((v, i) => v - values[i])
    expect(Math.max(...steps)).toBeLessThan(1 / (0.01 * rate))
    // one time constant after the start: 1 − 1/e
    expect(values[Math.round(0.012 * rate)]).toBeCloseTo(1 - 1 / Math.E, 1)
    expect(values[Math.round(0.05 * rate)]).toBeGreaterThan(0.95)
  })

  it('arrives exactly and then rests', () => {
    const { smooth } = path(2, -7, 400)
    expect([smooth.value, smooth.step, smooth.moving]).toEqual([-7, 0, false])
  })

  it('jumps at once when told, and says so for one chunk', () => {
    const smooth = new Smooth()
    smooth.prepare(rate)
    smooth.set(3, true)
    smooth.tick()
    expect([smooth.value, smooth.moving]).toEqual([3, true])
    smooth.tick()
    expect(smooth.moving).toBe(false)
  })

  it('fades in a straight line and knows when it is open or shut', () => {
    const fade = new Fade(false)
    fade.prepare(rate, 0.01)
    fade.tick()
    expect([fade.shut, fade.open]).toEqual([true, false])
    fade.set(true, false)
    let chunks = 0
    do {
      fade.tick()
      chunks++
    } while (!fade.open)
    expect((chunks * CHUNK) / rate).toBeGreaterThan(0.008)
    expect((chunks * CHUNK) / rate).toBeLessThan(0.014)
  })

  it('rests as a group only once the last step has been there to be written', () => {
    const glides = new Glides()
    const [value, fade] = [glides.add(), glides.fade()]
    glides.prepare(rate)
    value.set(0.4, true)
    const written: [number, number, number][] = []
    const tick = () => {
      glides.tick()
      if (!glides.still) written.push([value.value, fade.value, fade.step])
    }
    for (let k = 0; k < 5; k++) tick()
    expect(written.at(-1)).toEqual([0.4, 1, 0])
    const before = written.length
    for (let k = 0; k < 5; k++) tick()
    expect(written.length).toBe(before)
    // whatever is set wakes them all
    fade.set(false, false)
    for (let k = 0; k < 60; k++) tick()
    expect(written.at(-1)).toEqual([0.4, 0, 0])
    value.set(0.9, true)
    tick()
    expect(written.at(-1)).toEqual([0.9, 0, 0])
  })
})

describe('LFO', () => {
  const wave = (shape: 'sine' | 'triangle' | 'square' | 'throb', hz: number, seconds: number) => {
    const lfo = new Lfo()
    lfo.prepare(rate)
    lfo.set(hz, shape)
    const values: number[] = []
    for (let c = 0; c < (seconds * rate) / CHUNK; c++) {
      lfo.tick()
      for (let i = 0; i < CHUNK; i++) values.push(lfo.value + i * lfo.step)
    }
    return values
  }

  it('is a sine of its rate within the grid', () => {
    const values = wave('sine', 2, 1)
    values.forEach((v, n) => expect(Math.abs(v - Math.sin((2 * Math.PI * 2 * n) / rate))).toBeLessThan(2e-4))
  })

  it.each(['sine', 'triangle', 'square', 'throb'] as const)('%s runs from −1 to 1', (shape) => {
    const values = wave(shape, 3, 2)
    expect(Math.max(...values)).toBeCloseTo(1, 1)
    expect(Math.min(...values)).toBeCloseTo(-1, 1)
    expect(values.every((v) => v >= -1.0001 && v <= 1.0001)).toBe(true)
  })

  it('throb rises faster than it falls', () => {
    const values = wave('throb', 1, 1)
    const top = values.indexOf(Math.max(...values))
    expect(top / rate).toBeLessThan(0.3)
  })

  it('keeps its rate over an hour', () => {
    const lfo = new Lfo()
    lfo.prepare(rate)
    lfo.set(1.37, 'sine')
    const chunks = Math.round((3600 * rate) / CHUNK)
    for (let c = 0; c < chunks; c++) lfo.tick()
    expect(lfo.value).toBeCloseTo(Math.sin(2 * Math.PI * 1.37 * (((chunks - 1) * CHUNK) / rate)), 3)
  })
})

describe('one pole', () => {
  it('loses 3 dB at its corner, low and high', () => {
    const level = (kind: 'low' | 'high', hz: number) => {
      const pole = new OnePole()
      pole.tune(500, rate)
      const x = Float32Array.from({ length: rate }, (_, n) => Math.sin((2 * Math.PI * hz * n) / rate))
      pole[kind](x, x.length)
      return 20 * Math.log10(peak(x.slice(rate / 2)))
    }
    expect(level('low', 500)).toBeCloseTo(-3, 0)
    expect(level('high', 500)).toBeCloseTo(-3, 0)
    expect(level('low', 20)).toBeCloseTo(0, 1)
    expect(level('high', 20)).toBeLessThan(-26)
  })

  it('keeps its corner inside the band', () => {
    expect(onePoleCoefficient(1e6, rate)).toBeLessThan(1)
    expect(onePoleCoefficient(0, rate)).toBe(0)
  })
})

describe('ring', () => {
  it('gives back whole delays exactly', () => {
    const ring = new Ring(500)
    const data = Float32Array.from({ length: 32 }, (_, i) => i + 1)
    const out = new Float32Array(32)
    for (let turn = 0; turn < 40; turn++) {
      ring.take(out, 96, 32)
      if (turn >= 3) expect(Array.from(out)).toEqual(Array.from(data, (x) => x + (turn - 3) * 100))
      ring.put(
        data.map((x) => x + turn * 100),
        32,
      )
    }
  })

  // by the definition, over the ring's end too
  it('lets whole chunks through, taps and takes them at any place', () => {
    const machine = new Machine()
    const [data, taken] = [createBlock(machine), createBlock(machine)]
    const ring = new ChunkRing(200, machine)
    const sent = (n: number) => (n < 0 ? 0 : n + 1)
    for (let chunk = 0; chunk < 30; chunk++) {
      for (let i = 0; i < CHUNK; i++) data.left[i] = sent(chunk * CHUNK + i)
      const back = 37 + ((chunk * 13) % 150)
      if (chunk % 2 === 0) ring.pass(data.leftAt, back)
      else ring.put(data.leftAt)
      if (chunk % 2 === 0) data.left.forEach((y, i) => expect(y).toBe(sent(chunk * CHUNK + i - back)))
      ring.take(taken.leftAt, CHUNK + back)
      taken.left.forEach((y, i) => expect(y).toBe(sent(chunk * CHUNK + i - back)))
      ring.tap(taken.leftAt, CHUNK, -0.5)
      taken.left.forEach((y, i) => expect(y).toBe(sent(chunk * CHUNK + i - back) - 0.5 * sent(chunk * CHUNK + i)))
    }
    ring.reset()
    ring.take(taken.leftAt, CHUNK)
    expect(taken.left.every((y) => y === 0)).toBe(true)
  })

  // third-order Lagrange interpolation of a sine: error below (ω/2)⁴ roughly (Laakso et al. 1996)
  it.each([100, 1_000, 5_000])('interpolates a %s Hz sine between frames', (hz) => {
    const ring = new Ring(1_000)
    const w = (2 * Math.PI * hz) / rate
    for (let n = 0; n < 2_000; n++) ring.push(Math.sin(w * n))
    for (const delay of [10.25, 33.5, 700.9]) {
      const expected = Math.sin(w * (2_000 - delay))
      expect(Math.abs(ring.between(delay) - expected)).toBeLessThan(0.6 * w ** 4 + 1e-6)
    }
  })

  it('bends a chunk as the same line does frame by frame', () => {
    const machine = new Machine()
    const block = createBlock(machine)
    const [ring, plain] = [new ChunkRing(300, machine), new Ring(300)]
    const moving = machine.make((kernel) => kernel.alloc(32))
    const numbers = new Float64Array(machine.kernel.memory.buffer, moving, 4)
    for (let chunk = 0; chunk < 40; chunk++) {
      const [depth, depthStep, swing, swingStep] = [
        60 + chunk,
        1 / CHUNK,
        0.9 * Math.sin(chunk / 7),
        0.1 * Math.cos(chunk / 7) * (1 / CHUNK),
      ]
      numbers.set([depth, depthStep, swing, swingStep])
      for (let i = 0; i < CHUNK; i++) block.left[i] = Math.sin((chunk * CHUNK + i) * 0.07)
      const wanted = block.left.map((x, i) => {
        const y = plain.between(2 + (depth + i * depthStep) * (1 + swing + i * swingStep))
        plain.push(x)
        return y
      })
      ring.bend(block.leftAt, moving)
      block.left.forEach((y, i) => expect(y).toBeCloseTo(wanted[i], 6))
    }
  })

  it('is an allpass: energy in is energy out', () => {
    const machine = new Machine()
    const block = createBlock(machine)
    const ring = new ChunkRing(97, machine)
    let energy = 0
    for (let turn = 0; turn < 400; turn++) {
      block.left.fill(0)
      if (turn === 0) block.left[0] = 1
      ring.allpass(block.leftAt, 0.6)
      energy += block.left.reduce((s, y) => s + y * y, 0)
    }
    expect(energy).toBeCloseTo(1, 6)
  })
})

describe('swap delay', () => {
  it('delays by whole samples and changes without a step', () => {
    const machine = new Machine()
    const block = createBlock(machine)
    const delay = new SwapDelay()
    delay.prepare(4_800, rate, machine)
    delay.set(480, true)
    const w = (2 * Math.PI * 200) / rate
    const heard: number[] = []
    for (let c = 0; c < 200; c++) {
      if (c === 100) delay.set(1_234, false)
      delay.tick()
      for (let i = 0; i < CHUNK; i++) block.left[i] = Math.sin(w * (c * CHUNK + i))
      delay.process(block.leftAt)
      heard.push(...block.left)
    }
    expect(heard[90 * CHUNK]).toBeCloseTo(Math.sin(w * (90 * CHUNK - 480)), 6)
    expect(heard[190 * CHUNK]).toBeCloseTo(Math.sin(w * (190 * CHUNK - 1_234)), 6)
    const steps = heard.slice(600).map((y, n) => Math.abs(y - heard[599 + n]))
    expect(Math.max(...steps)).toBeLessThan(1.2 * w)
  })
})

describe('gliding biquad', () => {
  const run = (retune: (b: Biquad, chunk: number) => void, hz: number) => {
    const biquad = new Biquad()
    const block = createBlock()
    const out: number[] = []
    for (let c = 0; c < 60; c++) {
      biquad.tick()
      retune(biquad, c)
      for (let i = 0; i < CHUNK; i++) block.left[i] = Math.sin((2 * Math.PI * hz * (c * CHUNK + i)) / rate)
      biquad.process(block)
      out.push(...block.left)
    }
    return { biquad, out }
  }

  it('takes the first design at once and the next one over a chunk', () => {
    const { biquad } = run((b, c) => {
      if (c > 1) return
      design.lowPass(b.target, c === 0 ? 1_000 : 4_000, 0.7, rate)
      b.glide()
    }, 300)
    const [re, im] = sectionResponse(biquad.section, 4_000, rate)
    expect(20 * Math.log10(Math.hypot(re, im))).toBeCloseTo(20 * Math.log10(0.7), 1)
  })

  it('is stable and stepless while its corner is thrown about', () => {
    let seed = 5
    const { out } = run((b) => {
      seed = (seed * 16807) % 2147483647
      design.lowPass(b.target, 100 + (seed % 8_000), 2, rate)
      b.glide()
    }, 150)
    expect(peak(out)).toBeLessThan(4)
    expect(Math.max(...out.slice(1).map((y, n) => Math.abs(y - out[n])))).toBeLessThan(0.4)
  })
})

describe('FFT', () => {
  it.each([8, 64, 1_024])('agrees with the sums of the definition at %s points, and its inverse with the input', (size) => {
    const re = Float64Array.from({ length: size }, (_, n) => Math.sin(n * n * 0.1))
    const im = Float64Array.from({ length: size }, (_, n) => Math.cos(n * 0.7) * 0.3)
    const a = re.slice()
    const b = im.slice()
    const fft = new Fft(size)
    fft.forward(a, b)
    for (const k of [0, 1, size / 4, size - 1]) {
      let sumRe = 0
      let sumIm = 0
      for (let n = 0; n < size; n++) {
        const w = (-2 * Math.PI * k * n) / size
        sumRe += re[n] * Math.cos(w) - im[n] * Math.sin(w)
        sumIm += re[n] * Math.sin(w) + im[n] * Math.cos(w)
      }
      expect(a[k]).toBeCloseTo(sumRe, 8)
      expect(b[k]).toBeCloseTo(sumIm, 8)
    }
    fft.inverse(a, b)
    a.forEach((x, n) => expect(x).toBeCloseTo(re[n], 10))
    b.forEach((x, n) => expect(x).toBeCloseTo(im[n], 10))
  })
})
