import { resolveValues, type Preset } from '@fulgor/core/preset'
import type { Plan } from '@fulgor/core/render'
import { dbToGain } from '@fulgor/core/signal'
import { notified } from '../state/notices'
import { loopChanged, playerFailed, playingChanged } from '../state/player'
import type { RootState, Store } from '../state/store'
import { savedKey } from './measuring'
import { riffSource } from './riffSource'
import type { FromWorklet, MeterMessage, ToWorklet } from './worklet/messages'
import workletUrl from './worklet/engine.worklet.ts?worker&url'
import { renderWorkers, SAMPLE_RATE } from './workers'

const CAUTION_KEY = 'fulgor.loudnessCaution'
const CAUTION =
  'Start with headphones and monitors turned down: a new preset may be far louder than the last. On stage follow local codes and the venue’s rules for sound levels.'

const SILENT: MeterMessage = { type: 'meter', position: 0, input: 0, left: 0, right: 0, momentary: -Infinity }

/** dB that the saved version is turned up by so that both sides of the comparison are equally loud; null until both are measured. */
export function matchDb(state: RootState): number | null {
  const { saved, snapshot } = state.editor
  if (!saved || !snapshot) return null
  const here = state.measures.snapshots[snapshot]?.output?.integratedLufs
  const { savedLufs } = state.measures
  if (here == null || savedLufs?.lufs == null || savedLufs.key !== savedKey(saved.number, snapshot)) return null
  return here - savedLufs.lufs
}

/** The page's end of the live engine: keeps what sounds equal to what the sheet says. */
export class Player {
  private context: AudioContext | null = null
  private node: AudioWorkletNode | null = null
  private analyser: AnalyserNode | null = null
  private starting: Promise<void> | null = null
  private sentRiff = ''
  private sentPlan: { preset: Preset; snapshot: string; side: string; gain: number } | null = null
  private sentPlay = ''
  private meterState = SILENT
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

  /** Largest output sample that the browser's own analyser sees now, linear; 0 while nothing runs. */
  heardPeak(): number {
    if (!this.analyser) return 0
    const samples = new Float32Array(this.analyser.fftSize)
    this.analyser.getFloatTimeDomainData(samples)
    return samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0)
  }

  async toggle(): Promise<void> {
    const { playing } = this.store.getState().player
    if (playing) {
      this.store.dispatch(playingChanged(false))
      return
    }
    try {
      await this.start()
      this.store.dispatch(playingChanged(true))
      this.caution()
    } catch (error) {
      this.store.dispatch(playerFailed(`No sound: ${error instanceof Error ? error.message : String(error)}`))
    }
  }

  /** Said once in this browser. */
  private caution(): void {
    if (localStorage.getItem(CAUTION_KEY)) return
    localStorage.setItem(CAUTION_KEY, 'said')
    this.store.dispatch(notified({ kind: 'note', text: CAUTION }))
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
    const context = new AudioContext({ sampleRate: SAMPLE_RATE, latencyHint: 'interactive' })
    await context.audioWorklet.addModule(workletUrl)
    const node = new AudioWorkletNode(context, 'fulgor-engine', { numberOfInputs: 0, outputChannelCount: [2] })
    const analyser = new AnalyserNode(context, { fftSize: 2048 })
    node.connect(analyser).connect(context.destination)
    node.port.onmessage = ({ data }: MessageEvent<FromWorklet>) => this.hear(data)
    node.onprocessorerror = () => this.store.dispatch(playerFailed('The audio engine stopped; reload the page.'))
    const responses: ToWorklet = { type: 'responses', responses: await renderWorkers()[0].responses(SAMPLE_RATE) }
    node.port.postMessage(responses)
    // from here on `follow` talks to the node, and a plan must find its responses there
    this.context = context
    this.analyser = analyser
    this.node = node
    this.follow()
  }

  private hear(message: FromWorklet): void {
    if (message.type === 'meter') this.show(message)
    else if (message.type === 'ended') this.store.dispatch(playingChanged(false))
    else if (message.type === 'failed') this.store.dispatch(playerFailed(message.reason))
  }

  private show(meter: MeterMessage): void {
    this.meterState = meter
    for (const listener of this.listeners) listener()
  }

  private send(message: ToWorklet): void {
    this.node?.port.postMessage(message)
  }

  /** Sends what changed since the last time. */
  private follow(): void {
    if (!this.node) return
    const state = this.store.getState()
    const { history, snapshot, saved } = state.editor
    if (!history || !snapshot) {
      if (state.player.playing) this.store.dispatch(playingChanged(false))
      return
    }
    const { side, playing, loop, mono } = state.player
    const preset = side === 'B' && saved ? saved.document : history.present
    const gain = side === 'B' ? dbToGain(matchDb(state) ?? 0) : 1
    const last = this.sentPlan
    if (!last || last.preset !== preset || last.snapshot !== snapshot || last.side !== side || last.gain !== gain) {
      this.sentPlan = { preset, snapshot, side, gain }
      const there = preset.snapshots.some((s) => s.id === snapshot) ? snapshot : preset.snapshots[0].id
      const plan: Plan = { chain: preset.chain, values: resolveValues(preset, there) }
      this.send({ type: 'plan', plan, gain })
    }
    this.followRiff(history.present)
    const play = `${playing} ${loop} ${mono}`
    if (play !== this.sentPlay) {
      this.sentPlay = play
      this.send({ type: 'play', on: playing, loop, mono })
    }
  }

  private followRiff(preset: Preset): void {
    const source = riffSource(preset)
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
