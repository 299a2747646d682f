import { SPEED_OF_SOUND } from '@fulgor/core/cabinet'
import { parseBeats } from '@fulgor/core/stage'
import type { ParamValue } from '@fulgor/core/signal'
import type { NumberSpec, ParamSpec, Unit } from './params'
import { clockToKnob, formatNumber, formatValue, fromTravel, potDb, roundValue } from './values'

export type Parsed =
  | {
      readonly ok: true
      readonly value: ParamValue
      /** Another sensible meaning of what was typed, and how to say that; null where there is none. */
      readonly also: string | null
    }
  | { readonly ok: false; readonly reason: string }

/** What a typed number may refer to. */
export interface Typing {
  /** bpm, for note values. */
  readonly tempo?: number
  /** The value that stands there, for "up 3". */
  readonly now?: number
}

const NUMBER = '[+-]?(?:\\d+(?:\\.\\d+)?|\\.\\d+)'

/**
 * Reads what a player types, for every number of the product: "6.8", "6,8", "-4.2 dB", "1.2k", "0.4 s", a clock position ("10 o'clock",
 * "10:30", "noon"), "max", "min", "half", "full", "off", "68 of 100", "3/10", "68 %", "hard left", "30 R", "up 3"; where they mean something,
 * watts, note values, distances ("7 ft"), octaves and repeats. A unit that does not fit is refused, never dropped. A choice takes its label.
 * @returns the value with what else could have been meant, or the reason in a sentence
 */
export function parseValue(spec: ParamSpec, text: string, typing: Typing = {}): Parsed {
  if (spec.kind === 'choice') return parseChoice(spec, text)
  const clean = tidy(text)
  if (clean === '') return refuse(`${spec.label} needs a number.`)
  const read = READERS.map((reader) => reader(spec, clean, typing)).find((result) => result !== null) ?? plainNumber(spec, clean, text)
  return typeof read === 'number' ? inRange(spec, read, alsoOf(spec, clean)) : read
}

type Read = number | Extract<Parsed, { ok: false }> | null
type Reader = (spec: NumberSpec, clean: string, typing: Typing) => Read

const refuse = (reason: string) => ({ ok: false, reason }) as const

const tidy = (text: string): string =>
  text
    .trim()
    .toLowerCase()
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\u2019`]/g, "'")
    .replace('±', '')
    .replace(/(\d),(\d)/g, '$1.$2')
    .replace(/\s+/g, ' ')

function parseChoice(spec: Extract<ParamSpec, { kind: 'choice' }>, text: string): Parsed {
  const clean = text.trim().toLowerCase()
  const found = spec.options.find((o) => o.value.toLowerCase() === clean || o.label.toLowerCase() === clean)
  if (found) return { ok: true, value: found.value, also: null }
  return refuse(`${spec.label} is one of ${spec.options.map((o) => o.label).join(', ')}.`)
}

/** Of the units that a pot has: its scale, what a share of 1 stands for. */
const scaleOf = ({ unit, pot }: NumberSpec): number | null => (pot || unit === 'knob' ? 10 : unit === 'percent' ? 100 : null)
/** A place on that scale as a value. */
const onScale = (spec: NumberSpec, mark: number): number => (spec.pot ? potDb(spec, mark) : mark)

const words: Reader = (spec, clean) => {
  const scale = scaleOf(spec)
  if (/^(max|maximum|full|full up|all the way( up)?)$/.test(clean))
    return spec.unit === 'percent' && spec.max > 100 && clean.startsWith('full') ? 100 : spec.max
  if (/^(min|minimum|all the way down)$/.test(clean)) return spec.min
  if (/^(off|none|zero|nothing|dry)$/.test(clean)) return spec.min <= 0 && spec.max >= 0 && spec.unit !== 'db' ? 0 : spec.min
  if (/^(noon|half|half way|halfway|middle)$/.test(clean)) return scale === null ? fromTravel(spec, 0.5) : onScale(spec, scale / 2)
  return /^(default|initial)$/.test(clean) ? spec.initial : null
}

const clock: Reader = (spec, clean) => {
  const match = /^(\d{1,2})(?::(\d{2}))? ?(o'? ?clock)?$/.exec(clean)
  if (!match || (match[2] === undefined && match[3] === undefined)) return null
  const scale = scaleOf(spec)
  if (scale === null && spec.unit !== 'pan') return spec.unit === 'ratio' ? null : refuse(`${spec.label} has no clock positions.`)
  const [hour, minute] = [Number(match[1]), Number(match[2] ?? 0)]
  const knob = minute < 60 && hour >= 1 && hour <= 12 ? clockToKnob(hour, minute) : null
  if (knob === null) return refuse(`${clean} is no place on a pot: it runs from 7:00 to 5:00.`)
  return scale === null ? roundValue(knob * 20 - 100) : roundValue(onScale(spec, (knob / 10) * scale))
}

/** "68 of 100", "3/10". */
const share: Reader = (spec, clean) => {
  const match = new RegExp(`^(${NUMBER}) ?(?:of|/|out of) ?(${NUMBER})$`).exec(clean)
  const scale = scaleOf(spec)
  if (!match || scale === null || Number(match[2]) === 0) return null
  const part = Number(match[1]) / Number(match[2])
  return part > 1 ? refuse(`${match[1]} of ${match[2]} is more than all.`) : onScale(spec, part * scale)
}

/** "up 3", "2 less": from what stands there. */
const relative: Reader = (spec, clean, { now }) => {
  const match = new RegExp(`^(?:(up|down|plus|minus) (${NUMBER})|(${NUMBER}) (up|down|more|less))(?: ?([a-z%]+))?$`).exec(clean)
  if (!match || now === undefined) return null
  const step = Number(match[2] ?? match[3]) * (unitFactor(spec.unit, match[5] ?? '') ?? NaN)
  if (Number.isNaN(step)) return refuse(`${spec.label} is not given in “${match[5]}”.`)
  return now + (/down|less|minus/.test(match[1] ?? match[4]) ? -step : step)
}

/** A bare number on a level that is a pot is its mark; dB come with unit or sign. */
const potMarks: Reader = (spec, clean) => {
  const match = spec.pot ? /^(\d+(?:\.\d+)?)(?: ?(%))?$/.exec(clean) : null
  if (!match) return null
  const mark = Number(match[1]) / (match[2] ? 10 : 1)
  return mark <= 10 ? onScale(spec, mark) : refuse(`${spec.label} runs from 0 to 10 on its pot, or in dB.`)
}

/** "30 left", "r 40 %", "hard left", "centre". */
const sides: Reader = (spec, clean) => {
  if (spec.unit !== 'pan') return null
  if (/^(c|cent(re|er)|mid(dle)?)$/.test(clean)) return 0
  const hard = /^(?:hard |full )?(l|r)(?:eft|ight)?$/.exec(clean)
  if (hard) return hard[1] === 'l' ? -100 : 100
  const match = /^(?:(l|r)(?:eft|ight)? ?)?(\d+(?:\.\d+)?) ?%? ?(l|r)?(?:eft|ight)?$/.exec(clean)
  const side = match?.[1] ?? match?.[3]
  return match && side !== undefined ? Number(match[2]) * (side === 'l' ? -1 : 1) : null
}

/** A feedback as what each repeat loses, or as how many there are until −60 dB. */
const loops: Reader = (spec, clean) => {
  if (!spec.loop) return null
  const level = new RegExp(`^(${NUMBER}) ?db$`).exec(clean)
  if (level) return 100 * Math.pow(10, Number(level[1]) / 20)
  const count = /^(\d+) ?(?:repeats?|echoes|echo|times)$/.exec(clean)
  if (!count) return null
  const repeats = Number(count[1])
  return repeats <= 1 ? 0 : 100 * Math.pow(10, -60 / repeats / 20)
}

const watts: Reader = (spec, clean) => {
  const match = spec.fullWatts === undefined ? null : /^(\d+(?:\.\d+)?) ?w(?:atts?)?$/.exec(clean)
  if (!match || spec.fullWatts === undefined) return null
  return Number(match[1]) > spec.fullWatts
    ? refuse(`${spec.label} starts from ${spec.fullWatts} W.`)
    : 10 * Math.log10(spec.fullWatts / Math.max(1e-6, Number(match[1])))
}

/** Bandwidth between the half-power points as a Q: √2ᴺ / (2ᴺ − 1). */
const octaves: Reader = (spec, clean) => {
  const match = new RegExp(`^(${NUMBER}) ?oct(?:aves?)?$`).exec(clean)
  if (!match) return null
  const n = Number(match[1])
  if (spec.unit === 'q') return n > 0 ? Math.sqrt(2 ** n) / (2 ** n - 1) : null
  return spec.unit === 'cents' ? 1200 * n : spec.unit === 'semitones' ? 12 * n : null
}

/** Note values of times and rates; not of what has no tempo. */
const notes: Reader = (spec, clean, { tempo }) => {
  const beats = spec.unit === 'ms' || spec.unit === 's' || spec.unit === 'hz' ? parseBeats(clean) : null
  if (beats === null || tempo === undefined) return null
  const ms = (60_000 / tempo) * beats
  return spec.unit === 'hz' ? 1000 / ms : spec.unit === 's' ? ms / 1000 : ms
}

const METRES: Record<string, number> = {
  m: 1,
  metre: 1,
  metres: 1,
  cm: 0.01,
  mm: 0.001,
  ft: 0.3048,
  feet: 0.3048,
  foot: 0.3048,
  "'": 0.3048,
  in: 0.0254,
  inch: 0.0254,
  inches: 0.0254,
  '"': 0.0254,
}

/** A distance; for a time, what sound needs for it. */
const distances: Reader = (spec, clean) => {
  const match = new RegExp(`^(${NUMBER}) ?([a-z'"]+)$`).exec(clean)
  const metres = match ? METRES[match[2]] * Number(match[1]) : NaN
  if (Number.isNaN(metres)) return null
  if (spec.unit === 'mm') return metres * 1000
  const seconds = metres / SPEED_OF_SOUND
  return spec.unit === 'ms' ? seconds * 1e3 : spec.unit === 'us' ? seconds * 1e6 : spec.unit === 's' ? seconds : null
}

const READERS: readonly Reader[] = [notes, words, clock, share, relative, potMarks, sides, loops, watts, octaves, distances]

function plainNumber(spec: NumberSpec, clean: string, text: string): Exclude<Read, null> {
  const ratio = spec.unit === 'ratio' ? clean.replace(/ ?: ?1$/, '') : clean
  const match = new RegExp(`^(?:q ?)?(${NUMBER}) ?([a-zµ%°]*)$`).exec(spec.unit === 'q' ? ratio : ratio.startsWith('q') ? '' : ratio)
  if (!match) return refuse(`“${text.trim()}” is not a number${scaleOf(spec) === 10 ? ' or a clock position' : ''}.`)
  const factor = unitFactor(spec.unit, match[2])
  return factor === null ? refuse(`${spec.label} is not given in “${match[2]}”.`) : Number(match[1]) * factor
}

function unitFactor(unit: Unit, written: string): number | null {
  const accepted: Record<Unit, Record<string, number>> = {
    knob: { '': 1, '%': 0.1 },
    percent: { '': 1, '%': 1, percent: 1 },
    db: { '': 1, db: 1, lu: 1 },
    dbfs: { '': 1, db: 1, dbfs: 1 },
    lufs: { '': 1, lufs: 1, lu: 1, lkfs: 1 },
    hz: { '': 1, hz: 1, k: 1000, khz: 1000 },
    us: { '': 1, us: 1, µs: 1, ms: 1000 },
    ms: { '': 1, ms: 1, s: 1000, sec: 1000, us: 0.001, µs: 0.001 },
    s: { '': 1, s: 1, sec: 1, ms: 0.001 },
    bpm: { '': 1, bpm: 1 },
    q: { '': 1 },
    cents: { '': 1, ct: 1, cent: 1, cents: 1, st: 100 },
    semitones: { '': 1, st: 1, semitone: 1, semitones: 1, ct: 0.01, cents: 0.01 },
    ratio: { '': 1, x: 1 },
    pan: { '': 1, '%': 1 },
    mm: { '': 1 },
    deg: { '': 1, '°': 1, deg: 1, degrees: 1 },
    m: { '': 1, m: 1, cm: 0.01, ft: 0.3048, feet: 0.3048 },
    kohm: { '': 1, k: 1, kohm: 1, kω: 1, ohm: 0.001, ω: 0.001, m: 1_000, meg: 1_000, mohm: 1_000, mω: 1_000 },
    henry: { '': 1, h: 1, mh: 0.001 },
    nf: { '': 1, n: 1, nf: 1, p: 0.001, pf: 0.001, u: 1_000, uf: 1_000, µ: 1_000, µf: 1_000 },
    pf: { '': 1, p: 1, pf: 1, n: 1_000, nf: 1_000 },
    plain: { '': 1 },
    count: { '': 1, x: 1 },
  }
  return accepted[unit][written] ?? null
}

/** Where a bare number has a second sensible meaning. */
function alsoOf(spec: NumberSpec, clean: string): string | null {
  if (spec.loop && /^\d+$/.test(clean) && Number(clean) >= 1 && Number(clean) <= 20) return `for so many repeats: “${clean} repeats”`
  const signed = /^\+(\d+(?:\.\d+)?)$/.exec(clean)
  if (signed && spec.unit === 'knob') return `for ${signed[1]} more: “up ${signed[1]}”`
  return null
}

function inRange(spec: NumberSpec, value: number, also: string | null): Parsed {
  const problem = rangeProblem(spec, value)
  return problem === null ? { ok: true, value: roundValue(value), also } : refuse(problem + hint(spec, value))
}

/** What may have been meant by a number that is out of range. */
function hint(spec: NumberSpec, value: number): string {
  if (spec.unit === 'knob' && value > 10 && value <= 100)
    return ` For ${formatNumber({ ...spec, unit: 'plain' }, value)} of 100: “${value} %”.`
  if (spec.unit === 'hz' && value < spec.min && value * 1000 <= spec.max)
    return ` In kHz: “${formatNumber({ ...spec, unit: 'plain' }, value)}k”.`
  return ''
}

/** Why a number does not fit a parameter, or null. */
export function rangeProblem(spec: NumberSpec, value: number): string | null {
  const whole = spec.unit !== 'count' || Number.isInteger(value)
  if (Number.isFinite(value) && whole && value >= spec.min && value <= spec.max) return null
  return `${spec.label} runs from ${formatValue(spec, spec.min)} to ${formatValue(spec, spec.max)}${spec.unit === 'count' ? ', in whole numbers' : ''}.`
}
