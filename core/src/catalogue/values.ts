import { audioTaper, type ParamValue } from '@fulgor/core/signal'
import type { NumberSpec, ParamSpec, Unit } from './params'

const MINUS = '\u2212'

/** Decimals that a value of this unit is shown and kept with. */
function decimals(unit: Unit, value: number): number {
  const magnitude = Math.abs(value)
  if (
    unit === 'count' ||
    unit === 'percent' ||
    unit === 'pan' ||
    unit === 'cents' ||
    unit === 'semitones' ||
    unit === 'mm' ||
    unit === 'pf' ||
    unit === 'deg'
  )
    return 0
  if (unit === 'hz') return magnitude < 10 ? 2 : magnitude < 100 ? 1 : 0
  if (unit === 'ms') return magnitude < 100 ? 1 : 0
  if (unit === 'bpm' || unit === 'plain') return value % 1 === 0 ? 0 : unit === 'bpm' ? 1 : 2
  if (unit === 'q' || unit === 'ratio' || (unit === 's' && magnitude < 1)) return 2
  return 1
}

const trimZeros = (text: string): string => (text.includes('.') ? text.replace(/\.?0+$/, '') : text)

/** The number alone, with a true minus sign; kHz from 1,000 Hz. */
export function formatNumber(spec: NumberSpec, value: number): string {
  if (spec.unit === 'pan') return Math.abs(value).toFixed(0)
  if (spec.unit === 'hz' && Math.abs(value) >= 1000) return trimZeros((value / 1000).toFixed(2))
  const places = decimals(spec.unit, value)
  const fixed = value.toFixed(places)
  const text = spec.unit === 'hz' || spec.unit === 'ms' ? trimZeros(fixed) : fixed
  return Number(text) === 0 ? text.replace('-', '') : text.replace('-', MINUS)
}

const UNIT_TEXT: Record<Exclude<Unit, 'hz' | 'pan'>, string> = {
  knob: '',
  percent: '%',
  db: 'dB',
  dbfs: 'dBFS',
  lufs: 'LUFS',
  us: 'µs',
  ms: 'ms',
  s: 's',
  bpm: 'bpm',
  q: '',
  cents: 'cents',
  semitones: 'st',
  ratio: ': 1',
  mm: 'mm',
  deg: '°',
  m: 'm',
  kohm: 'kΩ',
  henry: 'H',
  nf: 'nF',
  pf: 'pF',
  plain: '',
  count: '',
}

/** The unit as it stands behind {@link formatNumber}; empty for 0–10 knobs. */
export function unitText(spec: NumberSpec, value: number): string {
  if (spec.unit === 'hz') return Math.abs(value) >= 1000 ? 'kHz' : 'Hz'
  if (spec.unit === 'pan') return value < 0 ? '% left' : value > 0 ? '% right' : '% centre'
  return UNIT_TEXT[spec.unit]
}

/** A value as a player reads it: "6.8", "−4.2 dB", "6.8 kHz", or the label of a choice. */
export function formatValue(spec: ParamSpec, value: ParamValue): string {
  if (spec.kind === 'choice') return spec.options.find((o) => o.value === value)?.label ?? String(value)
  if (typeof value !== 'number') return value
  const number = formatNumber(spec, value)
  if (spec.unit === 'q') return `Q ${number}`
  if (spec.unit === 'pan') return value === 0 ? 'centre' : `${number}${unitText(spec, value)}`
  const unit = unitText(spec, value)
  if (unit === '°') return `${number}°`
  return unit === '' ? number : `${number} ${unit}`
}

/**
 * Clock position of a 0–10 value on a pot that runs from 7 to 5 o'clock: 5 is 12:00, 3.5 is 10:30 (common practice, no source).
 */
export function clockPosition(value: number): string {
  const minutes = Math.round((7 * 60 + (value / 10) * 600) / 1)
  const hour = Math.floor(minutes / 60) % 12
  return `${hour === 0 ? 12 : hour}:${String(minutes % 60).padStart(2, '0')}`
}

/** Inverse of {@link clockPosition}: 0–10 from hours and minutes on the face; null in the dead zone between 5 and 7. */
export function clockToKnob(hour: number, minute: number): number | null {
  const raw = (hour % 12) * 60 + minute
  const fromSeven = (((raw - 420) % 720) + 720) % 720
  return fromSeven <= 600 ? fromSeven / 60 : null
}

/** Mark 0–10 of a level that is a pot ({@link NumberSpec.pot}) at a level in dB: the audio taper of 10 % at half travel. */
export const potMark = (spec: NumberSpec, db: number): number => (10 * Math.log(1 + 80 * Math.pow(10, (db - spec.max) / 20))) / Math.log(81)

/** Inverse of {@link potMark}, dB; held at the range's lower end. */
export const potDb = (spec: NumberSpec, mark: number): number =>
  Math.max(spec.min, spec.max + 20 * Math.log10(Math.max(1e-6, audioTaper(mark))))

/** Values are kept to four significant places behind the point; a slider makes no others. */
export const roundValue = (value: number): number => Math.round(value * 1e4) / 1e4

/** Slider travel 0–1 of a value. */
export function toTravel(spec: NumberSpec, value: number): number {
  if (spec.pot) return potMark(spec, value) / 10
  if (spec.taper === 'log' && spec.min > 0) return Math.log(value / spec.min) / Math.log(spec.max / spec.min)
  return (value - spec.min) / (spec.max - spec.min)
}

/** Value at a slider travel 0–1, rounded to what the unit shows. */
export function fromTravel(spec: NumberSpec, travel: number): number {
  const t = Math.min(1, Math.max(0, travel))
  const even = spec.min + t * (spec.max - spec.min)
  const raw = spec.pot ? potDb(spec, 10 * t) : spec.taper === 'log' && spec.min > 0 ? spec.min * Math.pow(spec.max / spec.min, t) : even
  return clamp(spec, Number(raw.toFixed(decimals(spec.unit, raw))))
}

/** The next value by arrow key; `steps` may be negative, 10 for a large step, and below 1 for a fine one: no finer than what is shown. */
export function nudge(spec: NumberSpec, value: number, steps: number): number {
  const raw = spec.taper === 'log' && spec.min > 0 ? value * Math.pow(2, steps / 24) : value + steps * spec.step
  const places = spec.step < 0.1 ? 2 : Math.max(decimals(spec.unit, raw), spec.step % 1 ? 1 : 0)
  const rounded = Number(raw.toFixed(places))
  const least = Math.abs(steps) < 1 ? Math.min(spec.step, Math.pow(10, -places)) : spec.step
  const moved = rounded === value ? value + Math.sign(steps) * least : rounded
  return clamp(spec, roundValue(moved))
}

const clamp = (spec: NumberSpec, value: number): number => Math.min(spec.max, Math.max(spec.min, value))
