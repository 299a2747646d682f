import { Fragment } from 'react'
import { findSnapshot, partName, partsOf, rowsOf, stagesOf, strokeDbfs, type Preset } from '@fulgor/core/preset'
import type { Reading } from '@fulgor/core/reading'
import { openFindings, readingStale } from '../../state/findings'
import { useAppSelector } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { NoteMark, WarningMark } from '../../ui/marks'
import { GateCost } from './GateCost'
import { Goals } from './Goals'
import { MonoCheck } from './MonoCheck'
import { pathOf } from './noisePath'
import { SnapshotFigures } from './SnapshotFigures'

const FLOOR = -110
const WIDTH = 100
const ROW = 22
const place = (dbfs: number | null): number => ((Math.max(FLOOR, dbfs ?? FLOOR) - FLOOR) / -FLOOR) * WIDTH

/** Noise at rest and the riff behind every row, and what of them each snapshot leaves. */
export function NoiseBudget({ preset, snapshot }: { preset: Preset; snapshot: string }) {
  const readings = useAppSelector((s) => s.readings.snapshots)
  const stale = useAppSelector(readingStale)
  const reading = readings[snapshot] as Reading | undefined
  return (
    <section aria-label="Noise budget" className="min-h-0 min-w-0 overflow-y-auto px-4 py-2" data-noise={reading ? 'there' : 'pending'}>
      <h2 className="text-[16px] font-bold">
        Noise budget <span className="text-label font-normal text-ink2">at rest, {findSnapshot(preset, snapshot)?.name}</span>
        <Explain term="noiseBudget" className="ml-1" />
      </h2>
      {reading && stale && <p className="text-[12px] text-ink2">Of before the last edit; it is being listened to.</p>}
      {reading ? <Budget preset={preset} reading={reading} /> : <p className="text-ink3">Listening to the preset …</p>}
      {reading && <Ratios preset={preset} lit={snapshot} readings={readings} />}
      {reading && <MonoCheck preset={preset} lit={snapshot} readings={readings} />}
      {reading && <GateCost preset={preset} snapshot={snapshot} reading={reading} />}
      {reading && <Gains preset={preset} reading={reading} />}
      {reading && <Hand preset={preset} snapshot={snapshot} reading={reading} />}
      <Goals preset={preset} snapshot={snapshot} />
    </section>
  )
}

function Budget({ preset, reading }: { preset: Preset; reading: Reading }) {
  const findings = useAppSelector(openFindings)
  const rows = rowsOf(preset.chain).filter((row) => row.kind !== 'join')
  const order = stagesOf(preset.chain).map(({ id }) => id)
  const { guitar, stages } = reading
  const levels = [
    { id: '', name: 'Guitar', number: '', noise: guitar.noiseDbfs, riff: guitar.rmsDbfs },
    ...rows.map((row) => ({
      id: row.id,
      name: partName(preset, row.id),
      number: row.kind === 'stage' ? String(order.indexOf(row.id) + 1) : '',
      noise: stages[row.id]?.noiseDbfs ?? null,
      riff: stages[row.id]?.rmsDbfs ?? null,
    })),
  ]
  const height = levels.length * ROW
  return (
    <>
      <p className="text-[12px] text-ink2">
        <b className="text-ink">{Math.round(guitar.humShare * 100)} %</b> hum and{' '}
        <b className="text-ink">{Math.round((1 - guitar.humShare) * 100)} %</b> hiss come in with the guitar; no stage adds noise of its
        own.
      </p>
      <div className="mt-1 grid grid-cols-[minmax(0,1fr)_100px_52px] items-end text-axis text-ink3">
        <span />
        <span className="num flex justify-between">
          {[FLOOR + 10, -50, 0].map((db) => (
            <span key={db}>{figure(db, 0)}</span>
          ))}
        </span>
        <span className="text-right">dBFS</span>
      </div>
      <div className="relative border-y border-rule2">
        <table className="w-full table-fixed border-collapse">
          <caption className="sr-only">Noise and riff behind each row, dBFS</caption>
          <thead className="sr-only">
            <tr>
              <th scope="col">Row</th>
              <th scope="col">Riff</th>
              <th scope="col">Noise</th>
            </tr>
          </thead>
          <tbody>
            {levels.map(({ id, name, number, noise, riff }) => (
              <tr key={id} className="border-b border-rule last:border-0" style={{ height: ROW }}>
                <th scope="row" className="truncate text-left text-[12px] font-medium">
                  <span className="num mr-1 inline-block w-4 text-right text-axis text-ink3">{number}</span>
                  {name}{' '}
                  {findings.map((f, i) =>
                    f.where.includes(id) ? (
                      <span key={i} className="num text-axis">
                        {f.severity === 'warning' ? <WarningMark /> : <NoteMark />}
                        {i + 1}{' '}
                      </span>
                    ) : null,
                  )}
                </th>
                <td style={{ width: WIDTH }}>
                  <span className="sr-only">{figure(riff)}</span>
                </td>
                <td className="num w-[52px] text-right text-label" data-noise-of={id}>
                  {noise === null ? 'none' : figure(noise)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <svg className="pointer-events-none absolute top-0 right-[52px]" width={WIDTH} height={height} aria-hidden="true">
          {[-100, -50].map((db) => (
            <line key={db} x1={place(db)} x2={place(db)} y1="0" y2={height} stroke="var(--rule)" />
          ))}
          <path
            d={pathOf(
              levels.map((l) => place(l.noise)),
              ROW,
            )}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1.6"
            strokeDasharray="4 2.5"
          />
          <path
            d={pathOf(
              levels.map((l) => place(l.riff)),
              ROW,
            )}
            fill="none"
            stroke="var(--ember)"
            strokeWidth="3"
          />
        </svg>
      </div>
      <p className="flex gap-4 pt-0.5 text-axis text-ink2">
        <span>
          <b className="text-ember">—</b> riff, RMS
        </span>
        <span>
          <b className="text-ink">- -</b> noise at rest, RMS
        </span>
      </p>
    </>
  )
}

function Ratios({ preset, lit, readings }: { preset: Preset; lit: string; readings: Readonly<Record<string, Reading | undefined>> }) {
  return (
    <div className="mt-2 border-t border-rule pt-1">
      <h3 className="text-[12px] font-semibold">Signal to noise, dB by snapshot</h3>
      <SnapshotFigures
        preset={preset}
        lit={lit}
        told={(id) => {
          const r = readings[id]
          const ratio = r?.output.rmsDbfs == null ? null : r.noiseDbfs === null ? Infinity : r.output.rmsDbfs - r.noiseDbfs
          return ratio === null ? '–' : ratio > 120 ? '>120' : figure(ratio, 0)
        }}
      />
    </div>
  )
}

/** Gates and compressors: how often and how deep they turn down. */
function Gains({ preset, reading }: { preset: Preset; reading: Reading }) {
  const turning = partsOf(preset.chain).flatMap(({ id }) => {
    const gain = reading.stages[id]?.gain
    return gain ? [{ id, gain }] : []
  })
  if (turning.length === 0) return null
  return (
    <div className="mt-2 border-t border-rule pt-1 text-[12px]">
      <h3 className="font-semibold">Turned down while the riff plays</h3>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3">
        {turning.map(({ id, gain }) => (
          <Fragment key={id}>
            <dt>{partName(preset, id)}</dt>
            <dd className="num text-right">
              {Math.round(gain.share * 100)} % of the time by more than 3 dB; {figure(gain.meanDb)} on average, {figure(gain.deepestDb)} at
              most
            </dd>
          </Fragment>
        ))}
      </dl>
    </div>
  )
}

/** Breakup and dynamics of the whole snapshot. */
function Hand({ preset, snapshot, reading }: { preset: Preset; snapshot: string; reading: Reading }) {
  const { feel, dynamicsLu, handLu } = reading
  const hard = strokeDbfs(preset, snapshot, 'hard')
  return (
    <div className="mt-2 border-t border-rule pt-1 text-[12px]" data-hand="">
      <h3 className="font-semibold">
        The whole snapshot under the hand <Explain term="hand" />
      </h3>
      {feel.edges.map(({ thd, inputDb }) => (
        <p key={thd} className="flex justify-between">
          <span>{thd} % distortion from</span>
          <span className="num">{edgeWords(inputDb, hard)}</span>
        </p>
      ))}
      <p className="flex justify-between">
        <span>Soft to hard picking</span>
        <span className="num">
          {figure(dynamicsLu)} of {figure(handLu)} LU left
        </span>
      </p>
    </div>
  )
}

const edgeWords = (inputDb: number | null, hard: number): string => {
  if (inputDb === null) return 'never'
  if (inputDb <= -48) return 'the softest note on'
  const below = hard - inputDb
  return Math.abs(below) < 0.5 ? 'a hard strum on' : `${figure(Math.abs(below), 0)} dB ${below > 0 ? 'below' : 'above'} a hard strum`
}
