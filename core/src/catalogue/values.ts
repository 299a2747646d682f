import { audioTaper, type ParamValue } from '@fulgor/core/signal'
import type { NumberSpec, ParamSpec, Unit } from './params'

const MINUS = '\u2212'

/** Decimals that a value of this unit is shown and kept with. */
function decimals(unit: Unit, value: number): number {
  const magnitude = Math.abs(value)
  if (unit === 'percent' || unit === 'pan' || unit === 'cents' || unit === 'semitones' || unit === 'mm' || unit === 'deg') return 0
  if (unit === 'hz') return magnitude < 10 ? 2 : magnitude < 100 ? 1 : 0
  if (unit === 'ms') return magnitude < 100 ? 1 : 0
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
  us: 'µs',
  ms: 'ms',
  s: 's',
  q: '',
  cents: 'cents',
  semitones: 'st',
  ratio: ': 1',
  mm: 'mm',
  deg: '°',
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

export type Parsed = { ok: true; value: ParamValue } | { ok: false; reason: string }

/**
 * Reads what a player types: "6.8", "6,8", "-4.2 dB", "1.2k", "800hz", "0.4 s" for a time in ms, "2:30" or "2:30 o'clock" and "68 %"
 * for a 0–10 knob, or the label of a choice. A level that is a pot takes its mark as a bare number ("4.5", "noon" as "12:00") and dB with
 * unit or sign. Says why when it does not fit.
 */
export function parseValue(spec: ParamSpec, text: string): Parsed {
  const clean = text.trim().toLowerCase().replaceAll(MINUS, '-').replaceAll('\u2013', '-').replace(',', '.')
  if (spec.kind === 'choice') {
    const found = spec.options.find((o) => o.value.toLowerCase() === clean || o.label.toLowerCase() === clean)
    return found
      ? { ok: true, value: found.value }
      : { ok: false, reason: `${spec.label} is one of ${spec.options.map((o) => o.label).join(', ')}.` }
  }
  const clock = /^(\d{1,2}):(\d{2})(?:\s*o'?clock)?$/.exec(clean)
  if (clock && spec.unit === 'knob') {
    const value = Number(clock[2]) < 60 && Number(clock[1]) <= 12 ? clockToKnob(Number(clock[1]), Number(clock[2])) : null
    return value === null ? { ok: false, reason: `${text.trim()} is no place on a pot: it runs from 7:00 to 5:00.` } : inRange(spec, value)
  }
  if (spec.pot) {
    const mark =
      clock && Number(clock[2]) < 60 ? clockToKnob(Number(clock[1]), Number(clock[2])) : /^\d+(\.\d+)?$/.test(clean) ? Number(clean) : null
    if (mark !== null)
      return mark <= 10
        ? { ok: true, value: roundValue(potDb(spec, mark)) }
        : { ok: false, reason: `${spec.label} runs from 0 to 10 on its pot, or in dB.` }
  }
  const side = spec.unit === 'pan' ? panOf(clean) : null
  if (side !== null) return inRange(spec, side)
  const ratioText = spec.unit === 'ratio' ? clean.replace(/\s*:\s*1$/, '') : clean
  const match = /^([+-]?(?:\d+\.?\d*|\.\d+))\s*([a-zµ%°"]*)$/.exec(ratioText)
  if (!match) return { ok: false, reason: `“${text.trim()}” is not a number${spec.unit === 'knob' ? ' or a clock position' : ''}.` }
  const factor = unitFactor(spec.unit, match[2])
  if (factor === null) return { ok: false, reason: `${spec.label} is not given in “${match[2]}”.` }
  return inRange(spec, Number(match[1]) * factor)
}

/** “30 left”, “r 40 %”, “centre”; null for a plain number. */
function panOf(text: string): number | null {
  if (/^c(ent(re|er))?$/.test(text)) return 0
  const match = /^(?:(l|r)(?:eft|ight)?\s*)?(\d+(?:\.\d+)?)\s*%?\s*(l|r)?(?:eft|ight)?$/.exec(text)
  const side = match?.[1] ?? match?.[3]
  if (!match || side === undefined) return null
  return side === 'l' ? -Number(match[2]) : Number(match[2])
}

function unitFactor(unit: Unit, written: string): number | null {
  const accepted: Record<Unit, Record<string, number>> = {
    knob: { '': 1, '%': 0.1 },
    percent: { '': 1, '%': 1 },
    db: { '': 1, db: 1, dbfs: 1 },
    hz: { '': 1, hz: 1, k: 1000, khz: 1000 },
    us: { '': 1, us: 1, µs: 1, ms: 1000 },
    ms: { '': 1, ms: 1, s: 1000 },
    s: { '': 1, s: 1, ms: 0.001 },
    q: { '': 1, q: 1 },
    cents: { '': 1, ct: 1, cent: 1, cents: 1, st: 100 },
    semitones: { '': 1, st: 1, semitone: 1, semitones: 1, ct: 0.01, cents: 0.01 },
    ratio: { '': 1, x: 1 },
    pan: { '': 1, '%': 1 },
    mm: { '': 1, mm: 1, cm: 10, m: 1000, in: 25.4, inch: 25.4, '"': 25.4 },
    deg: { '': 1, '°': 1, deg: 1 },
  }
  return accepted[unit][written] ?? null
}

function inRange(spec: NumberSpec, value: number): Parsed {
  const problem = rangeProblem(spec, value)
  return problem ? { ok: false, reason: problem } : { ok: true, value: roundValue(value) }
}

/** Why a number does not fit a parameter, or null. */
export function rangeProblem(spec: NumberSpec, value: number): string | null {
  if (Number.isFinite(value) && value >= spec.min && value <= spec.max) return null
  return `${spec.label} runs from ${formatValue(spec, spec.min)} to ${formatValue(spec, spec.max)}.`
}

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

/** The next value by arrow key; `steps` may be negative, and 10 for a large step. */
export function nudge(spec: NumberSpec, value: number, steps: number): number {
  const raw = spec.taper === 'log' && spec.min > 0 ? value * Math.pow(2, steps / 24) : value + steps * spec.step
  const places = spec.step < 0.1 ? 2 : Math.max(decimals(spec.unit, raw), spec.step % 1 ? 1 : 0)
  const rounded = Number(raw.toFixed(places))
  const moved = rounded === value ? value + Math.sign(steps) * spec.step : rounded
  return clamp(spec, roundValue(moved))
}

const clamp = (spec: NumberSpec, value: number): number => Math.min(spec.max, Math.max(spec.min, value))
