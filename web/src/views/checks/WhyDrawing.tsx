/** Size of every drawing, px. */
const WIDTH = 220
const HEIGHT = 64
const MIDDLE = HEIGHT / 2

interface Drawing {
  /** What is seen, for those who do not see it. */
  readonly words: string
  readonly lines: readonly { readonly at: (x: number) => number; readonly tone?: 'ember' | 'thin' | 'dashed' }[]
}

const sine = (x: number, turns: number, shift = 0): number => Math.sin(2 * Math.PI * (turns * x + shift))
/** Strokes that die away: two in the width. */
const decay = (x: number): number => Math.exp(-4 * ((x * 2) % 1))
const level = (y: number): number => HEIGHT - 4 - y * (HEIGHT - 8)

/** `at` gives px from the top for a place from 0 to 1. */
const DRAWINGS: Readonly<Record<string, Drawing>> = {
  'over-ceiling': {
    words: 'A wave whose tops are cut off at full scale',
    lines: [
      { at: (x) => MIDDLE - 29 * sine(x, 3), tone: 'dashed' },
      { at: (x) => MIDDLE - Math.max(-18, Math.min(18, 29 * sine(x, 3))), tone: 'ember' },
      { at: () => MIDDLE - 18, tone: 'thin' },
      { at: () => MIDDLE + 18, tone: 'thin' },
    ],
  },
  'gate-never-closes': {
    words: 'Notes that die away to a noise floor above the threshold',
    lines: [
      { at: (x) => level(Math.max(0.3, decay(x))), tone: 'ember' },
      { at: () => level(0.18), tone: 'dashed' },
    ],
  },
  'gate-clips-soft': {
    words: 'A loud and a soft note; the soft one stays below the threshold',
    lines: [
      { at: (x) => level(decay(x) * (x < 0.5 ? 1 : 0.4)), tone: 'ember' },
      { at: () => level(0.5), tone: 'dashed' },
    ],
  },
  'lane-cancels': {
    words: 'Two waves the other way round, and the little that is left of them',
    lines: [
      { at: (x) => MIDDLE - 24 * sine(x, 3), tone: 'thin' },
      { at: (x) => MIDDLE - 24 * sine(x, 3, 0.47), tone: 'dashed' },
      { at: (x) => MIDDLE - 24 * (sine(x, 3) + sine(x, 3, 0.47)), tone: 'ember' },
    ],
  },
  'combs-in-mono': {
    words: 'A response with notches at even distances: a comb',
    lines: [{ at: (x) => 6 + Math.min(54, 3 / Math.max(0.05, Math.abs(sine(x, 3))) - 3), tone: 'ember' }],
  },
  'delay-drowns': {
    words: 'Notes with repeats of the one before between and upon them',
    lines: [
      { at: (x) => level(decay(x)), tone: 'ember' },
      { at: (x) => level(0.8 * decay((x + 0.86) % 1)), tone: 'dashed' },
    ],
  },
  'reverb-fills-gaps': {
    words: 'Notes with gaps, and a reverb that fills them',
    lines: [
      { at: (x) => level(Math.exp(-9 * ((x * 2) % 1))), tone: 'ember' },
      { at: (x) => level(0.35 + 0.45 * Math.exp(-1.2 * ((x * 2) % 1))), tone: 'dashed' },
    ],
  },
  'cut-misread': {
    words: 'A gentle cut far to the left, and a steep one that reaches into the notes',
    lines: [
      { at: (x) => 12 + 10 * Math.log10(1 + Math.pow(0.08 / Math.max(0.01, x), 2)) * 1.4, tone: 'dashed' },
      { at: (x) => 12 + Math.min(48, 10 * Math.log10(1 + Math.pow(0.45 / Math.max(0.01, x), 8)) * 1.4), tone: 'ember' },
    ],
  },
  'harsh-notes': {
    words: 'Partials of a note, one of which stands out of the others',
    lines: [
      {
        at: (x) => {
          const n = Math.floor(x * 9)
          const tall = n === 5 ? 1 : 0.9 * Math.exp(-0.32 * n)
          return (x * 9) % 1 > 0.42 && (x * 9) % 1 < 0.58 ? level(tall) : level(0)
        },
        tone: 'ember',
      },
    ],
  },
}

const POINTS = 220
const STROKE = {
  ember: { stroke: 'var(--ember)', strokeWidth: 2 },
  thin: { stroke: 'var(--ink3)', strokeWidth: 1 },
  dashed: { stroke: 'var(--ink2)', strokeWidth: 1.2, strokeDasharray: '4 3' },
} as const

/** A small picture beside what is said, where one helps. */
export function WhyDrawing({ rule }: { rule: string }) {
  if (!(rule in DRAWINGS)) return null
  const { words, lines } = DRAWINGS[rule]
  const path = (at: (x: number) => number) =>
    Array.from({ length: POINTS + 1 }, (_, i) => {
      const y = Math.max(1, Math.min(HEIGHT - 1, at(i / POINTS)))
      return `${i === 0 ? 'M' : 'L'}${((i / POINTS) * WIDTH).toFixed(1)} ${y.toFixed(1)}`
    }).join('')
  return (
    <svg role="img" aria-label={words} width={WIDTH} height={HEIGHT} className="mt-1 max-w-full border-b border-rule2" fill="none">
      {lines.map(({ at, tone = 'ember' }, i) => (
        <path key={i} d={path(at)} {...STROKE[tone]} />
      ))}
    </svg>
  )
}
