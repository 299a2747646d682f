// Figures of the mic bench that need no page; a zip of made-up files for the one that does.
import { writeFileSync } from 'node:fs'
import { zipSync } from 'fflate'
import { alignTo, blendId, inspectResponse, responseLibrary, spectrumOf, MAX_CHANNELS } from '@fulgor/core/cabinet'
import { createBench, createChannel, defaultMic } from '@fulgor/core/catalogue'
import { readSound, SoundFileError, writeWav } from '@fulgor/core/formats'
import { Convolver } from '@fulgor/core/signal'

const RATE = 48_000

function random(seed: number): () => number {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
}

/** A made-up response: a few decaying resonances from `at` frames on. */
function made(next: () => number, at: number, frames = 2_048): Float32Array {
  const parts = Array.from({ length: 6 }, () => ({
    hz: 90 * Math.pow(50, next()),
    decay: 0.0008 + 0.004 * next(),
    gain: next() - 0.3,
    phase: 6 * next(),
  }))
  return Float32Array.from({ length: frames }, (_, n) => {
    const t = (n - at) / RATE
    if (t <= 0) return 0
    return (
      0.4 *
      (1 - Math.exp(-t / 0.0002)) ** 3 *
      parts.reduce((s, p) => s + p.gain * Math.exp(-t / p.decay) * Math.sin(2 * Math.PI * p.hz * t + p.phase), 0)
    )
  })
}

const tasks: Record<string, (...args: string[]) => unknown> = {
  /** Delay found against delay made, in samples, over 1,000 random cases. */
  alignment() {
    const next = random(2_026)
    const errors: number[] = []
    let turned = 0
    for (let i = 0; i < 1_000; i++) {
      const seed = 1 + Math.floor(next() * 1e6)
      const delay = (next() - 0.5) * 400
      const inverted = next() < 0.5
      const a = spectrumOf(made(random(seed), 300), 8_192, RATE)
      const b = spectrumOf(
        made(random(seed), 300 + delay).map((x) => (inverted ? -x : x)),
        8_192,
        RATE,
      )
      const found = alignTo(a, b)
      errors.push(Math.abs(found.lateUs * 1e-6 * RATE - delay))
      if (found.inverted !== inverted) turned++
    }
    errors.sort((x, y) => x - y)
    return { worst: errors[999], median: errors[500], wrongPolarity: turned }
  },

  malformed() {
    const next = random(5)
    const outcome = { tried: 0, read: 0, refused: 0, crashed: 0 }
    const originals = ([16, 24, 32] as const).map((bits) => writeWav([made(random(9), 30, 400)], RATE, bits))
    for (let i = 0; i < 10_000; i++) {
      const bytes = originals[i % 3].slice(0, next() < 0.3 ? Math.floor(next() * 1_600) : undefined)
      for (let k = 0; k < next() * 8; k++)
        bytes[Math.floor(next() * Math.min(bytes.length, next() < 0.7 ? 60 : 1e9))] = Math.floor(next() * 256)
      outcome.tried++
      try {
        inspectResponse(readSound(bytes))
        outcome.read++
      } catch (error) {
        if (error instanceof SoundFileError || error instanceof RangeError) outcome.refused++
        else outcome.crashed++
      }
    }
    return outcome
  },

  /** ms to convolve 60 s with the blend of eight channels and with one channel. */
  convolution() {
    const responses = responseLibrary(RATE)
    const bench = (count: number) =>
      blendId({
        ...createBench(),
        channels: Array.from({ length: count }, (_, k) => createChannel(`c${k}`, { ...defaultMic(), offset: 9 * k } as never)),
      })
    const ms = (count: number) => {
      const convolver = new Convolver(responses(bench(count)).left)
      const block = new Float32Array(128)
      const run = (seconds: number) => {
        const start = performance.now()
        for (let at = 0; at < seconds * RATE; at += 128) {
          for (let i = 0; i < 128; i++) block[i] = Math.sin((at + i) * 0.1)
          convolver.process(block, 128)
        }
        return performance.now() - start
      }
      run(10)
      return run(60)
    }
    return { one: ms(1), eight: ms(MAX_CHANNELS) }
  },

  /** 5,000 files in 25 folders. */
  pack(path: string) {
    const next = random(77)
    const files: Record<string, Uint8Array> = {}
    for (let i = 0; i < 5_000; i++)
      files[`pack/${['open', 'closed'][i % 2]} ${i % 25}/response ${i}.wav`] = writeWav([made(next, 4 + (i % 30))], RATE, 24)
    writeFileSync(path, zipSync(files, { level: 1 }))
    return { files: 5_000 }
  },
}

const [task, ...args] = process.argv.slice(2)
console.log(JSON.stringify(tasks[task](...args)))
