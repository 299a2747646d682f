import { Suspense, useMemo } from 'react'
import { meanSpread, type Portrait, type ReferenceReport } from '@fulgor/core/match'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import type { Aim } from '../../threads/matching'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { HERTZ_AXIS } from '../../ui/hertzAxis'
import type { Curve } from '../../ui/chartOption'
import { LazyChart } from '../../ui/LazyChart'
import { distanceFrom } from './findWay'

interface Props {
  /** What is compared, in words. */
  name: string
  now: Portrait | null
  /** The candidate that is heard. */
  heard: { readonly name: string; readonly portrait: Portrait } | null
  recording: Portrait | null
  report: ReferenceReport | null
  aim: Aim
  working: boolean
}

/** Words for what sticks out or is missing, by where it lies (common practice, no source). */
const WORDS: readonly (readonly [toHz: number, more: string, less: string])[] = [
  [130, 'boomy', 'lean'],
  [250, 'thick', 'thin'],
  [500, 'boxy', 'hollow'],
  [1_000, 'honking', 'scooped'],
  [2_000, 'nasal', 'far'],
  [4_500, 'sharp', 'dull'],
  [Infinity, 'fizzy', 'closed'],
]
/** dB from which a band is told of, octaves that lie between two of them, and how many. */
const TOLD_DB = 1.5
const APART = 0.8
const MOST = 4
const Y = { min: -12, max: 12, interval: 6, unit: 'dB' }
const MARGINS = { left: 38, right: 10 }

const hertz = (hz: number): string => (hz >= 1_000 ? `${Number((hz / 1_000).toPrecision(2))} kHz` : `${Math.round(hz)} Hz`)

/** How far a snapshot is from a recording: one figure, band by band, and by what players talk of. */
export function HowFar({ name, now, heard, recording, report, aim, working }: Props) {
  const before = useMemo(() => now && recording && distanceFrom(now, recording, aim), [now, recording, aim])
  const after = useMemo(() => heard && recording && distanceFrom(heard.portrait, recording, aim), [heard, recording, aim])
  const shown = after ?? before
  const curves = useMemo<Curve[]>(() => {
    const points = (bands: readonly (number | null)[]) =>
      bands.flatMap((db, k) => (db === null ? [] : [[THIRD_OCTAVES[k], Math.max(-18, Math.min(18, db))] as const]))
    return [
      {
        label: 'the recording',
        tone: 'lane',
        width: 2,
        nameAt: 0.5,
        points: [
          [aim.trusted.fromHz, 0],
          [1_000, 0],
          [aim.trusted.toHz, 0],
        ],
      },
      ...(before ? [{ label: 'this sheet now', tone: 'ink' as const, dashed: true, points: points(before.bands) }] : []),
      ...(after && heard ? [{ label: heard.name, tone: 'ember' as const, points: points(after.bands) }] : []),
    ]
  }, [before, after, heard, aim])
  const band = useMemo(
    () =>
      shown && recording && now
        ? shown.bands.flatMap((db, k) => {
            const off = meanSpread(recording.bands, (heard?.portrait ?? now).bands, k)
            return db === null ? [] : [[THIRD_OCTAVES[k], db - off, db + off] as const]
          })
        : [],
    [shown, recording, now, heard],
  )
  const zones = [
    ...(aim.trusted.fromHz > HERTZ_AXIS.min ? [{ from: HERTZ_AXIS.min, to: aim.trusted.fromHz, words: ['not', 'compared'] }] : []),
    ...(aim.trusted.toHz < HERTZ_AXIS.max ? [{ from: aim.trusted.toHz, to: HERTZ_AXIS.max, words: ['not', 'compared'] }] : []),
  ]
  return (
    <section
      aria-label="How far"
      className="border-t border-ink pt-1"
      data-distance={before ? before.db.toFixed(2) : ''}
      data-after={after ? after.db.toFixed(2) : ''}
    >
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-section font-bold">
          How far <Explain term="distance" />
        </h2>
        <span className="text-[12px] text-ink2">
          {name}, less the recording{working ? ' · listening …' : ''}
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-0.5">
        <span className="num font-head text-[38px] leading-none font-bold" aria-live="polite">
          {figure(before?.db)}
          {after && (
            <>
              {' → '}
              <span className="text-ember">{figure(after.db)}</span>
            </>
          )}
          <span className="ml-1 text-[14px]">dB</span>
        </span>
        <p className="max-w-[460px] flex-1 text-[11.5px] leading-[14px] text-ink2">
          Root mean square of the third octaves from {hertz(aim.trusted.fromHz)} to {hertz(aim.trusted.toHz)}, at equal loudness. The band
          is how far other notes of the same two sounds would move it: where it covers the recording, the notes may differ, not the tone.
          {report?.ownDb != null && (
            <>
              {' '}
              Its two halves are <b className="num">{figure(report.ownDb)} dB</b> apart: with other notes than its own, that is as near as
              one comes.
            </>
          )}
        </p>
      </div>
      <Suspense fallback={<div style={{ height: 250 }} />}>
        <LazyChart
          curves={curves}
          band={band}
          x={HERTZ_AXIS}
          y={Y}
          height={250}
          margins={MARGINS}
          zones={zones}
          label="Third octaves of the preset less those of the recording, dB"
        />
      </Suspense>
      {shown && (
        <p className="text-[12px]" data-apart="">
          <span className="text-ink2">Furthest apart: </span>
          {farthest(shown.bands).map(({ k, db, word }, i) => (
            <span key={k}>
              {i > 0 && ', '}
              <b>{word}</b> at {hertz(THIRD_OCTAVES[k])}{' '}
              <span className="num">
                {after && before ? `${figure(before.bands[k], 1, true)} to ` : ''}
                {figure(db, 1, true)} dB
              </span>
            </span>
          ))}
          {farthest(shown.bands).length === 0 && 'nowhere more than 1.5 dB.'}
        </p>
      )}
      <Figures now={now} heard={heard} recording={recording} />
    </section>
  )
}

function farthest(bands: readonly (number | null)[]): { k: number; db: number; word: string }[] {
  const found: { k: number; db: number; word: string }[] = []
  const order = bands
    .flatMap((db, k) => (db === null || Math.abs(db) < TOLD_DB ? [] : [{ k, db }]))
    .sort((a, b) => Math.abs(b.db) - Math.abs(a.db))
  for (const { k, db } of order) {
    if (found.length >= MOST || found.some((f) => Math.abs(Math.log2(THIRD_OCTAVES[f.k] / THIRD_OCTAVES[k])) < APART)) continue
    const [, more, less] = WORDS.find(([to]) => THIRD_OCTAVES[k] < to) ?? WORDS[0]
    found.push({ k, db, word: db > 0 ? more : less })
  }
  return found.sort((a, b) => a.k - b.k)
}

const COLUMNS: readonly (readonly [string, (p: Portrait) => string])[] = [
  ['Brightness', (p) => (p.brightnessHz === null ? '–' : `${figure(p.brightnessHz / 1_000, 2)} kHz`)],
  ['Body', (p) => `${figure(p.bodyDb)} dB`],
  ['Bite', (p) => `${figure(p.biteDb)} dB`],
  ['Fizz', (p) => `${figure(p.fizzDb)} dB`],
  ['Crest', (p) => `${figure(p.crestDb)} dB`],
  ['Density', (p) => `${figure(p.densityDb)} dB`],
  ['Width', (p) => `${figure(p.widthPercent, 0)} %`],
]

function Figures({ now, heard, recording }: Pick<Props, 'now' | 'heard' | 'recording'>) {
  const rows = [
    ['the recording', recording, 'text-lane'],
    ['this sheet now', now, ''],
    ...(heard ? [[heard.name, heard.portrait, 'text-ember'] as const] : []),
  ] as const
  return (
    <div className="overflow-x-auto" tabIndex={-1}>
      <table className="mt-1 w-full min-w-[560px] table-fixed text-right text-[12px]" aria-label="By what players talk of">
        <thead>
          <tr className="border-t border-rule2 text-ink2">
            <td className="w-[118px] text-left">
              <Explain term="portrait" />
            </td>
            {COLUMNS.map(([name]) => (
              <th key={name} scope="col" className="font-normal">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, of, tone]) => (
            <tr key={name} className={`border-t border-rule ${tone}`} data-portrait={name}>
              <th scope="row" className="truncate text-left font-semibold" title={name}>
                {name}
              </th>
              {COLUMNS.map(([column, words]) => (
                <td key={column} className="num font-semibold">
                  {of ? words(of) : '–'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
