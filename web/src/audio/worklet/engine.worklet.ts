import { LoudnessMeter } from '@fulgor/core/measure'
import { Engine, sameStructure, type Plan } from '@fulgor/core/render'
import { Convolver, type Quality, type ResponseSource } from '@fulgor/core/signal'
import { chirp } from './chirp'
import type { EngineOptions, FromWorklet, ToWorklet } from './messages'
import { reasonOf } from '../../background/tasks'

/** Seconds over which one chain gives way to another. */
const CROSSFADE = 0.02
/** Seconds of the ramps at play, stop and a new riff. */
const RAMP = 0.008
/** A gain that is nearer to its aim than this share of it has arrived. */
const NEAR = 1e-7
/** Longest take, s. */
const LONGEST_TAKE = 120
/** s that are listened to after a chirp. */
const PING = 0.6
const FRAMES = 128
/** Samples that the tuner looks at, and how often a second. */
const TUNER_SAMPLES = 4_096
const TUNER_RATE = 10

/** No channels: an input that is not there. */
const NOTHING: Float32Array[] = []

/** What sounds: an engine, or what one has over another. */
class Voice {
  private readonly left = new Float32Array(FRAMES)
  private readonly right = new Float32Array(FRAMES)

  constructor(
    readonly engine: Engine,
    readonly against: Engine | null,
  ) {}

  process(left: Float32Array, right: Float32Array, frames: number): void {
    const { against } = this
    if (against) this.left.set(left)
    this.engine.process(left, right, frames)
    if (!against) return
    against.process(this.left, this.right, frames)
    for (let i = 0; i < frames; i++) {
      left[i] -= this.left[i]
      right[i] -= this.right[i]
    }
  }
}

/** The riff or the live input and the engine on the audio thread. The same engine as everywhere; here it is fed, mixed and metered. */
class EngineProcessor extends AudioWorkletProcessor {
  private shipped: Readonly<Record<string, ReturnType<ResponseSource>>> = {}
  private blends = new Map<string, ReturnType<ResponseSource>>()
  private plan: Plan | null = null
  private quality: Quality = 'live'
  private voice: Voice | null = null
  private leaving: Voice | null = null
  private crossfade = 1
  private riff: Float32Array = new Float32Array(0)
  private place = 0
  private playing = false
  private loop = true
  private mono = false
  /** The listening place, behind everything that is measured. */
  private hearing: readonly [Convolver, Convolver] | null = null
  private placeMono = false
  private backing: readonly [Float32Array, Float32Array] | null = null
  /** Next frame of the backing, counted on from the riff's start. */
  private beside = 0
  private recording: readonly [Float32Array, Float32Array] | null = null
  private comparing = false
  private recordingGain = 1
  /** Next frame of the recording, and how much of what is heard it is. */
  private recordingAt = 0
  private recordingShare = 0
  private feed = 0
  private gain = 1
  private gainTarget = 1
  private live = false
  private channel: 'left' | 'right' | 'sum' = 'left'
  private trim = 1
  private liveFeed = 0
  private take: readonly Float32Array[] | null = null
  private taken = 0
  private ping: { at: number; sound: Float32Array; heard: Float32Array } | null = null
  private readonly dry = new Float32Array(FRAMES)
  private readonly raw = new Float32Array(FRAMES)
  private readonly left = new Float32Array(FRAMES)
  private readonly right = new Float32Array(FRAMES)
  private readonly oldLeft = new Float32Array(FRAMES)
  private readonly oldRight = new Float32Array(FRAMES)
  private readonly meter = new LoudnessMeter(sampleRate)
  private peaks = { input: 0, raw: 0 }
  private sinceMeter = 0
  /** The last samples while the tuner is on; it mutes the output. */
  private heard: Float32Array | null = null
  private sinceHeard = 0
  private mute = 1

  constructor(options?: { processorOptions?: EngineOptions }) {
    super()
    for (const message of options?.processorOptions?.initial ?? []) this.obey(message)
    this.port.onmessage = ({ data }: MessageEvent<ToWorklet>) => {
      try {
        this.obey(data)
      } catch (error) {
        this.tell({ type: 'failed', reason: reasonOf(error) })
      }
    }
  }

  private tell(message: FromWorklet, transfer: Transferable[] = []): void {
    this.port.postMessage(message, transfer)
  }

  private obey(message: ToWorklet): void {
    switch (message.type) {
      case 'responses':
        this.shipped = message.responses
        break
      case 'plan':
        this.change(message)
        break
      case 'positions':
        this.voice?.engine.setPositions(message.positions)
        break
      case 'riff':
        this.place = this.riff.length > 0 ? Math.floor((this.place / this.riff.length) * message.samples.length) : 0
        this.riff = message.samples
        this.feed = 0
        break
      case 'play':
        if (message.on && !this.playing && this.place >= this.riff.length) this.place = 0
        if (message.on && !this.playing) this.beside = this.live ? 0 : this.place
        this.playing = message.on
        this.loop = message.loop
        this.mono = message.mono
        break
      case 'seek':
        this.place = this.beside = Math.floor(message.share * this.riff.length)
        this.feed = 0
        break
      case 'source':
        this.live = message.live
        this.channel = message.channel
        this.trim = message.trim
        break
      case 'record':
        if (message.on) {
          this.take = Array.from({ length: message.both ? 2 : 1 }, () => new Float32Array(LONGEST_TAKE * sampleRate))
          this.taken = 0
        } else this.endTake()
        break
      case 'tuner':
        this.heard = message.on ? new Float32Array(TUNER_SAMPLES) : null
        this.sinceHeard = 0
        break
      case 'place':
        this.placeMono = message.mono
        this.hearing = message.taps ? [new Convolver(message.taps), new Convolver(message.taps)] : null
        break
      case 'backing':
        this.backing = message.sides
        break
      case 'recording':
        this.recording = message.sides
        this.recordingAt = 0
        break
      case 'compare':
        this.comparing = message.recording
        this.recordingGain = message.gain
        break
      case 'ping':
        this.ping = { at: 0, sound: chirp(sampleRate), heard: new Float32Array(Math.round(PING * sampleRate)) }
    }
  }

  private change({ plan, gain, quality, against, responses }: Extract<ToWorklet, { type: 'plan' }>): void {
    const { voice } = this
    this.keepBlends(plan, responses ?? {})
    const structural =
      !voice ||
      !this.plan ||
      quality !== this.quality ||
      (against !== undefined) !== (voice.against !== null) ||
      !sameStructure(plan, this.plan)
    if (structural) {
      const context = {
        responses: (id: string) => this.response(id),
        quality,
        failed: (stage: string, error: unknown) => this.tell({ type: 'muted', stage, reason: reasonOf(error) }),
      }
      const other = against ? new Engine({ ...plan, values: against }, context, sampleRate) : null
      const next = new Voice(new Engine(plan, context, sampleRate), other)
      this.leaving = voice
      this.crossfade = voice ? 0 : 1
      this.voice = next
    } else {
      voice.engine.setValues(plan.values, plan.control)
      if (against) voice.against?.setValues(against)
    }
    this.plan = plan
    this.quality = quality
    this.gainTarget = gain
    if (this.crossfade === 1 && !this.leaving && !this.playing) this.gain = gain
    this.tell({ type: 'applied', structural })
  }

  /** A running swap may still want the response of the plan before: it has taken it by then. */
  private keepBlends(plan: Plan, fresh: Readonly<Record<string, ReturnType<ResponseSource>>>): void {
    const next = new Map<string, ReturnType<ResponseSource>>()
    for (const { params } of Object.values(plan.values)) {
      const id = params.response
      if (typeof id !== 'string') continue
      const taps = fresh[id] ?? this.blends.get(id)
      if (taps) next.set(id, taps)
    }
    this.blends = next
  }

  private response(id: string): ReturnType<ResponseSource> {
    const taps = this.blends.get(id) ?? this.shipped[id]
    if (!taps) throw new RangeError(`The impulse response “${id}” is not loaded.`)
    return taps
  }

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const out = outputs[0]
    const frames = out[0].length
    const { dry, left, right, voice } = this
    for (let start = 0; start < frames; start += FRAMES) {
      const count = Math.min(FRAMES, frames - start)
      this.readRiff(count)
      this.readInput(inputs[0] ?? NOTHING, start, count)
      // without a preset the input is still heard, measured and recorded
      if (voice) left.set(dry)
      else {
        left.fill(0)
        right.fill(0)
      }
      try {
        voice?.process(left, right, count)
        if (this.leaving) this.mixLeaving(count)
      } catch (error) {
        // the next plan makes a new one; input, tuner and takes go on
        this.voice = this.leaving = null
        this.tell({ type: 'failed', reason: reasonOf(error) })
      }
      this.write(out, start, count)
      this.hearThere(out, start, count)
      if (this.ping) this.runPing(out, start, count)
    }
    this.report(frames)
    return true
  }

  /** The next dry frames; a short ramp at the ends of what is played keeps them free of clicks. */
  private readRiff(count: number): void {
    const { dry, riff, loop } = this
    const isOn = this.playing && !this.live
    let { place, feed } = this
    if (place >= riff.length && loop) place = 0
    if (isOn && feed === 1 && place + count <= riff.length) {
      for (let i = 0; i < count; i++) dry[i] = riff[place + i]
      place += count
    } else if (!isOn && feed === 0) dry.fill(0)
    else {
      const step = 1 / (RAMP * sampleRate)
      for (let i = 0; i < count; i++) {
        if (place >= riff.length && loop) place = 0
        const isThere = place < riff.length
        feed = isOn && isThere ? Math.min(1, feed + step) : Math.max(0, feed - step)
        dry[i] = isThere ? riff[place] * feed : 0
        if (feed > 0 && isThere) place++
      }
    }
    this.place = place
    this.feed = feed
    if (isOn && !loop && place >= riff.length) {
      this.playing = false
      this.tell({ type: 'ended' })
    }
  }

  /** Adds the live input while it is what plays, and keeps it while a take is recorded. */
  private readInput(input: Float32Array[], start: number, count: number): void {
    const { dry, raw, channel, trim, take, peaks } = this
    const first = input.at(0)
    const second = input.at(1) ?? first
    const isOn = this.live && this.playing
    if (first && second) {
      const ofLeft = channel === 'left' ? 1 : channel === 'right' ? 0 : 0.5
      const ofRight = 1 - ofLeft
      let most = peaks.raw
      for (let i = 0; i < count; i++) {
        const x = ofLeft * first[start + i] + ofRight * second[start + i]
        raw[i] = x
        if (x > most) most = x
        else if (-x > most) most = -x
      }
      peaks.raw = most
    } else raw.fill(0)
    if (isOn || this.liveFeed > 0) {
      const step = 1 / (RAMP * sampleRate)
      let feed = this.liveFeed
      for (let i = 0; i < count; i++) {
        feed = isOn ? Math.min(1, feed + step) : Math.max(0, feed - step)
        dry[i] += raw[i] * trim * feed
      }
      this.liveFeed = feed
    }
    peaks.input = Math.max(peaks.input, this.meter.peakOf(dry, count))
    if (this.heard) {
      this.heard.copyWithin(0, count)
      for (let i = 0; i < count; i++) this.heard[TUNER_SAMPLES - count + i] = dry[i]
      this.sinceHeard += count
    }
    if (!take) return
    const longest = take[0].length
    for (let i = 0; i < count && this.taken < longest; i++) {
      if (take.length === 1) take[0][this.taken] = raw[i] * trim
      else {
        take[0][this.taken] = first ? first[start + i] : 0
        take[1][this.taken] = second ? second[start + i] : 0
      }
      this.taken++
    }
    if (this.taken === longest) this.endTake()
  }

  private endTake(): void {
    if (!this.take) return
    const channels = this.take.map((samples) => samples.slice(0, this.taken))
    this.take = null
    this.tell(
      { type: 'recorded', channels },
      channels.map((samples) => samples.buffer),
    )
  }

  private mixLeaving(count: number): void {
    const { dry, left, right, oldLeft, oldRight } = this
    const step = 1 / (CROSSFADE * sampleRate)
    oldLeft.set(dry)
    this.leaving?.process(oldLeft, oldRight, count)
    for (let i = 0; i < count; i++) {
      this.crossfade = Math.min(1, this.crossfade + step)
      left[i] = this.crossfade * left[i] + (1 - this.crossfade) * oldLeft[i]
      right[i] = this.crossfade * right[i] + (1 - this.crossfade) * oldRight[i]
    }
    if (this.crossfade === 1) this.leaving = null
  }

  private write(out: Float32Array[], start: number, count: number): void {
    const { left, right, mono, recording, recordingGain, gainTarget } = this
    const isTuning = this.heard !== null
    const muteTarget = isTuning ? 0 : 1
    const glide = 1 - Math.exp(-1 / (0.01 * sampleRate))
    let { gain, mute } = this
    if (gain !== gainTarget)
      for (let i = 0; i < count; i++) {
        gain += (gainTarget - gain) * glide
        left[i] *= gain
        right[i] *= gain
      }
    else if (gain !== 1)
      for (let i = 0; i < count; i++) {
        left[i] *= gain
        right[i] *= gain
      }
    // it would else come nearer for ever
    this.gain = Math.abs(gainTarget - gain) < NEAR * gainTarget ? gainTarget : gain
    const isCompared = recording !== null && this.comparing && this.playing
    if (isCompared || this.recordingShare > 0) {
      const step = (isCompared ? 1 : -1) / (CROSSFADE * sampleRate)
      let { recordingShare: share, recordingAt: at } = this
      for (let i = 0; i < count; i++) {
        share = Math.min(1, Math.max(0, share + step))
        if (!recording || share === 0) continue
        if (at >= recording[0].length) at = 0
        left[i] += (recording[0][at] * recordingGain - left[i]) * share
        right[i] += (recording[1][at] * recordingGain - right[i]) * share
        at++
      }
      this.recordingShare = share
      this.recordingAt = at
    }
    if (mute !== muteTarget)
      for (let i = 0; i < count; i++) {
        mute += (muteTarget - mute) * glide
        if (isTuning && mute < 1e-5) mute = 0
        left[i] *= mute
        right[i] *= mute
      }
    else if (isTuning) {
      left.fill(0)
      right.fill(0)
    }
    this.mute = !isTuning && mute > 1 - NEAR ? 1 : mute
    if (mono) for (let i = 0; i < count; i++) left[i] = right[i] = 0.5 * (left[i] + right[i])
    this.bringOut(out, start, count)
    this.meter.process(left, right, count)
  }

  /** To the one or two channels of what goes out. */
  private bringOut(out: Float32Array[], start: number, count: number): void {
    const { left, right } = this
    const isWhole = count === FRAMES
    out[0].set(isWhole ? left : left.subarray(0, count), start)
    out.at(1)?.set(isWhole ? right : right.subarray(0, count), start)
  }

  /** Lays the listening place over what goes out: meters tell of the preset, not of the room. */
  private hearThere(out: Float32Array[], start: number, count: number): void {
    const { hearing, left, right } = this
    const band = this.addBacking(count)
    if (!hearing && !this.placeMono && !band) return
    if (this.placeMono) for (let i = 0; i < count; i++) left[i] = right[i] = 0.5 * (left[i] + right[i])
    hearing?.[0].process(left, count)
    hearing?.[1].process(right, count)
    this.bringOut(out, start, count)
  }

  /** The band comes to what is heard, not to what is measured. @returns whether it sounds */
  private addBacking(count: number): boolean {
    const { backing, left, right } = this
    if (!backing || backing[0].length === 0) return false
    const gain = Math.max(this.feed, this.liveFeed) * this.mute
    if (gain === 0) return false
    const [a, b] = backing
    for (let i = 0; i < count; i++) {
      const n = (this.beside + i) % a.length
      left[i] += a[n] * gain
      right[i] += b[n] * gain
    }
    this.beside += count
    return true
  }

  /** The chirp alone goes out while it is measured. */
  private runPing(out: Float32Array[], start: number, count: number): void {
    const { ping, raw } = this
    if (!ping) return
    for (let i = 0; i < count; i++) {
      const x = ping.at + i < ping.sound.length ? ping.sound[ping.at + i] : 0
      for (const channel of out) channel[start + i] = x
      if (ping.at + i < ping.heard.length) ping.heard[ping.at + i] = raw[i]
    }
    ping.at += count
    if (ping.at < ping.heard.length) return
    this.ping = null
    this.tell({ type: 'pinged', heard: ping.heard }, [ping.heard.buffer as ArrayBuffer])
  }

  private report(frames: number): void {
    if (this.heard && this.sinceHeard >= sampleRate / TUNER_RATE) {
      this.sinceHeard = 0
      this.tell({ type: 'heard', samples: this.heard.slice() })
    }
    this.sinceMeter += frames
    if (this.sinceMeter < sampleRate / 20) return
    this.sinceMeter = 0
    const { input, raw } = this.peaks
    const { left, right } = this.meter.peaks
    this.tell({
      type: 'meter',
      position: this.riff.length > 0 ? this.place / this.riff.length : 0,
      input,
      raw,
      left,
      right,
      momentary: this.meter.momentary,
    })
    this.peaks.input = this.peaks.raw = this.meter.peaks.left = this.meter.peaks.right = 0
  }
}

registerProcessor('fulgor-engine', EngineProcessor)
