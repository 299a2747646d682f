import { Suspense, useMemo } from 'react'
import { mixGains } from '@fulgor/core/signal'
import { clearingDb, echoPattern, maskingOf, NOTE_VALUES, repeatsUntilSilence, wetAgainstDryDb } from '@fulgor/core/stage'
import { figure } from '../../ui/format'
import { LazyChart } from '../../ui/LazyChart'
import { NoteMark } from '../../ui/marks'

interface Props {
  /** %. */
  feedback: number
  /** ms. */
  time: number
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
export function Echoes({ feedback, time, mix, tempo, onMix }: Props) {
  const { dry, wet } = mixGains(mix)
  const wetDb = wetAgainstDryDb(wet, dry)
  const beat = 60_000 / tempo
  const pattern = useMemo(() => echoPattern(time, feedback / 100, Number.isFinite(wetDb) ? wetDb : 0), [time, feedback, wetDb])
  const last = Math.max(2, Math.min(16, Math.ceil((pattern.at(-1)?.ms ?? 0) / beat)))
  const curves = useMemo(
    () => [
      {
        label: '',
        tone: 'ember' as const,
        width: 2.4,
        points: pattern.flatMap(({ ms, db }) => [[ms / beat, UNDER] as const, [ms / beat, db] as const, [ms / beat, UNDER] as const]),
      },
      { label: '', tone: 'ink' as const, width: 2.4, points: [[0, UNDER], [0, 0], [0, UNDER]] as const }, // prettier-ignore
    ],
    [pattern, beat],
  )
  const count = repeatsUntilSilence(feedback / 100)
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
      <p>
        {count === 1 ? 'One repeat' : count === Infinity ? 'Repeats without end' : `${count} repeats until −60 dB`},{' '}
        {figure(time, time < 100 ? 1 : 0)} ms apart
        {feedback > 0 && count !== Infinity && `, each ${figure(20 * Math.log10(feedback / 100))} dB`}.
      </p>
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
