import { dearestChain, demoPresets } from '@fulgor/core/demo'
import { synthesiseResponse } from '@fulgor/core/cabinet'
import { createStage, resolveValues } from '@fulgor/core/preset'
import { Engine, type Plan } from '@fulgor/core/render'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { design, identity, sectionResponse, type Quality, type Section } from '@fulgor/core/signal'
import type { ToWorklet } from '../audio/worklet/messages'
import workletUrl from '../audio/worklet/engine.worklet.ts?worker&url'

/** What `npm run bench` and the browser tests ask of a page: no interface of its own, reached at /bench.html. */
const SAMPLE_RATE = 48_000

const responses = Object.fromEntries(
  ['open-1x12-coil', 'closed-4x12-coil', 'open-2x12-ribbon'].map((id) => [id, synthesiseResponse(id, SAMPLE_RATE)]),
)

function demoPlan(snapshot: string | null): { plan: Plan; riff: Float32Array } {
  const { preset } = demoPresets[0]
  return {
    plan: { chain: preset.chain, values: resolveValues(preset, snapshot) },
    riff: synthesiseRiff(preset.riff.id, preset.riff.strength, preset.tempo, SAMPLE_RATE),
  }
}

async function throughWorklet(
  plan: Plan,
  riff: Float32Array,
  frames: number,
  quality: Quality = 'live',
): Promise<{ ms: number; channels: [Float32Array, Float32Array] }> {
  const context = new OfflineAudioContext(2, frames, SAMPLE_RATE)
  await context.audioWorklet.addModule(workletUrl)
  const initial: ToWorklet[] = [
    { type: 'responses', responses },
    { type: 'plan', plan, gain: 1, quality },
    { type: 'riff', samples: riff },
    { type: 'play', on: true, loop: true, mono: false },
  ]
  const node = new AudioWorkletNode(context, 'fulgor-engine', { numberOfInputs: 0, outputChannelCount: [2], processorOptions: { initial } })
  node.connect(context.destination)
  const start = performance.now()
  const buffer = await context.startRendering()
  return { ms: performance.now() - start, channels: [buffer.getChannelData(0), buffer.getChannelData(1)] }
}

/** The worklet's start ramp, applied to the riff for the offline engine. */
function rampedRiff(riff: Float32Array, frames: number): Float32Array {
  const step = 1 / (0.008 * SAMPLE_RATE)
  let feed = 0
  return Float32Array.from({ length: frames }, (_, n) => riff[n % riff.length] * (feed = Math.min(1, feed + step)))
}

const bench = {
  /** Largest difference between the live worklet and the offline engine over `seconds`, in dB re full scale; −Infinity when equal. */
  async liveAgainstOffline(snapshot: string | null, seconds: number): Promise<{ differenceDb: number; peak: number }> {
    const { plan, riff } = demoPlan(snapshot)
    const frames = Math.round((seconds * SAMPLE_RATE) / 128) * 128
    const { channels } = await throughWorklet(plan, riff, frames)
    const left = rampedRiff(riff, frames)
    const right = new Float32Array(frames)
    new Engine(plan, { responses: (id) => responses[id], quality: 'live' }, SAMPLE_RATE).process(left, right, frames)
    let difference = 0
    let peak = 0
    for (let n = 0; n < frames; n++) {
      difference = Math.max(difference, Math.abs(channels[0][n] - Math.fround(left[n])), Math.abs(channels[1][n] - Math.fround(right[n])))
      peak = Math.max(peak, Math.abs(channels[0][n]))
    }
    return { differenceDb: 20 * Math.log10(difference), peak }
  },

  /** Largest difference in dB between our EQ sections and the browser's BiquadFilterNode, 20 Hz–20 kHz. */
  eqAgainstBrowser(): number {
    const context = new OfflineAudioContext(1, 1, SAMPLE_RATE)
    const hz = Float32Array.from({ length: 300 }, (_, i) => 20 * Math.pow(1000, i / 299))
    const qDb = (q: number) => 20 * Math.log10(q)
    const cases: readonly (readonly [BiquadFilterOptions, (s: Section) => void])[] = [
      [{ type: 'lowpass', frequency: 4000, Q: qDb(0.707) }, (s) => design.lowPass(s, 4000, 0.707, SAMPLE_RATE)],
      [{ type: 'highpass', frequency: 120, Q: qDb(1.3) }, (s) => design.highPass(s, 120, 1.3, SAMPLE_RATE)],
      [{ type: 'peaking', frequency: 800, Q: 1.4, gain: -9 }, (s) => design.bell(s, 800, 1.4, -9, SAMPLE_RATE)],
      [{ type: 'lowshelf', frequency: 250, gain: 7 }, (s) => design.lowShelf(s, 250, 7, SAMPLE_RATE)],
      [{ type: 'highshelf', frequency: 5000, gain: -12 }, (s) => design.highShelf(s, 5000, -12, SAMPLE_RATE)],
    ]
    let worst = 0
    for (const [options, write] of cases) {
      const magnitude = new Float32Array(hz.length)
      new BiquadFilterNode(context, options).getFrequencyResponse(hz, magnitude, new Float32Array(hz.length))
      const section = identity()
      write(section)
      hz.forEach((f, i) => {
        const ours = Math.hypot(...sectionResponse(section, f, SAMPLE_RATE))
        worst = Math.max(worst, Math.abs(20 * Math.log10((ours + 1e-7) / (magnitude[i] + 1e-7))))
      })
    }
    return worst
  },

  /** Seconds of sound a second of computing, in the worklet: the demo's storm or the dearest chain. */
  async workletRtf(seconds: number, which: 'storm' | 'dearest' = 'storm', quality: Quality = 'live'): Promise<number> {
    const { plan, riff } = demoPlan('storm')
    const chain = { chain: dearestChain, values: resolveValues({ ...demoPresets[0].preset, chain: dearestChain }, null) }
    const { ms } = await throughWorklet(which === 'storm' ? plan : chain, riff, seconds * SAMPLE_RATE, quality)
    return (seconds * 1000) / ms
  },

  /** ms for `seconds` of the riff through our amp stage alone, on this page's own thread. */
  ampMs(seconds: number): number {
    const { riff } = demoPlan(null)
    const chain = [createStage('amp', 'amp.lantern', { gain: 8 })]
    const values = resolveValues({ ...demoPresets[0].preset, chain }, null)
    const run = (length: number) => {
      const engine = new Engine({ chain, values }, { responses: (id) => responses[id], quality: 'live' }, SAMPLE_RATE)
      const left = new Float32Array(128)
      const right = new Float32Array(128)
      const start = performance.now()
      for (let at = 0; at < length * SAMPLE_RATE; at += 128) {
        for (let i = 0; i < 128; i++) left[i] = riff[(at + i) % riff.length]
        engine.process(left, right, 128)
      }
      return performance.now() - start
    }
    run(2)
    return run(seconds)
  },

  /** ms that three of the browser's own WaveShaperNodes at '4x' take for as much sound. */
  async waveShapersMs(seconds: number): Promise<number> {
    const { riff } = demoPlan(null)
    const context = new OfflineAudioContext(1, seconds * SAMPLE_RATE, SAMPLE_RATE)
    const buffer = new AudioBuffer({ length: riff.length, sampleRate: SAMPLE_RATE, numberOfChannels: 1 })
    buffer.copyToChannel(new Float32Array(riff), 0)
    const source = new AudioBufferSourceNode(context, { buffer, loop: true })
    const curve = Float32Array.from({ length: 4096 }, (_, i) => Math.tanh(4 * (i / 2048 - 1)))
    let last: AudioNode = source
    for (let k = 0; k < 3; k++) last = last.connect(new WaveShaperNode(context, { curve, oversample: '4x' }))
    last.connect(context.destination)
    source.start()
    const start = performance.now()
    await context.startRendering()
    return performance.now() - start
  },

  /** ms that the browser's own ConvolverNode takes for `seconds` of mono with a response of `taps`. */
  async convolverNodeMs(seconds: number, taps: number): Promise<number> {
    const context = new OfflineAudioContext(1, seconds * SAMPLE_RATE, SAMPLE_RATE)
    const noise = new AudioBuffer({ length: seconds * SAMPLE_RATE, sampleRate: SAMPLE_RATE, numberOfChannels: 1 })
    noise.copyToChannel(
      Float32Array.from({ length: noise.length }, () => Math.random() - 0.5),
      0,
    )
    const response = new AudioBuffer({ length: taps, sampleRate: SAMPLE_RATE, numberOfChannels: 1 })
    response.copyToChannel(
      Float32Array.from({ length: taps }, () => Math.random() - 0.5),
      0,
    )
    const convolver = new ConvolverNode(context, { buffer: response, disableNormalization: true })
    const source = new AudioBufferSourceNode(context, { buffer: noise })
    source.connect(convolver).connect(context.destination)
    source.start()
    const start = performance.now()
    await context.startRendering()
    return performance.now() - start
  },
}

export type Bench = typeof bench
Object.assign(window, { fulgorBench: bench })
