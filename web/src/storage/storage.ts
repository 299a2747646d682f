/** What a browser keeps, or refuses to keep: it may be full, or forbidden by the player. Then nothing is kept, and nothing fails. */
export interface Keeping {
  read(key: string): string | null
  /** @returns false where it could not be kept */
  write(key: string, text: string): boolean
  remove(key: string): void
  keys(): string[]
}

const guarded = (of: () => Storage): Keeping => ({
  read(key) {
    try {
      return of().getItem(key)
    } catch {
      return null
    }
  },
  write(key, text) {
    try {
      of().setItem(key, text)
      return true
    } catch {
      return false
    }
  },
  remove(key) {
    try {
      of().removeItem(key)
    } catch {
      // forbidden storage holds nothing
    }
  },
  keys() {
    try {
      const storage = of()
      return Array.from({ length: storage.length }, (_, i) => storage.key(i)).filter((key) => key !== null)
    } catch {
      return []
    }
  },
})

/** Kept in this browser, over visits. */
export const browserStorage = guarded(() => localStorage)
/** Kept in this tab, over reloads. */
export const tabStorage = guarded(() => sessionStorage)
