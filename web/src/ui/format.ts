const MINUS = '\u2212'

/** A figure with a true minus sign; an en dash where there is none. */
export function figure(value: number | null | undefined, places = 1, sign = false): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return '–'
  const fixed = value.toFixed(places)
  if (Number(fixed) === 0) return (sign ? '±' : '') + fixed.replace('-', '')
  return value < 0 ? fixed.replace('-', MINUS) : sign ? `+${fixed}` : fixed
}

const HOURS = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

export const clock = (ms: number): string => HOURS.format(ms)

/** "today 14:02" or "24 Nov 2026, 14:02". */
export function when(ms: number): string {
  const date = new Date(ms)
  if (date.toDateString() === new Date().toDateString()) return `today ${clock(ms)}`
  return `${date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })}, ${clock(ms)}`
}

/** “1:02.4”: minutes and seconds of a recording. */
export function minutes(s: number): string {
  const tenths = Math.round(s * 10)
  return `${Math.floor(tenths / 600)}:${((tenths % 600) / 10).toFixed(1).padStart(4, '0')}`
}
