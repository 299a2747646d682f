import { pitchOf, type Pitch } from '@fulgor/core/measure'
import { findStage, partName } from '@fulgor/core/preset'
import { cabinetMaker, renderers } from '../threads/crews'
import { reasonOf } from '../background/tasks'
import { notified } from '../state/notices'
import { liveChanged, loopChanged, playerFailed, playingChanged, recordingChanged, sourceChosen, type LiveSettings } from '../state/player'
import { browserStorage } from '../storage/storage'
import { presentPreset } from '../state/actions'
import type { Listening, Store } from '../state/store'
import { Feed } from './feed'
import { SAMPLE_RATE } from '../threads/rate'
import { chirp, chirpDelay } from './worklet/chirp'
import workletUrl from './worklet/engine.worklet.ts?worker&url'
import type { FromWorklet, MeterMessage } from './worklet/messages'

const CAUTION_KEY = 'fulgor.loudnessCaution'
const CAUTION =
  'Start with headphones and monitors turned down: a new preset may be far louder than the last. On stage follow local codes and the venue’s rules for sound levels.'
const HINTS: Record<LiveSettings['buffer'], AudioContextLatencyCategory> = {
  smallest: 'interactive',
  balanced: 'balanced',
  safe: 'playback',
}

/** What of the page decides what sounds. */
const SOUNDING = ['editor', 'player', 'controls', 'board', 'measures'] as const

const SILENT: MeterMessage = { type: 'meter', position: 0, input: 0, raw: 0, left: 0, right: 0, momentary: -Infinity }

/** The page's end of the live engine: keeps what sounds equal to what the sheet says. */
export class Player {
  private context: AudioContext | null = null
  private node: AudioWorkletNode | null = null
  private analyser: AnalyserNode | null = null
  private starting: Promise<void> | null = null
  private sound: { node: AudioBufferSourceNode; fade: GainNode; at: number } | null = null
  private input: { stream: MediaStream; node: MediaStreamAudioSourceNode; key: string } | null = null
  private pitchState: Pitch | null = null
  private meterState = SILENT
  private hardest = 0
  private onTake: ((channels: readonly Float32Array[]) => void) | null = null
  private onPing: ((heard: Float32Array) => void) | null = null
  private readonly listeners = new Set<() => void>()

  private readonly feed: Feed

  constructor(
    private readonly store: Store,
    listen: Listening,
  ) {
    this.feed = new Feed(store, { renderers, cabinetMaker }, () => this.showPitch(null))
    listen({
      predicate: (_, now, before) => SOUNDING.some((part) => now[part] !== before[part]),
      effect: () => this.feed.follow(),
    })
  }

  /** For useSyncExternalStore: levels change too often for the store. */
  readonly meter = {
    subscribe: (listener: () => void) => {
      this.listeners.add(listener)
      return () => this.listeners.delete(listener)
    },
    read: () => this.meterState,
  }

  /** What the tuner hears; null: no clear note. */
  readonly tuner = {
    subscribe: this.meter.subscribe,
    read: () => this.pitchState,
  }

  /** When the audio thread last took up a plan, ms of this page's clock. */
  appliedAt = 0

  /** Largest output sample that the browser's own analyser sees now, linear; 0 while nothing runs. */
  heardPeak(): number {
    if (!this.analyser) return 0
    const samples = new Float32Array(this.analyser.fftSize)
    this.analyser.getFloatTimeDomainData(samples)
    return samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0)
  }

  async toggle(): Promise<void> {
    const { playing, source } = this.store.getState().player
    if (playing) {
      this.store.dispatch(playingChanged(false))
      return
    }
    this.stopSound()
    try {
      await this.start()
      if (source === 'live') await this.openInput()
      this.store.dispatch(playingChanged(true))
      this.caution()
    } catch (error) {
      this.store.dispatch(playerFailed(`No sound: ${reasonOf(error)}`))
    }
  }

  /** Said once in this browser. */
  private caution(): void {
    if (browserStorage.read(CAUTION_KEY)) return
    browserStorage.write(CAUTION_KEY, 'said')
    this.store.dispatch(notified({ kind: 'note', text: CAUTION }))
  }

  /** Plays a finished sound in a loop, instead of the riff, until {@link stopSound}. */
  async playSound([left, right]: readonly [Float32Array, Float32Array]): Promise<void> {
    await this.start()
    const { context, analyser } = this
    if (!context || !analyser) return
    this.store.dispatch(playingChanged(false))
    const buffer = context.createBuffer(2, left.length, SAMPLE_RATE)
    buffer.copyToChannel(Float32Array.from(left), 0)
    buffer.copyToChannel(Float32Array.from(right), 1)
    const since = this.sound ? (context.currentTime - this.sound.at) % buffer.duration : 0
    this.stopSound()
    const node = new AudioBufferSourceNode(context, { buffer, loop: true })
    const fade = new GainNode(context, { gain: 0 })
    fade.gain.setTargetAtTime(1, context.currentTime, 0.004)
    node.connect(fade).connect(analyser)
    node.start(0, since)
    this.sound = { node, fade, at: context.currentTime - since }
    this.caution()
  }

  stopSound(): void {
    if (!this.sound || !this.context) return
    const { node, fade } = this.sound
    fade.gain.setTargetAtTime(0, this.context.currentTime, 0.004)
    node.stop(this.context.currentTime + 0.04)
    this.sound = null
  }

  seek(share: number): void {
    this.feed.send({ type: 'seek', share })
    this.show({ ...this.meterState, position: share })
  }

  toggleLoop(): void {
    this.store.dispatch(loopChanged(!this.store.getState().player.loop))
  }

  private start(): Promise<void> {
    this.starting ??= this.open().catch((error: unknown) => {
      this.starting = null
      throw error
    })
    return this.starting.then(() => this.context?.resume())
  }

  private async open(): Promise<void> {
    const latencyHint = HINTS[this.store.getState().player.live.buffer]
    const context = new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint })
    await context.audioWorklet.addModule(workletUrl)
    const node = new AudioWorkletNode(context, 'fulgor-engine', { numberOfInputs: 1, outputChannelCount: [2] })
    const analyser = new AnalyserNode(context, { fftSize: 2048 })
    node.connect(analyser).connect(context.destination)
    node.port.onmessage = ({ data }: MessageEvent<FromWorklet>) => this.hear(data)
    node.onprocessorerror = () => this.store.dispatch(playerFailed('The audio engine stopped; reload the page.'))
    await this.feed.begin((message) => node.port.postMessage(message))
    this.context = context
    this.analyser = analyser
    this.node = node
  }

  /** What the browser lets a page choose from; names are told only once the microphone was allowed. */
  async inputs(): Promise<MediaDeviceInfo[]> {
    const devices = await navigator.mediaDevices.enumerateDevices()
    return devices.filter((d) => d.kind === 'audioinput')
  }

  /** Opens the chosen input, with everything off that a browser does to a voice. */
  async openInput(): Promise<void> {
    await this.start()
    const { deviceId } = this.store.getState().player.live
    if (!this.context || !this.node || this.input?.key === deviceId) return
    this.closeInput()
    let stream: MediaStream
    try {
      stream = await navigator.mediaDevices.getUserMedia({
        audio: {
          ...(deviceId ? { deviceId: { exact: deviceId } } : {}),
          echoCancellation: false,
          noiseSuppression: false,
          autoGainControl: false,
          channelCount: { ideal: 2 },
        },
      })
    } catch (error) {
      const name = error instanceof DOMException ? error.name : ''
      throw new Error(
        name === 'NotAllowedError'
          ? 'this browser was not allowed to use the input; allow the microphone for this page.'
          : name === 'NotFoundError' || name === 'OverconstrainedError'
            ? 'the chosen input is not there; plug it in or choose another one.'
            : `the input could not be opened (${reasonOf(error)}).`,
        { cause: error },
      )
    }
    const node = this.context.createMediaStreamSource(stream)
    node.connect(this.node)
    this.input = { stream, node, key: deviceId }
  }

  private closeInput(): void {
    this.input?.node.disconnect()
    for (const track of this.input?.stream.getTracks() ?? []) track.stop()
    this.input = null
  }

  /** From the riff to the player's own guitar and back. */
  async chooseSource(source: 'riff' | 'live'): Promise<void> {
    try {
      if (source === 'live') await this.openInput()
      else this.closeInput()
      this.store.dispatch(sourceChosen(source))
    } catch (error) {
      this.store.dispatch(playerFailed(`No input: ${reasonOf(error)}`))
    }
  }

  /** Takes up another device or buffer; a running context is opened anew for a buffer. */
  async changeLive(change: Partial<LiveSettings>): Promise<void> {
    // another way in has another latency, and was not calibrated
    const forget = change.deviceId !== undefined ? { hardPeakDbfs: null, latencyMs: null } : change.buffer ? { latencyMs: null } : {}
    this.store.dispatch(liveChanged({ ...change, ...forget }))
    const live = this.store.getState().player.source === 'live'
    if (change.buffer && this.context) {
      const playing = this.store.getState().player.playing
      this.closeInput()
      await this.context.close()
      this.feed.end()
      this.context = this.node = this.analyser = this.starting = null
      if (playing || live) await this.start()
    }
    if (live && (change.buffer || change.deviceId !== undefined)) await this.chooseSource('live')
  }

  /** ms that the browser says it adds on the way out. */
  outputLatencyMs(): number | null {
    return this.context ? (this.context.baseLatency + this.context.outputLatency) * 1000 : null
  }

  /** Starts watching for the hardest strum. */
  startCalibration(): void {
    this.hardest = 0
  }

  /** Peak before the trim since {@link startCalibration}, dBFS. */
  hardestDbfs(): number {
    return 20 * Math.log10(this.hardest + 1e-9)
  }

  /**
   * Sends a chirp out and listens to it coming back, through a cable or a microphone before a loudspeaker.
   * @returns ms, or null when it was not heard
   */
  async measureLatency(): Promise<number | null> {
    await this.openInput()
    const heard = await new Promise<Float32Array>((done) => {
      this.onPing = done
      this.feed.send({ type: 'ping' })
    })
    const frames = chirpDelay(chirp(SAMPLE_RATE), heard)
    const latencyMs = frames === null ? null : (frames / SAMPLE_RATE) * 1000
    this.store.dispatch(liveChanged({ latencyMs }))
    return latencyMs
  }

  /** Records until {@link stopTake}: the chosen channel of the input dry, or both as they come from a device. */
  async startTake(both = false): Promise<void> {
    await this.openInput()
    this.feed.send({ type: 'record', on: true, both })
    this.store.dispatch(recordingChanged(true))
  }

  /** @returns one channel, or two where both were asked for */
  async stopTake(): Promise<readonly Float32Array[]> {
    const channels = await new Promise<readonly Float32Array[]>((done) => {
      this.onTake = done
      this.feed.send({ type: 'record', on: false })
    })
    this.store.dispatch(recordingChanged(false))
    return channels
  }

  private hear(message: FromWorklet): void {
    if (message.type === 'meter') {
      this.hardest = Math.max(this.hardest, message.raw)
      this.show(message)
    } else if (message.type === 'ended') this.store.dispatch(playingChanged(false))
    else if (message.type === 'failed') this.store.dispatch(playerFailed(message.reason))
    else if (message.type === 'muted') this.tellMuted(message.stage, message.reason)
    else if (message.type === 'applied') this.appliedAt = performance.now()
    else if (message.type === 'recorded') this.onTake?.(message.channels)
    else if (message.type === 'heard') this.showPitch(pitchOf(message.samples, SAMPLE_RATE))
    else if (message.type === 'pinged') this.onPing?.(message.heard)
  }

  private tellMuted(stage: string, reason: string): void {
    const preset = presentPreset(this.store.getState())
    const name = preset && findStage(preset, stage) ? partName(preset, stage) : stage
    this.store.dispatch(
      notified({
        kind: 'warning',
        text: `${name} failed and is mute: ${reason} Change one of its values, or take it out, and it sounds again.`,
      }),
    )
  }

  private show(meter: MeterMessage): void {
    this.meterState = meter
    for (const listener of this.listeners) listener()
  }

  private showPitch(pitch: Pitch | null): void {
    this.pitchState = pitch
    for (const listener of this.listeners) listener()
  }
}
