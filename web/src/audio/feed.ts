import {
  asPlayed,
  judgedDry,
  partsOf,
  resolveStage,
  resolveValues,
  tempoOf,
  withStage,
  withStageMatched,
  withToggled,
  type Preset,
} from '@fulgor/core/preset'
import { controlPlan, type Plan } from '@fulgor/core/render'
import { dbToGain, type StereoResponse } from '@fulgor/core/signal'
import type { Crew } from '../background/crew'
import { reasonOf } from '../background/tasks'
import { actingPositions } from '../state/controls'
import { playerFailed, playingChanged, type ListeningPlace } from '../state/player'
import type { BypassMatch } from '../state/measures'
import type { RootState, Store } from '../state/store'
import { withAudition } from './audition'
import type { CabinetTasks } from '../threads/cabinet.worker'
import { bypassKey, savedKey } from './measuring'
import { SAMPLE_RATE } from '../threads/rate'
import type { RenderTasks } from '../threads/render.worker'
import { riffSource } from '../threads/riffSource'
import type { ToWorklet } from './worklet/messages'

const KEPT_BLENDS = 16
/** ms until a riff or a blend that could not be had is asked for again. */
const RETRY_MS = 3_000

/** dB that the saved version is turned up by so that both sides of the comparison are equally loud; null until both are measured. */
export function matchDb(state: RootState): number | null {
  const { saved, snapshot } = state.editor
  if (!saved || !snapshot) return null
  const here = state.measures.snapshots[snapshot]?.output?.integratedLufs
  const { savedLufs } = state.measures
  if (here == null || savedLufs?.lufs == null || savedLufs.key !== savedKey(saved.number, snapshot)) return null
  return here - savedLufs.lufs
}

/** dB that the recording is turned up by to be as loud as what it is compared with; null until both are measured. */
export function recordingMatchDb(state: RootState): number | null {
  const { snapshot } = state.editor
  const here = snapshot ? state.measures.snapshots[snapshot]?.output?.integratedLufs : null
  const there = state.player.against?.lufs
  return here == null || there == null ? null : here - there
}

/** How the sound with the chosen stage switched over is made as loud as it is now; null until both are measured. */
export function bypassMatch(state: RootState): BypassMatch | null {
  const { bypass } = state.measures
  return bypass && bypass.key === bypassKey(state) ? bypass : null
}

/** Tells the audio thread what the sheet says: what sounds there is kept equal to what is seen here. */
export class Feed {
  private to: ((message: ToWorklet) => void) | null = null
  private shipped: ReadonlySet<string> = new Set()
  private sentBlends: ReadonlySet<string> = new Set()
  private wantedBlend = ''
  private failedBlend: { id: string; at: number } | null = null
  private readonly blends = new Map<string, StereoResponse>()
  private sentRiff = ''
  /** ms of this page's clock. */
  private riffAgainAt = Infinity
  private sentPlan: { key: readonly unknown[] } | null = null
  private sentPlay = ''
  private sentPositions: object = {}
  private sentSource = ''
  private sentTuner = false
  private sentPlace: ListeningPlace | null = null
  private sentAgainst = ''
  private sentCompare = ''

  /** @param onTuner the tuner was switched: what it heard is of before */
  constructor(
    private readonly store: Pick<Store, 'dispatch' | 'getState'>,
    private readonly crews: { readonly renderers: Crew<RenderTasks>; readonly cabinetMaker: Crew<CabinetTasks> },
    private readonly onTuner: () => void,
  ) {}

  /** Tells a new audio thread everything, the shipped responses first: a plan must find its responses there. */
  async begin(to: (message: ToWorklet) => void): Promise<void> {
    const responses = await this.crews.renderers.run({ task: 'responses', args: [SAMPLE_RATE], rank: 'now' })
    to({ type: 'responses', responses })
    this.shipped = new Set(Object.keys(responses))
    this.sentBlends = new Set()
    this.sentPlan = null
    this.sentRiff = this.sentPlay = this.sentSource = ''
    this.sentPositions = {}
    this.sentTuner = false
    this.sentPlace = null
    this.sentAgainst = this.sentCompare = ''
    this.to = to
    this.follow()
  }

  /** The audio thread is gone. */
  end(): void {
    this.to = null
  }

  send(message: ToWorklet): void {
    this.to?.(message)
  }

  /** Sends what changed since the last time. */
  follow(): void {
    if (!this.to) return
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
    // what is tried may be played on another guitar
    this.followRiff((state.player.side === 'A' || state.player.against ? state.player.trial?.preset : null) ?? history.present, snapshot)
    const { playing, loop, mono, source, live } = state.player
    const play = `${playing} ${loop} ${mono}`
    if (play !== this.sentPlay) {
      this.sentPlay = play
      this.send({ type: 'play', on: playing, loop, mono })
    }
    if (state.board.tuner !== this.sentTuner) {
      this.sentTuner = state.board.tuner
      this.send({ type: 'tuner', on: state.board.tuner })
      this.onTuner()
    }
    const { place } = state.player
    if (place !== this.sentPlace) {
      this.sentPlace = place
      this.send({ type: 'place', taps: place ? place.taps : null, mono: place?.mono ?? false })
      this.followBacking(place)
    }
    this.followRecording(state)
    const from: ToWorklet = { type: 'source', live: source === 'live', channel: live.channel, trim: dbToGain(live.trim) }
    const key = JSON.stringify(from)
    if (key !== this.sentSource) {
      this.sentSource = key
      this.send(from)
    }
  }

  private followPlan(state: RootState, present: Preset, snapshot: string): void {
    const { saved, stage } = state.editor
    const { side, quality, dry, judging, audition, source } = state.player
    const preset = asPlayed(
      side === 'B' && saved && !state.player.against ? saved.document : (state.player.trial?.preset ?? present),
      source === 'live',
    )
    const held = side === 'A' && stage ? judging : 'none'
    const over = held === 'switched' ? bypassMatch(state) : null
    const ownDb = over?.at === 'own' ? over.ownDb : null
    const match =
      side === 'B' && !state.player.against
        ? matchDb(state)
        : held === 'switched'
          ? ownDb === null
            ? over?.db
            : 0
          : state.player.trial?.gainDb
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
      ownDb,
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
    else if (held === 'switched') send(withStageMatched(values, stage, ownDb ?? 0))
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
    if (this.wantedBlend !== '' || (failed?.id === id && performance.now() - failed.at < RETRY_MS)) return
    this.wantedBlend = id
    try {
      this.blends.set(id, await this.crews.cabinetMaker.run({ task: 'taps', args: [id], rank: 'now' }))
      if (this.blends.size > KEPT_BLENDS) this.blends.delete([...this.blends.keys()][0])
    } catch (error) {
      this.failedBlend = { id, at: performance.now() }
      this.store.dispatch(playerFailed(reasonOf(error)))
      return
    } finally {
      this.wantedBlend = ''
    }
    this.follow()
  }

  private followBacking(place: ListeningPlace | null): void {
    this.send({ type: 'backing', sides: null })
    if (!place?.backing) return
    this.crews.renderers.run({ task: 'backing', args: [place.backing, SAMPLE_RATE], rank: 'now' }).then(
      (sides) => {
        if (this.sentPlace === place) this.send({ type: 'backing', sides })
      },
      (error: unknown) => this.store.dispatch(playerFailed(reasonOf(error))),
    )
  }

  private followRecording(state: RootState): void {
    const { against, side } = state.player
    const key = against ? against.key : ''
    if (key !== this.sentAgainst) {
      this.sentAgainst = key
      this.send({ type: 'recording', sides: null })
      if (against)
        this.crews.renderers
          .run({ task: 'heardStretch', args: [against.file, against.parts, against.view, SAMPLE_RATE], rank: 'now', key: null })
          .then(
            (sides) => {
              if (this.sentAgainst === key) this.send({ type: 'recording', sides })
            },
            (error: unknown) => this.store.dispatch(playerFailed(reasonOf(error))),
          )
    }
    const compare: ToWorklet = {
      type: 'compare',
      recording: against !== null && side === 'B',
      gain: dbToGain(recordingMatchDb(state) ?? 0),
    }
    const told = JSON.stringify(compare)
    // an audio thread begins without a recording
    if (told === this.sentCompare || (!against && this.sentCompare === '')) return
    this.sentCompare = told
    this.send(compare)
  }

  private followRiff(preset: Preset, snapshot: string): void {
    const source = riffSource(preset, snapshot)
    const key = JSON.stringify(source)
    if (key === this.sentRiff && performance.now() < this.riffAgainAt) return
    this.sentRiff = key
    this.riffAgainAt = Infinity
    this.crews.renderers.run({ task: 'riff', args: [source, SAMPLE_RATE], rank: 'now' }).then(
      (samples) => {
        if (this.sentRiff === key) this.send({ type: 'riff', samples })
      },
      (error: unknown) => {
        // it is asked for again with a later change
        if (this.sentRiff === key) this.riffAgainAt = performance.now() + RETRY_MS
        this.store.dispatch(playerFailed(reasonOf(error)))
      },
    )
  }
}
