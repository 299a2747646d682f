import { proxy } from 'comlink'
import { frozen, judgedDry, resolveValues, withStage, type Preset } from '@fulgor/core/preset'
import { bypassMeasured, measuringFailed, measuringStarted, outputMeasured, savedMeasured, stageMeasured, timed } from '../state/measures'
import type { RootState, Store } from '../state/store'
import type { MeasureJob } from './render.worker'
import { riffSource } from './riffSource'
import { renderWorkers, SAMPLE_RATE } from './workers'

/** Edits that follow each other this fast are one movement, ms. */
const DRAG_MS = 160

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

/**
 * Measures the open preset after each edit: the lit snapshot first, the others beside it, the saved version last. A newer edit
 * stops what has become stale.
 */
export function startMeasuring(store: Store): void {
  let token = 0
  let measured: Preset | null = null
  let litFirst: string | null = null
  let savedWanted = ''

  const run = async (preset: Preset, lit: string) => {
    const mine = ++token
    const startedAt = performance.now()
    const order = [lit, ...preset.snapshots.map((s) => s.id).filter((id) => id !== lit)]
    store.dispatch(measuringStarted(order))
    const workers = renderWorkers()
    for (const worker of workers) void worker.cancel(mine)
    const { quality } = store.getState().player
    const job = (snapshot: string): MeasureJob => ({
      token: mine,
      preset,
      snapshot,
      riff: riffSource(preset, snapshot),
      sampleRate: SAMPLE_RATE,
      quality,
    })
    const measure = async (worker: (typeof workers)[number], id: string, stages: boolean) => {
      const onStage = proxy((stage: string, measures: Parameters<typeof stageMeasured>[0]['measures']) => {
        if (mine === token) store.dispatch(stageMeasured({ snapshot: id, stage, measures }))
      })
      const output = await worker.measure(job(id), stages ? onStage : null)
      if (!output || mine !== token) return
      store.dispatch(outputMeasured({ snapshot: id, measures: output }))
      if (id === lit) store.dispatch(timed({ activeMs: performance.now() - startedAt }))
    }
    // a snapshot stays with its worker, which keeps the sound before the edited stage
    const home = (id: string) => preset.snapshots.findIndex((s) => s.id === id) % workers.length
    const queues = workers.map((_, w) => order.filter((id) => home(id) === w))
    const next = (w: number): string | undefined => queues[w].shift() ?? queues.find((q) => q.length > 0)?.pop()
    const work = async (worker: (typeof workers)[number], w: number) => {
      for (let id = next(w); id !== undefined && mine === token; id = next(w)) await measure(worker, id, id === lit)
    }
    try {
      await Promise.all(workers.map(work))
      if (mine !== token) return
      store.dispatch(timed({ allMs: performance.now() - startedAt }))
      await measureSaved(mine)
      await measureBypass(mine)
      // the traces of the others, for when they are lit; their sound is still in the workers
      for (const id of order.slice(1)) if (mine === token) await measure(workers[home(id)], id, true)
    } catch (error) {
      if (mine === token) store.dispatch(measuringFailed(error instanceof Error ? error.message : String(error)))
    }
  }

  const measureSaved = async (mine: number) => {
    const { saved, snapshot, history } = store.getState().editor
    if (!saved || !history || !snapshot) return
    const key = `${savedKey(saved.number, snapshot)} ${JSON.stringify(riffSource(history.present, snapshot))}`
    if (savedWanted === key && store.getState().measures.savedLufs) return
    savedWanted = key
    const preset = saved.document
    const there = preset.snapshots.some((s) => s.id === snapshot) ? snapshot : preset.snapshots[0].id
    // both sides are compared on the riff that is heard now
    const riff = riffSource(history.present, snapshot)
    const output = await renderWorkers()[1].measure(
      { token: mine, preset, snapshot: there, riff, sampleRate: SAMPLE_RATE, quality: store.getState().player.quality },
      proxy(() => undefined),
    )
    if (!output) {
      savedWanted = ''
      return
    }
    store.dispatch(savedMeasured({ key: savedKey(saved.number, snapshot), lufs: output.integratedLufs }))
  }

  /** Loudness with the chosen stage as it is and switched over, so that holding B compares at equal loudness at once. */
  const measureBypass = async (mine: number) => {
    const state = store.getState()
    const { history, snapshot, stage } = state.editor
    const key = bypassKey(state)
    if (!history || !snapshot || !stage || key === null || state.measures.bypass?.key === key) return
    const preset = history.present
    const resolved = resolveValues(preset, snapshot)
    if (!(stage in resolved)) return
    const values = state.player.dry ? judgedDry(preset.chain, resolved) : resolved
    const lufs: (number | null)[] = []
    for (const side of [values, withStage(values, stage, !values[stage].on)]) {
      const output = await renderWorkers()[1].measure(
        {
          token: mine,
          preset: frozen(preset, snapshot, side),
          snapshot,
          riff: riffSource(preset, snapshot),
          sampleRate: SAMPLE_RATE,
          quality: state.player.quality,
        },
        proxy(() => undefined),
      )
      if (!output) return
      lufs.push(output.integratedLufs)
    }
    const [here, there] = lufs
    store.dispatch(bypassMeasured({ key, db: here === null || there === null ? null : here - there }))
  }

  let timer: ReturnType<typeof setTimeout> | undefined
  let bypassTimer: ReturnType<typeof setTimeout> | undefined
  let bypassFor: string | null = null
  let quality = store.getState().player.quality
  let savedNumber = 0
  let editedAt = 0
  store.subscribe(() => {
    const { history, snapshot, saved } = store.getState().editor
    const preset = history?.present ?? null
    if (!preset || !snapshot) {
      measured = null
      return
    }
    const finer = store.getState().player.quality
    const key = bypassKey(store.getState())
    if (key !== bypassFor) {
      bypassFor = key
      clearTimeout(bypassTimer)
      // a choice of stage alone; after an edit the measuring itself comes to it
      if (preset === measured && store.getState().measures.lastAllMs !== null)
        bypassTimer = setTimeout(() => void measureBypass(token).catch(() => undefined), 120)
    }
    if (preset !== measured || finer !== quality) {
      quality = finer
      measured = preset
      litFirst = snapshot
      clearTimeout(timer)
      // figures of before are told as such at once, however late the measuring begins
      store.dispatch(measuringStarted(preset.snapshots.map((s) => s.id)))
      // while something is dragged, and at the mic bench, the threads belong to what is heard first
      const dragged = performance.now() - editedAt < DRAG_MS || (history?.lastKey?.startsWith('bench ') ?? false)
      editedAt = performance.now()
      timer = setTimeout(() => void run(preset, store.getState().editor.snapshot ?? snapshot), dragged ? DRAG_MS : 15)
    } else if (snapshot !== litFirst || (saved?.number ?? 0) !== savedNumber) {
      litFirst = snapshot
      const fresh = store.getState().measures.snapshots[snapshot]?.fresh
      clearTimeout(timer)
      timer = setTimeout(() => void (fresh ? measureSaved(token) : run(preset, snapshot)), 15)
    }
    savedNumber = saved?.number ?? 0
  })
}
