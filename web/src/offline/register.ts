/** Lets the browser keep page and presets for days without the server. Where it may not (no https, private window), nothing is lost. */
export function keepForBadDays(): void {
  if (!('serviceWorker' in navigator)) return
  const start = async () => {
    await navigator.serviceWorker.register('/keeper.js', { type: 'module' })
    const { active } = await navigator.serviceWorker.ready
    active?.postMessage('files')
  }
  // not before the page itself is there
  addEventListener('load', () => setTimeout(() => void start().catch(() => undefined), 2_000))
}
