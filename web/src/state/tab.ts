import { nanoid } from 'nanoid'
import { tabStorage } from '../storage/storage'

/** ms that a page waits for the one before it in the same tab to be gone. */
const HANDOVER_MS = 400
const KEY = 'fulgor.tab'

const lockOf = (tab: string): string => `fulgor.tab.${tab}`

let tab = tabStorage.read(KEY) ?? nanoid(8)

/** Names this tab, over reloads too. */
export const thisTab = (): string => tab

/** Holds the tab's lock for as long as the page lives; false where another page has it. */
function held(name: string): Promise<boolean> {
  return new Promise((done) => {
    const giveUp = new AbortController()
    const timer = setTimeout(() => giveUp.abort(), HANDOVER_MS)
    navigator.locks
      .request(lockOf(name), { signal: giveUp.signal }, () => {
        clearTimeout(timer)
        done(true)
        return new Promise<never>(() => undefined)
      })
      .catch(() => done(false))
  })
}

async function settle(): Promise<void> {
  if (typeof navigator !== 'undefined' && 'locks' in navigator && !(await held(tab))) {
    // a tab that was duplicated brings the name of the other one along
    tab = nanoid(8)
    await held(tab)
  }
  tabStorage.write(KEY, tab)
}

/** Resolves once the tab has a name that no other tab has. */
export const tabReady: Promise<void> = typeof window === 'undefined' ? Promise.resolve() : settle()

/** Which of these tabs are still open; none where the browser cannot tell. */
export async function openTabs(): Promise<ReadonlySet<string>> {
  if (typeof navigator === 'undefined' || !('locks' in navigator)) return new Set()
  const { held: locks = [] } = await navigator.locks.query().catch((): LockManagerSnapshot => ({}))
  return new Set(locks.map(({ name }) => name?.replace(lockOf(''), '') ?? ''))
}
