/** Sounding length of an open string, m. */
export const SCALE_LENGTH = 0.648

/** A string of a steel set, tuned to E standard. */
interface GuitarString {
  /** Hz at A4 = 440. */
  readonly openHz: number
  /** Diameter of the steel that gives the stiffness (the core of a wound string), m. */
  readonly core: number
  /** N. */
  readonly tension: number
  /** Seconds in which a partial would fall by 60 dB if only the string's ends and the air took from it. */
  readonly t60: number
  /** Quality of the material: what friction inside the string and its windings leaves. */
  readonly quality: number
}

/** Young's modulus of steel, Pa. */
const STEEL = 2e11

/** A set of 10 to 46 (thousandths of an inch), low to high. Gauges, tensions and losses are from memory and common practice. */
const SET: readonly GuitarString[] = [
  { openHz: 82.407, core: 4.57e-4, tension: 77, t60: 11, quality: 3_200 },
  { openHz: 110, core: 4.06e-4, tension: 86, t60: 10, quality: 3_500 },
  { openHz: 146.832, core: 3.56e-4, tension: 82, t60: 9, quality: 3_800 },
  { openHz: 195.998, core: 4.32e-4, tension: 73, t60: 8, quality: 5_500 },
  { openHz: 246.942, core: 3.3e-4, tension: 68, t60: 7.5, quality: 6_500 },
  { openHz: 329.628, core: 2.54e-4, tension: 72, t60: 7, quality: 7_500 },
]

/** Semitones from E standard, low string to high. Lower tunings are thought with as much heavier strings, at the same tension. */
export const TUNINGS = [
  { id: 'standard', name: 'Standard (E)', offsets: [0, 0, 0, 0, 0, 0] },
  { id: 'half-down', name: 'Half a step down (E flat)', offsets: [-1, -1, -1, -1, -1, -1] },
  { id: 'drop-d', name: 'Drop D', offsets: [-2, 0, 0, 0, 0, 0] },
  { id: 'whole-down', name: 'A whole step down (D)', offsets: [-2, -2, -2, -2, -2, -2] },
  { id: 'drop-c', name: 'Drop C', offsets: [-4, -2, -2, -2, -2, -2] },
  { id: 'drop-b', name: 'Drop B', offsets: [-5, -3, -3, -3, -3, -3] },
  { id: 'drop-a', name: 'Drop A', offsets: [-7, -5, -5, -5, -5, -5] },
] as const satisfies readonly { readonly id: string; readonly name: string; readonly offsets: readonly number[] }[]

export type Tuning = (typeof TUNINGS)[number]['id']

/** Semitones, fractions among them, that each string lies off E standard, low to high; or a named tuning. */
export type StringOffsets = Tuning | readonly number[]

const offsetOf = (string: number, tuning: StringOffsets): number =>
  (typeof tuning === 'string' ? TUNINGS.find((t) => t.id === tuning)?.offsets[string] : tuning.at(string)) ?? 0

export const openHz = (string: number, tuning: StringOffsets): number => SET[string].openHz * Math.pow(2, offsetOf(string, tuning) / 12)

/** Sounding length at a fret, m. */
export const lengthAt = (fret: number): number => SCALE_LENGTH * Math.pow(2, -fret / 12)

/**
 * Inharmonicity B of a stiff string, of which partial n lies at n·f·√(1 + B·n²): π³·E·d⁴ / (64·T·L²).
 * Source: Fletcher & Rossing, The Physics of Musical Instruments, 2nd ed. 1998, section 2.18.
 */
export function inharmonicity(string: number, fret: number): number {
  const { core, tension } = SET[string]
  return (Math.PI ** 3 * STEEL * core ** 4) / (64 * tension * lengthAt(fret) ** 2)
}

/** Frequency of partial `n` over the fundamental. */
export const partialRatio = (n: number, b: number): number => n * Math.sqrt((1 + b * n * n) / (1 + b))

/**
 * Seconds in which a partial at `hz` falls by 60 dB. Ends and air take alike from all partials, friction in proportion to frequency
 * (Fletcher & Rossing 1998, section 2.12: internal losses); a finger behind the fret takes more than the nut; the palm takes the more
 * the higher the partial, and leaves the fundamental (common practice, no source).
 * @param mute 0 open, 1 the palm lies firmly on the bridge
 */
export function partialT60(string: number, fret: number, mute: number, hz: number): number {
  const { t60, quality } = SET[string]
  const fretted = fret > 0 ? 1.5 * Math.pow(2, fret / 24) : 1
  // T60 = ln(1000)·Q / (π·f)
  const loss = fretted / t60 + (hz * Math.sqrt(fretted)) / ((Math.log(1000) / Math.PI) * quality)
  return 1 / (loss + mute * 2.3 * (1 + hz / 170))
}
