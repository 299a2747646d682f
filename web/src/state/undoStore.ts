import { createStore, delMany, entries, get, set, type UseStore } from 'idb-keyval'
import { PRESET_VERSION, readPreset, type History } from '@fulgor/core/preset'
import type { Listening, RootState } from './store'

/** What can be undone, by preset. A structured clone keeps what the steps share, so that many of them are small. */
interface Kept {
  readonly at: number
  readonly history: History
}

const STEPS = 200
const PRESETS = 20
const QUIET_MS = 400

let opened: UseStore | null = null
const database = (): UseStore => (opened ??= createStore('fulgor.undo', 'histories'))

/**
 * A history that an older version of the program has kept, with every step in today's format.
 * @throws DocumentError where a step cannot be read
 */
export function broughtOver(history: History): History {
  // presets of one history were written by one program: the newest tells
  if ((history.present.version as number) === PRESET_VERSION) return history
  const { past, present, future } = history
  return { ...history, past: past.map(readPreset), present: readPreset(present), future: future.map(readPreset) }
}

/** The history that was kept of a preset; null where there is none, or where the browser keeps nothing. */
export async function readHistory(id: string): Promise<History | null> {
  try {
    const kept = await get<Kept>(id, database())
    return kept ? broughtOver(kept.history) : null
  } catch {
    return null
  }
}

async function keep(id: string, history: History): Promise<void> {
  const short = { ...history, past: history.past.slice(-STEPS), future: history.future.slice(0, STEPS) }
  await set(id, { at: Date.now(), history: short } satisfies Kept, database())
}

/** Leaves the presets that were open last. */
async function prune(): Promise<void> {
  const all = await entries<string, Kept>(database())
  const old = all.sort((a, b) => b[1].at - a[1].at).slice(PRESETS)
  if (old.length > 0)
    await delMany(
      old.map(([id]) => id),
      database(),
    )
}

/** Keeps what can be undone over a reload. A browser that keeps nothing is no error: undo then ends with the page. */
export function startKeepingUndo(listen: Listening, getState: () => RootState): void {
  const write = () => {
    const { id, history } = getState().editor
    if (id && history && history.past.length + history.future.length > 0) keep(id, history).catch(() => undefined)
  }
  listen({
    predicate: (_, { editor }, { editor: before }) => editor.history !== before.history,
    effect: async (_, page) => {
      page.cancelActiveListeners()
      await page.delay(QUIET_MS)
      write()
    },
  })
  addEventListener('pagehide', write)
  prune().catch(() => undefined)
}
