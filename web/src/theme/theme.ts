export type Theme = 'desk' | 'stage'

const KEY = 'fulgor.theme'

export const storedTheme = (): Theme => (localStorage.getItem(KEY) === 'stage' ? 'stage' : 'desk')

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme
  localStorage.setItem(KEY, theme)
  dispatchEvent(new Event('fulgor-theme'))
}
