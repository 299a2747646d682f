import { clippingBehind, frozen, judgedDry, resolveValues, withStage, type Preset } from '@fulgor/core/preset'
import type { Crew } from '../background/crew'
import { Errands, type Errand } from '../background/errand'
import { Cancelled, reasonOf } from '../background/tasks'
import {
  bandsMeasured,
  bypassMeasured,
  measuringFailed,
  measuringStarted,
  outputsMeasured,
  savedMeasured,
  stagesMeasured,
  timed,
} from '../state/measures'
import type { AppDispatch, Listening, RootState } from '../state/store'
import type { RenderTasks } from '../threads/render.worker'
import type { SnapshotFigures, StagePart } from '../threads/measures'
import type { LoudnessAt, UnityPlace } from '../threads/levels'
import { renderingOf, riffSource } from '../threads/riffSource'

/** Edits that follow each other this fast are one movement, ms. */
const DRAG_MS = 160
/** ms until a snapshot that is chosen is measured. */
const SOON_MS = 15
/** ms in which what is measured behind several stages, or of several snapshots that are not lit, is told at once: every telling is drawn. */
const TOGETHER_MS = 250
/** ms that a stage must stay chosen before it is compared. */
const BYPASS_MS = 120

/** Key of the saved side of the comparison. */
export const savedKey = (version: number, snapshot: string): string => `${version} ${snapshot}`

const numbers = new WeakMap<Preset, number>()
let counted = 0

/** Names what the comparison of the chosen stage on and off was measured for. */
export function bypassKey({ editor, player }: RootState): string | null {
  const { history, snapshot, stage } = editor
  if (!history || !snapshot || !stage) return null
  let number = numbers.get(history.present)
  if (number === undefined) numbers.set(history.present, (number = ++counted))
  return `${number} ${snapshot} ${stage} ${player.quality} ${player.dry}`
}

interface Desk {
  readonly dispatch: AppDispatch
  readonly getState: () => RootState
}

const present = (state: RootState): Preset | null => (state.editor.snapshot === null ? null : (state.editor.history?.present ?? null))
const versionOf = ({ editor: { saved } }: RootState): number => saved?.number ?? 0

/**
 * Measures the open preset after each edit: the lit snapshot first, the others beside it, the saved version last. A newer edit
 * stops what has become stale.
 * @param aloneFirst the others wait for the lit snapshot, which has a processor to itself and the other thread's help
 */
export function startMeasuring(listen: Listening, crew: Crew<RenderTasks>, aloneFirst = false): void {
  const whole = new Errands()
  const saved = new Errands()
  const bypass = new Errands()
  let editedAt = 0

  listen({
    predicate: (_, now, before) =>
      present(now) !== present(before) ||
      now.player.quality !== before.player.quality ||
      now.editor.snapshot !== before.editor.snapshot ||
      versionOf(now) !== versionOf(before),
    effect: async (_, desk) => {
      const before = desk.getOriginalState()
      const now = desk.getState()
      const preset = present(now)
      desk.cancelActiveListeners()
      if (!preset) {
        whole.end()
        return
      }
      if (preset !== present(before) || now.player.quality !== before.player.quality) {
        // figures of before are told as such at once, however late the measuring begins
        desk.dispatch(measuringStarted(preset.snapshots.map((s) => s.id)))
        // while something is dragged, and at the mic bench, the threads belong to what is heard first
        const dragged = performance.now() - editedAt < DRAG_MS || (now.editor.history?.lastKey?.startsWith('bench ') ?? false)
        editedAt = performance.now()
        // a single edit's sound is begun before the page draws it
        if (dragged) await desk.delay(DRAG_MS)
        await measureAll(crew, whole.begin(), desk, aloneFirst)
        return
      }
      await desk.delay(SOON_MS)
      const { snapshot } = desk.getState().editor
      if (snapshot && desk.getState().measures.snapshots[snapshot]?.fresh) {
        await quietly(measureSaved(crew, saved.begin(), desk))
        return
      }
      desk.dispatch(measuringStarted(preset.snapshots.map((s) => s.id)))
      await measureAll(crew, whole.begin(), desk, aloneFirst)
    },
  })

  // a choice of stage alone; after an edit the measuring itself comes to it
  listen({
    predicate: (_, now, before) => bypassKey(now) !== bypassKey(before) && present(now) === present(before),
    effect: async (_, desk) => {
      desk.cancelActiveListeners()
      await desk.delay(BYPASS_MS)
      if (desk.getState().measures.lastAllMs !== null) await quietly(measureBypass(crew, bypass.begin(), desk))
    },
  })
}

/** What fails here is found again by the measuring itself. */
const quietly = (work: Promise<void>): Promise<void> => work.catch(() => undefined)

async function measureAll(crew: Crew<RenderTasks>, errand: Errand, desk: Desk, aloneFirst: boolean): Promise<void> {
  const preset = present(desk.getState())
  const lit = desk.getState().editor.snapshot
  if (!preset || lit === null) return
  const { quality } = desk.getState().player
  const startedAt = performance.now()
  const order = [lit, ...preset.snapshots.map((s) => s.id).filter((id) => id !== lit)]
  const others = new Together<SnapshotFigures>((found) => !errand.isOver && desk.dispatch(outputsMeasured(found)))
  const measure = async (id: string, stages: boolean, rank: 'lit' | 'beside' | 'idle'): Promise<SnapshotFigures> => {
    const behind = new Together<StagePart['measures']>(
      (found) => !errand.isOver && desk.dispatch(stagesMeasured({ snapshot: id, stages: found })),
    )
    return errand
      .run(crew, {
        task: 'measure',
        args: [renderingOf(preset, id, quality), stages],
        key: null,
        rank,
        // a snapshot stays with its thread, which keeps the sound before the edited stage
        home: preset.snapshots.findIndex((s) => s.id === id),
        onPart: (part) => {
          const { stage, measures } = part as StagePart
          behind.take(stage, measures)
        },
      })
      .finally(behind.tell)
  }
  const first = async (): Promise<void> => {
    desk.dispatch(outputsMeasured({ [lit]: await measure(lit, true, 'lit') }))
    desk.dispatch(timed({ activeMs: performance.now() - startedAt }))
  }
  try {
    const lead = first()
    if (aloneFirst) await lead.catch(() => undefined)
    await Promise.all([lead, ...order.slice(1).map(async (id) => others.take(id, await measure(id, false, 'beside')))]).finally(others.tell)
    desk.dispatch(timed({ allMs: performance.now() - startedAt }))
    await measureSaved(crew, errand, desk)
    await measureBypass(crew, errand, desk)
    // the traces and bands of the others, for when they are lit; their sound is still in the threads
    for (const id of order.slice(1)) {
      const { bands } = await measure(id, true, 'idle')
      desk.dispatch(bandsMeasured({ snapshot: id, bands }))
    }
  } catch (error) {
    if (!(error instanceof Cancelled)) desk.dispatch(measuringFailed(reasonOf(error)))
  }
}

/** Gathers what is measured of several, by name, and tells it together. */
class Together<Of> {
  private found: Record<string, Of> = {}
  private due: ReturnType<typeof setTimeout> | undefined

  constructor(private readonly hear: (found: Readonly<Record<string, Of>>) => void) {}

  take(name: string, found: Of): void {
    this.found[name] = found
    this.due ??= setTimeout(this.tell, TOGETHER_MS)
  }

  readonly tell = (): void => {
    clearTimeout(this.due)
    this.due = undefined
    if (Object.keys(this.found).length > 0) this.hear(this.found)
    this.found = {}
  }
}

/** The same snapshot of the saved version, on the riff that is heard now. */
async function measureSaved(crew: Crew<RenderTasks>, errand: Errand, { dispatch, getState }: Desk): Promise<void> {
  const { saved, snapshot, history } = getState().editor
  if (!saved || !history || !snapshot) return
  const { document, number } = saved
  const there = document.snapshots.some((s) => s.id === snapshot) ? snapshot : document.snapshots[0].id
  const riff = riffSource(history.present, snapshot)
  const { quality } = getState().player
  const lufs = await errand.run(crew, {
    task: 'loudness',
    args: [{ ...renderingOf(document, there, quality), riff }],
    key: `${getState().editor.id} ${savedKey(number, there)} ${JSON.stringify(riff)} ${quality}`,
    rank: 'beside',
    home: 1,
    keep: 8,
  })
  dispatch(savedMeasured({ key: savedKey(number, snapshot), lufs }))
}

/** Loudness with the chosen stage as it is and switched over, so that holding B compares at equal loudness at once. */
async function measureBypass(crew: Crew<RenderTasks>, errand: Errand, { dispatch, getState }: Desk): Promise<void> {
  const state = getState()
  const { history, snapshot, stage } = state.editor
  const key = bypassKey(state)
  if (!history || !snapshot || !stage || key === null || state.measures.bypass?.key === key) return
  const preset = history.present
  const resolved = resolveValues(preset, snapshot)
  if (!(stage in resolved)) return
  const values = state.player.dry ? judgedDry(preset.chain, resolved) : resolved
  const lufs: LoudnessAt[] = []
  for (const side of [values, withStage(values, stage, !values[stage].on)]) {
    const job = { ...renderingOf(preset, snapshot, state.player.quality), preset: frozen(preset, snapshot, side) }
    lufs.push(await errand.run(crew, { task: 'loudnessAt', args: [job, stage], key: null, rank: 'beside', home: 1 }))
  }
  const [here, there] = lufs
  const louder = (at: UnityPlace): number | null => {
    const [a, b] = [here[at], there[at]]
    return a === null || b === null ? null : a - b
  }
  const at = clippingBehind(preset, snapshot, stage) && louder('own') !== null ? 'own' : 'end'
  dispatch(bypassMeasured({ key, db: louder('end'), ownDb: louder('own'), at }))
}
