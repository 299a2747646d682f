import { Suspense, useMemo } from 'react'
import { mixGains } from '@fulgor/core/signal'
import { clearingDb, echoPattern, maskingOf, NOTE_VALUES, repeatsUntilSilence, wetAgainstDryDb, type EchoPoint } from '@fulgor/core/stage'
import { figure } from '../../ui/format'
import { LazyChart } from '../../ui/LazyChart'
import { NoteMark } from '../../ui/marks'

interface Line {
  /** %. */
  feedback: number
  /** ms. */
  time: number
  /** Against the other lines, dB. */
  level: number
}

interface Props {
  /** One, or the two of a dual delay. */
  lines: readonly Line[]
  /** %. */
  mix: number
  tempo: number
  /** Sets the mix; null where the effect stands alone in its lane. */
  onMix: ((mix: number) => void) | null
}

/** Under the drawing: the strokes stand on nothing. */
const UNDER = -200

/** Steps that the next notes may come at. */
const STEPS = NOTE_VALUES.filter((n) => n.id === 'quarter' || n.id === 'eighth')

/** The repeats of one note over the beats of the song, and whether they blur the next notes. */
export function Echoes({ lines, mix, tempo, onMix }: Props) {
  const { dry, wet } = mixGains(mix)
  const wetDb = wetAgainstDryDb(wet, dry)
  const beat = 60_000 / tempo
  const wanted = JSON.stringify(lines)
  const patterns = useMemo(
    () => (JSON.parse(wanted) as Line[]).map((l) => echoPattern(l.time, l.feedback / 100, (Number.isFinite(wetDb) ? wetDb : 0) + l.level)),
    [wanted, wetDb],
  )
  const pattern = useMemo(() => patterns.flat().sort((a, b) => a.ms - b.ms), [patterns])
  const last = Math.max(2, Math.min(16, Math.ceil((pattern.at(-1)?.ms ?? 0) / beat)))
  const curves = useMemo(
    () => [
      ...patterns.map((one, i) => ({
        label: '',
        tone: i === 0 ? ('ember' as const) : ('lane' as const),
        width: 2.4,
        points: one.flatMap(({ ms, db }) => [[ms / beat, UNDER] as const, [ms / beat, db] as const, [ms / beat, UNDER] as const]),
      })),
      {
        label: '',
        tone: 'ink' as const,
        width: 2.4,
        points: [
          [0, UNDER],
          [0, 0],
          [0, UNDER],
        ] as const,
      },
    ],
    [patterns, beat],
  )
  const masks = STEPS.map((note) => ({ note, masking: maskingOf(pattern, note.beats * beat) }))
  const worst = masks.reduce((a, b) => ((b.masking?.underDb ?? Infinity) < (a.masking?.underDb ?? Infinity) ? b : a))
  const down = Number.isFinite(wetDb) ? clearingDb(worst.masking) : 0
  const clearMix = Math.floor(Math.min(50, 50 * wet) * Math.pow(10, -down / 20))
  return (
    <section aria-label="Echoes" className="mt-1 text-[11.5px] text-ink2">
      <span className="eyebrow">the note and its repeats over beats, dB</span>
      <Suspense fallback={<div style={{ height: 96 }} />}>
        <LazyChart
          curves={curves}
          x={{
            min: -0.1,
            max: last,
            ticks: Array.from({ length: last }, (_, i) => i + 1).filter((b) => last <= 8 || b % 2 === 0),
            format: String,
            unit: '',
          }}
          y={{ min: -60, max: 0, interval: 20, unit: 'dB' }}
          height={96}
          label={`${pattern.length} repeats over ${last} beats`}
        />
      </Suspense>
      {lines.map((line, i) => (
        <p key={i} className={i === 1 ? 'text-lane' : ''}>
          {lines.length > 1 && `${i === 0 ? 'First' : 'Second'}: `}
          {repeatWords(line, patterns[i])}
        </p>
      ))}
      <p data-masking={worst.masking ? worst.masking.underDb.toFixed(1) : ''}>
        {worst.masking === null ? (
          'They fall between the next eighths and quarters.'
        ) : (
          <>
            {down > 0 && <NoteMark />} Where they fall on the next {worst.note.name.toLowerCase()}s they lie {figure(worst.masking.underDb)}{' '}
            dB under them
            {down > 0 ? ', and blur them.' : ': clear.'}
          </>
        )}
        {down > 0 && onMix && clearMix < mix && (
          <button type="button" className="act ml-2" onClick={() => onMix(clearMix)}>
            Mix to {clearMix} %
          </button>
        )}
      </p>
    </section>
  )
}

/** "6 repeats until −60 dB, 375 ms apart, each −10.5 dB: −12.0, −22.5, −33.0 …". */
function repeatWords({ feedback, time }: Line, pattern: readonly EchoPoint[]): string {
  const count = repeatsUntilSilence(feedback / 100)
  const many = count === 1 ? 'one repeat' : count === Infinity ? 'repeats without end' : `${count} repeats until −60 dB`
  const step = feedback > 0 && count !== Infinity ? `, each ${figure(20 * Math.log10(feedback / 100))} dB` : ''
  const levels = pattern.slice(0, 4).map((p) => figure(p.db))
  return `${many}, ${figure(time, time < 100 ? 1 : 0)} ms apart${step}; at ${levels.join(', ')}${pattern.length > 4 ? ' …' : ''} dB.`
}
