import { Suspense, useMemo } from 'react'
import type { Band } from '@fulgor/core/measure'
import { figure } from '../../ui/format'
import { HERTZ_AXIS } from '../../ui/hertzAxis'
import { LazyChart } from '../../ui/LazyChart'
import { WarningMark } from '../../ui/marks'
import type { Mix } from '../../threads/playing'

/** dB by which a band may stand out from what the sum gains as a whole (common practice, no source). */
const PILES_UP_DB = 3
/** dB that a band may lose in mono before it is told (common practice, no source). */
const LOST_DB = -4
/** Bands that are this much softer than the loudest do not count. */
const HEARD_DB = 30

/** Bands that matter and cross a line, as stretches of the axis. */
function stretches(bands: readonly Band[], heard: readonly Band[], crosses: (db: number) => boolean) {
  const loudest = Math.max(...heard.map((b) => b.db ?? -Infinity))
  const hit = bands.map(
    ({ hz, db }, i) => hz >= 80 && hz <= 12_500 && db !== null && (heard[i].db ?? -Infinity) > loudest - HEARD_DB && crosses(db),
  )
  const found: { from: number; to: number; worst: Band }[] = []
  bands.forEach((band, i) => {
    if (!hit[i]) return
    const edge = [band.hz / Math.pow(2, 1 / 6), band.hz * Math.pow(2, 1 / 6)]
    const last = found.at(-1)
    if (last && hit[i - 1]) {
      last.to = edge[1]
      if (Math.abs(band.db ?? 0) > Math.abs(last.worst.db ?? 0)) last.worst = band
    } else found.push({ from: edge[0], to: edge[1], worst: band })
  })
  return found
}

const hz = (value: number): string => (value >= 1000 ? `${figure(value / 1000, value % 1000 === 0 ? 0 : 1)} kHz` : `${value} Hz`)

/** The sum in figures and in two charts: what piles up, and what mono takes away. */
export function MixPicture({ mix, stale }: { mix: Mix; stale: boolean }) {
  const { output, stereo, buildUp, layers } = mix.figures
  const loudest = Math.max(...layers.map((l) => l.integratedLufs ?? -Infinity))
  const gained = output.integratedLufs === null ? 0 : output.integratedLufs - loudest
  const piles = useMemo(() => stretches(buildUp, output.thirdOctave, (db) => db > gained + PILES_UP_DB), [buildUp, output, gained])
  const lost = useMemo(() => stretches(stereo.monoBands, output.thirdOctave, (db) => db < LOST_DB), [stereo, output])
  const chart = (bands: readonly Band[]) => [
    {
      label: '',
      tone: 'ember' as const,
      stepped: true,
      points: bands.flatMap(({ hz: at, db }) => (db === null ? [] : [[at, db] as const])),
    },
  ]
  const up = useMemo(() => chart(buildUp), [buildUp])
  const mono = useMemo(() => chart(stereo.monoBands), [stereo])
  const rows = [
    ['Loudness, LUFS', figure(output.integratedLufs), `${figure(gained, 1, true)} LU over its loudest layer`],
    ['True peak, dBTP', figure(output.truePeakDbtp), ''],
    ['Crest, dB', figure(output.crestDb), ''],
    [
      'Width, dB',
      stereo.widthDb === null ? '–' : stereo.widthDb < -60 ? 'mono' : figure(stereo.widthDb),
      'difference of the sides over their sum; 0 is two players who share nothing',
    ],
    ['Correlation', figure(stereo.correlation, 2, true), '1 is mono, 0 unlike sides, below 0 they cancel'],
    ['Lost in mono, LU', stereo.monoLossLu === Infinity ? 'all' : figure(stereo.monoLossLu), ''],
  ] as const
  return (
    <div
      className={stale ? 'italic' : ''}
      aria-busy={stale}
      data-width={stereo.widthDb?.toFixed(1)}
      data-mono-loss={stereo.monoLossLu?.toFixed(2)}
      data-gained={gained.toFixed(2)}
    >
      <table className="mt-3 w-full max-w-[640px] border-t border-ink text-[12px]" aria-label="The sum">
        <tbody>
          {rows.map(([label, value, words]) => (
            <tr key={label} className="border-t border-rule">
              <td className="w-[150px] py-0.5">{label}</td>
              <td className="num w-[80px] text-right">{value}</td>
              <td className="pl-4 text-[11.5px] text-ink2">{words}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-3 grid grid-cols-2 gap-6 max-[700px]:grid-cols-1">
        <figure>
          <figcaption className="text-[12px]">
            <b className="font-semibold">What piles up:</b> the sum over the loudest layer of each band, dB
          </figcaption>
          <Suspense fallback={<div style={{ height: 150 }} />}>
            <LazyChart
              curves={up}
              x={HERTZ_AXIS}
              y={{ min: -6, max: 12, interval: 6, unit: 'dB' }}
              height={150}
              label="Third octaves of the sum over the loudest layer"
              zones={piles.map(({ from, to }) => ({ from, to, words: [] }))}
            />
          </Suspense>
          <p className="text-[11.5px] text-ink2" data-piles={piles.length}>
            {piles.length === 0
              ? 'No band stands out from what the layers gain as a whole.'
              : piles.map(({ worst }) => `${hz(worst.hz)} ${figure((worst.db ?? 0) - gained, 1, true)} dB more than the rest`).join('; ')}
            {piles.length > 0 && '. Cut it in one of them.'}
          </p>
        </figure>
        <figure>
          <figcaption className="text-[12px]">
            <b className="font-semibold">What mono takes away:</b> change of each band in a mono house, dB
          </figcaption>
          <Suspense fallback={<div style={{ height: 150 }} />}>
            <LazyChart
              curves={mono}
              x={HERTZ_AXIS}
              y={{ min: -18, max: 6, interval: 6, unit: 'dB' }}
              height={150}
              label="Third octaves in mono against stereo"
              zones={lost.map(({ from, to }) => ({ from, to, words: [] }))}
            />
          </Suspense>
          <p className="text-[11.5px] text-ink2">
            {lost.length === 0 ? (
              'No band that is heard loses more than 4 dB.'
            ) : (
              <>
                <WarningMark /> {lost.map(({ worst }) => `${hz(worst.hz)} ${figure(worst.db, 1)} dB`).join('; ')}: the sides cancel there.
              </>
            )}
          </p>
        </figure>
      </div>
    </div>
  )
}
