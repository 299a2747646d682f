import { browserStorage } from '../storage/storage'

/** `paper` by day; `dusk` for the stage, dark and large, to be read from a metre away. */
export type Theme = 'paper' | 'dusk'

const KEY = 'fulgor.theme'
const DARK = '(prefers-color-scheme: dark)'

/** What the player has chosen here, or what the system asks for. */
export function storedTheme(): Theme {
  const stored = browserStorage.read(KEY)
  if (stored === 'dusk' || stored === 'paper') return stored
  // their names of the first year
  if (stored === 'stage' || stored === 'desk') return stored === 'stage' ? 'dusk' : 'paper'
  return matchMedia(DARK).matches ? 'dusk' : 'paper'
}

/** @param chosen kept in this browser; else the system is followed further */
export function applyTheme(theme: Theme, chosen = true): void {
  document.documentElement.dataset.theme = theme
  if (chosen) browserStorage.write(KEY, theme)
  dispatchEvent(new Event('fulgor-theme'))
}

/** Follows the system until the player has chosen. */
export function followSystem(): void {
  matchMedia(DARK).addEventListener('change', () => {
    if (browserStorage.read(KEY) === null) applyTheme(storedTheme(), false)
  })
}
