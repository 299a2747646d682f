import { LoudnessMeter } from '@fulgor/core/measure'
import { Engine, sameStructure, type Plan } from '@fulgor/core/render'
import type { EngineOptions, FromWorklet, ToWorklet } from './messages'

/** Seconds over which one chain gives way to another. */
const CROSSFADE = 0.02
/** Seconds of the ramps at play, stop and a new riff. */
const RAMP = 0.008

/** The riff and the engine on the audio thread. The same engine as everywhere; here it is only fed, mixed and metered. */
class EngineProcessor extends AudioWorkletProcessor {
  private responses: Readonly<Record<string, Float64Array>> = {}
  private plan: Plan | null = null
  private engine: Engine | null = null
  private leaving: Engine | null = null
  private crossfade = 1
  private riff: Float32Array = new Float32Array(0)
  private place = 0
  private playing = false
  private loop = true
  private mono = false
  private feed = 0
  private gain = 1
  private gainTarget = 1
  private readonly dry = new Float64Array(128)
  private readonly left = new Float64Array(128)
  private readonly right = new Float64Array(128)
  private readonly oldLeft = new Float64Array(128)
  private readonly oldRight = new Float64Array(128)
  private readonly meter = new LoudnessMeter(sampleRate)
  private peaks = { input: 0, left: 0, right: 0 }
  private sinceMeter = 0

  constructor(options?: { processorOptions?: EngineOptions }) {
    super()
    for (const message of options?.processorOptions?.initial ?? []) this.take(message)
    this.port.onmessage = ({ data }: MessageEvent<ToWorklet>) => {
      try {
        this.take(data)
      } catch (error) {
        this.tell({ type: 'failed', reason: error instanceof Error ? error.message : String(error) })
      }
    }
  }

  private tell(message: FromWorklet): void {
    this.port.postMessage(message)
  }

  private take(message: ToWorklet): void {
    switch (message.type) {
      case 'responses':
        this.responses = message.responses
        break
      case 'plan':
        this.change(message.plan, message.gain)
        break
      case 'riff':
        this.place = this.riff.length > 0 ? Math.floor((this.place / this.riff.length) * message.samples.length) : 0
        this.riff = message.samples
        this.feed = 0
        break
      case 'play':
        if (message.on && !this.playing && this.place >= this.riff.length) this.place = 0
        this.playing = message.on
        this.loop = message.loop
        this.mono = message.mono
        break
      case 'seek':
        this.place = Math.floor(message.share * this.riff.length)
        this.feed = 0
    }
  }

  private change(plan: Plan, gain: number): void {
    const structural = !this.engine || !this.plan || !sameStructure(plan, this.plan)
    if (structural) {
      const next = new Engine(plan, { responses: (id) => this.response(id) }, sampleRate)
      this.leaving = this.engine
      this.crossfade = this.engine ? 0 : 1
      this.engine = next
    } else this.engine?.setValues(plan.values)
    this.plan = plan
    this.gainTarget = gain
    if (this.crossfade === 1 && !this.leaving && !this.playing) this.gain = gain
    this.tell({ type: 'applied', structural })
  }

  private response(id: string): Float64Array {
    const taps = this.responses[id]
    if (!taps) throw new RangeError(`The impulse response “${id}” is not loaded.`)
    return taps
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const out = outputs[0]
    const frames = out[0].length
    const { dry, left, right, engine } = this
    if (!engine) return true
    for (let start = 0; start < frames; start += 128) {
      const count = Math.min(128, frames - start)
      this.readRiff(count)
      for (let i = 0; i < count; i++) left[i] = dry[i]
      engine.process(left, right, count)
      if (this.leaving) this.mixLeaving(count)
      this.write(out, start, count)
    }
    this.report(frames)
    return true
  }

  /** The next dry frames; a short ramp at the ends of what is played keeps them free of clicks. */
  private readRiff(count: number): void {
    const { dry, riff } = this
    const step = 1 / (RAMP * sampleRate)
    for (let i = 0; i < count; i++) {
      if (this.place >= riff.length && this.loop) this.place = 0
      const sounding = this.playing && this.place < riff.length
      this.feed = sounding ? Math.min(1, this.feed + step) : Math.max(0, this.feed - step)
      const x = this.place < riff.length ? riff[this.place] * this.feed : 0
      dry[i] = x
      if (this.feed > 0 && this.place < riff.length) this.place++
      if (x > this.peaks.input || -x > this.peaks.input) this.peaks.input = Math.abs(x)
    }
    if (this.playing && !this.loop && this.place >= riff.length) {
      this.playing = false
      this.tell({ type: 'ended' })
    }
  }

  private mixLeaving(count: number): void {
    const { dry, left, right, oldLeft, oldRight } = this
    const step = 1 / (CROSSFADE * sampleRate)
    for (let i = 0; i < count; i++) oldLeft[i] = dry[i]
    this.leaving?.process(oldLeft, oldRight, count)
    for (let i = 0; i < count; i++) {
      this.crossfade = Math.min(1, this.crossfade + step)
      left[i] = this.crossfade * left[i] + (1 - this.crossfade) * oldLeft[i]
      right[i] = this.crossfade * right[i] + (1 - this.crossfade) * oldRight[i]
    }
    if (this.crossfade === 1) this.leaving = null
  }

  private write(out: Float32Array[], start: number, count: number): void {
    const { left, right, mono } = this
    const glide = 1 - Math.exp(-1 / (0.01 * sampleRate))
    const second = out.length > 1 ? out[1] : out[0]
    for (let i = 0; i < count; i++) {
      this.gain += (this.gainTarget - this.gain) * glide
      let l = left[i] * this.gain
      let r = right[i] * this.gain
      if (mono) l = r = 0.5 * (l + r)
      out[0][start + i] = l
      second[start + i] = r
      left[i] = l
      right[i] = r
      if (l > this.peaks.left || -l > this.peaks.left) this.peaks.left = Math.abs(l)
      if (r > this.peaks.right || -r > this.peaks.right) this.peaks.right = Math.abs(r)
    }
    this.meter.process(left, right, count)
  }

  private report(frames: number): void {
    this.sinceMeter += frames
    if (this.sinceMeter < sampleRate / 20) return
    this.sinceMeter = 0
    const { input, left, right } = this.peaks
    this.tell({
      type: 'meter',
      position: this.riff.length > 0 ? this.place / this.riff.length : 0,
      input,
      left,
      right,
      momentary: this.meter.momentary,
    })
    this.peaks.input = this.peaks.left = this.peaks.right = 0
  }
}

registerProcessor('fulgor-engine', EngineProcessor)
