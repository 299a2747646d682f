import { judgedDry, partsOf, resolveStage, resolveValues, tempoOf, withStage, withToggled, type Preset } from '@fulgor/core/preset'
import { pitchOf, type Pitch } from '@fulgor/core/measure'
import { controlPlan, type Plan } from '@fulgor/core/render'
import { actingPositions } from '../state/controls'
import { dbToGain, type StereoResponse } from '@fulgor/core/signal'
import { notified } from '../state/notices'
import { liveChanged, loopChanged, playerFailed, playingChanged, recordingChanged, sourceChosen, type LiveSettings } from '../state/player'
import type { RootState, Store } from '../state/store'
import { withAudition } from './audition'
import { bypassKey, savedKey } from './measuring'
import { riffSource } from './riffSource'
import { chirp, chirpDelay } from './worklet/chirp'
import type { FromWorklet, MeterMessage, ToWorklet } from './worklet/messages'
import workletUrl from './worklet/engine.worklet.ts?worker&url'
import { cabinetWorker, renderWorkers, SAMPLE_RATE } from './workers'
import { browserStorage } from '../state/storage'

const CAUTION_KEY = 'fulgor.loudnessCaution'
const CAUTION =
  'Start with headphones and monitors turned down: a new preset may be far louder than the last. On stage follow local codes and the venue’s rules for sound levels.'
const HINTS: Record<LiveSettings['buffer'], AudioContextLatencyCategory> = {
  smallest: 'interactive',
  balanced: 'balanced',
  safe: 'playback',
}

const KEPT_BLENDS = 16
/** ms until a blend that could not be computed is asked for again. */
const BLEND_RETRY = 3_000

const SILENT: MeterMessage = { type: 'meter', position: 0, input: 0, raw: 0, left: 0, right: 0, momentary: -Infinity }

/** dB that the saved version is turned up by so that both sides of the comparison are equally loud; null until both are measured. */
export function matchDb(state: RootState): number | null {
  const { saved, snapshot } = state.editor
  if (!saved || !snapshot) return null
  const here = state.measures.snapshots[snapshot]?.output?.integratedLufs
  const { savedLufs } = state.measures
  if (here == null || savedLufs?.lufs == null || savedLufs.key !== savedKey(saved.number, snapshot)) return null
  return here - savedLufs.lufs
}

/** dB that the sound with the chosen stage switched over is turned up by to be as loud as it is now; null until both are measured. */
export function bypassMatchDb(state: RootState): number | null {
  const { bypass } = state.measures
  return bypass && bypass.key === bypassKey(state) ? bypass.db : null
}

/** The page's end of the live engine: keeps what sounds equal to what the sheet says. */
export class Player {
  private context: AudioContext | null = null
  private node: AudioWorkletNode | null = null
  private analyser: AnalyserNode | null = null
  private starting: Promise<void> | null = null
  private sound: { node: AudioBufferSourceNode; fade: GainNode; at: number } | null = null
  private input: { stream: MediaStream; node: MediaStreamAudioSourceNode; key: string } | null = null
  private shipped: ReadonlySet<string> = new Set()
  private sentBlends: ReadonlySet<string> = new Set()
  private wantedBlend = ''
  private failedBlend: { id: string; at: number } | null = null
  private readonly blends = new Map<string, StereoResponse>()
  private sentRiff = ''
  private sentPlan: { key: readonly unknown[] } | null = null
  private sentPlay = ''
  private sentPositions: object = {}
  private sentSource = ''
  private sentTuner = false
  private pitchState: Pitch | null = null
  private meterState = SILENT
  private hardest = 0
  private onTake: ((channels: readonly Float32Array[]) => void) | null = null
  private onPing: ((heard: Float32Array) => void) | null = null
  private readonly listeners = new Set<() => void>()

  constructor(private readonly store: Store) {
    store.subscribe(() => this.follow())
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
      this.store.dispatch(playerFailed(`No sound: ${error instanceof Error ? error.message : String(error)}`))
    }
  }

  /** Said once in this browser. */
  private caution(): void {
    if (browserStorage.read(CAUTION_KEY)) return
    browserStorage.write(CAUTION_KEY, 'said')
    this.store.dispatch(notified({ kind: 'note', text: CAUTION }))
  }

  /** Plays a finished sound in a loop, instead of the riff, until {@link stopSound}. */
  async playSound([left, right]: readonly [Float64Array, Float64Array]): Promise<void> {
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
    this.send({ type: 'seek', share })
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
    const shipped = await renderWorkers()[0].responses(SAMPLE_RATE)
    const responses: ToWorklet = { type: 'responses', responses: shipped }
    node.port.postMessage(responses)
    this.shipped = new Set(Object.keys(shipped))
    this.sentBlends = new Set()
    // from here on `follow` talks to the node, and a plan must find its responses there
    this.context = context
    this.analyser = analyser
    this.node = node
    this.sentPlan = null
    this.sentRiff = this.sentPlay = this.sentSource = ''
    this.sentTuner = false
    this.follow()
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
            : `the input could not be opened (${error instanceof Error ? error.message : String(error)}).`,
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
      this.store.dispatch(playerFailed(`No input: ${error instanceof Error ? error.message : String(error)}`))
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
      this.send({ type: 'ping' })
    })
    const frames = chirpDelay(chirp(SAMPLE_RATE), heard)
    const latencyMs = frames === null ? null : (frames / SAMPLE_RATE) * 1000
    this.store.dispatch(liveChanged({ latencyMs }))
    return latencyMs
  }

  /** Records until {@link stopTake}: the chosen channel of the input dry, or both as they come from a device. */
  async startTake(both = false): Promise<void> {
    await this.openInput()
    this.send({ type: 'record', on: true, both })
    this.store.dispatch(recordingChanged(true))
  }

  /** @returns one channel, or two where both were asked for */
  async stopTake(): Promise<readonly Float32Array[]> {
    const channels = await new Promise<readonly Float32Array[]>((done) => {
      this.onTake = done
      this.send({ type: 'record', on: false })
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
    else if (message.type === 'applied') this.appliedAt = performance.now()
    else if (message.type === 'recorded') this.onTake?.(message.channels)
    else if (message.type === 'heard') this.showPitch(pitchOf(message.samples, SAMPLE_RATE))
    else if (message.type === 'pinged') this.onPing?.(message.heard)
  }

  private show(meter: MeterMessage): void {
    this.meterState = meter
    for (const listener of this.listeners) listener()
  }

  private showPitch(pitch: Pitch | null): void {
    this.pitchState = pitch
    for (const listener of this.listeners) listener()
  }

  private send(message: ToWorklet): void {
    this.node?.port.postMessage(message)
  }

  /** Sends what changed since the last time. */
  private follow(): void {
    if (!this.node) return
    const state = this.store.getState()
    const { history, snapshot } = state.editor
    if (!history || !snapshot) {
      if (state.player.playing) this.store.dispatch(playingChanged(false))
      return
    }
    this.followPlan(state, history.present, snapshot)
    if (state.controls.positions !== this.sentPositions) {
      this.sentPositions = state.controls.positions
      this.send({ type: 'positions', positions: actingPositions(state, history.present) })
    }
    this.followRiff(history.present, snapshot)
    const { playing, loop, mono, source, live } = state.player
    const play = `${playing} ${loop} ${mono}`
    if (play !== this.sentPlay) {
      this.sentPlay = play
      this.send({ type: 'play', on: playing, loop, mono })
    }
    if (state.board.tuner !== this.sentTuner) {
      this.sentTuner = state.board.tuner
      this.send({ type: 'tuner', on: state.board.tuner })
      this.showPitch(null)
    }
    const from: ToWorklet = { type: 'source', live: source === 'live', channel: live.channel, trim: dbToGain(live.trim) }
    const key = JSON.stringify(from)
    if (key !== this.sentSource) {
      this.sentSource = key
      this.send(from)
    }
  }

  private followPlan(state: RootState, present: Preset, snapshot: string): void {
    const { saved, stage } = state.editor
    const { side, quality, dry, judging, audition } = state.player
    const preset = side === 'B' && saved ? saved.document : (state.player.trial ?? present)
    const held = side === 'A' && stage ? judging : 'none'
    const match = side === 'B' ? matchDb(state) : held === 'switched' ? bypassMatchDb(state) : null
    const gain = dbToGain(match ?? 0)
    const trial = side === 'A' ? audition : null
    // what is judged is judged as it is stored
    const controlled = side === 'A' && held === 'none' && !dry && trial === null
    const key = [
      preset,
      snapshot,
      gain,
      quality,
      dry,
      held,
      held === 'none' ? null : stage,
      trial,
      controlled ? state.controls.engaged : null,
      controlled ? state.controls.resting : null,
      controlled ? state.board.toggled : null,
    ]
    if (this.sentPlan?.key.every((part, i) => part === key[i])) return
    const there = preset.snapshots.some((s) => s.id === snapshot) ? snapshot : preset.snapshots[0].id
    const toggled = controlled ? state.board.toggled : {}
    const resolved = withToggled(withAudition(resolveValues(preset, there), trial), toggled)
    const values = dry ? judgedDry(preset.chain, resolved) : resolved
    const responses = this.blendsFor(values)
    if (!responses) return
    this.sentPlan = { key }
    const stored = Object.fromEntries(partsOf(preset.chain).map((part) => [part.id, resolveStage(preset, part, there)]))
    const base = withToggled(stored, toggled)
    const control = controlled ? controlPlan(preset, there, tempoOf(preset, there), base, actingPositions(state, preset)) : null
    const send = (of: Plan['values'], against?: Plan['values']) =>
      this.send({
        type: 'plan',
        plan: { chain: preset.chain, values: of, control },
        gain,
        quality,
        responses,
        ...(against ? { against } : {}),
      })
    if (held === 'none' || !stage) send(values)
    else if (held === 'switched') send(withStage(values, stage, !values[stage].on))
    else send(withStage(values, stage, true), withStage(values, stage, false))
  }

  /** The blends that a plan needs and the audio thread has not; null while one of them is still being computed. */
  private blendsFor(values: Plan['values']): Record<string, StereoResponse> | null {
    const ids = Object.values(values).flatMap(({ params: { response } }) =>
      typeof response === 'string' && !this.shipped.has(response) ? [response] : [],
    )
    const missing = ids.find((id) => !this.blends.has(id))
    if (missing !== undefined) {
      void this.computeBlend(missing)
      return null
    }
    const fresh = ids.filter((id) => !this.sentBlends.has(id))
    this.sentBlends = new Set(ids)
    return Object.fromEntries(fresh.flatMap((id) => [[id, this.blends.get(id) as StereoResponse]]))
  }

  /** One at a time, the newest wish next: a dragged microphone asks for more than is ever heard. */
  private async computeBlend(id: string): Promise<void> {
    const failed = this.failedBlend
    if (this.wantedBlend !== '' || (failed?.id === id && performance.now() - failed.at < BLEND_RETRY)) return
    this.wantedBlend = id
    try {
      this.blends.set(id, await cabinetWorker().taps(id))
      if (this.blends.size > KEPT_BLENDS) this.blends.delete([...this.blends.keys()][0])
    } catch (error) {
      this.failedBlend = { id, at: performance.now() }
      this.store.dispatch(playerFailed(error instanceof Error ? error.message : String(error)))
      return
    } finally {
      this.wantedBlend = ''
    }
    this.follow()
  }

  private followRiff(preset: Preset, snapshot: string): void {
    const source = riffSource(preset, snapshot)
    const key = JSON.stringify(source)
    if (key === this.sentRiff) return
    this.sentRiff = key
    renderWorkers()[0]
      .riff(source, SAMPLE_RATE)
      .then((samples) => {
        if (this.sentRiff === key) this.send({ type: 'riff', samples })
      })
      .catch((error: unknown) => this.store.dispatch(playerFailed(error instanceof Error ? error.message : String(error))))
  }
}
