import { Suspense, useMemo, useRef, type PointerEvent } from 'react'
import { modelOf } from '@fulgor/core/catalogue'
import {
  evenOut,
  isLive,
  loudnessJump,
  placeOfValue,
  resolveStage,
  stagesOf,
  stillTwentieths,
  targetOf,
  targetValue,
  type Control,
  type ControlTarget,
  type Preset,
  type Snapshot,
} from '@fulgor/core/preset'
import { edit, newId } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { figure } from '../../ui/format'
import type { Curve } from '../../ui/chartOption'
import { LazyChart } from '../../ui/LazyChart'
import { WarningMark } from '../../ui/marks'
import { MARGINS, MeasuredTravel, TRAVEL_AXIS } from './MeasuredTravel'
import { SWEEP_POINTS, type Sweep } from './useSweep'
import { specOf, targetName, valueWords } from './words'

const HEIGHT = 230
const TOP = 8
const BOTTOM = 18
const UNIT = { min: 0, max: 1, interval: 0.25, unit: '' }
/** Each curve by its own tone and dash. */
const LOOKS: readonly Pick<Curve, 'tone' | 'dash' | 'width'>[] = [
  { tone: 'ember', width: 2 },
  { tone: 'lane', width: 1.5 },
  { tone: 'ink', width: 1.5 },
  { tone: 'lane', dash: [5, 3], width: 1.5 },
  { tone: 'ink', dash: [2, 3], width: 1.5 },
  { tone: 'ember', dash: [5, 3], width: 1.5 },
]

/** Heights of labels, at least a line apart. */
function apart(heights: readonly number[]): number[] {
  const order = heights.map((y, i) => ({ y, i })).sort((a, b) => a.y - b.y)
  const out = [...heights]
  let last = -Infinity
  for (const { y, i } of order) out[i] = last = Math.max(y, last + 14)
  return out
}

interface Props {
  preset: Preset
  control: Control
  snapshot: Snapshot
  position: number
  sweep: Sweep
  onMove: (position: number) => void
}

/** The whole travel of a source against each target in its own unit, and what is measured along it. */
export function SweepChart({ preset, control, snapshot, position, sweep, onMove }: Props) {
  const area = useRef<HTMLDivElement>(null)
  const live = control.targets.filter((t) => isLive(t, snapshot.id))
  const look = (target: ControlTarget) => LOOKS[control.targets.indexOf(target) % LOOKS.length]
  const at = (target: ControlTarget, p: number) => targetValue(specOf(preset, target) ?? null, target, p)
  const curves = useMemo<Curve[]>(
    () =>
      control.targets.flatMap((target, k) => {
        if (!isLive(target, snapshot.id)) return []
        const spec = specOf(preset, target)
        const points = Array.from({ length: 101 }, (_, i) => [i, placeOfValue(spec, targetValue(spec ?? null, target, i / 100))] as const)
        return [{ label: '', ...LOOKS[k % LOOKS.length], points }]
      }),
    [preset, control, snapshot.id],
  )
  const y = (target: ControlTarget, p: number) => TOP + (1 - placeOfValue(specOf(preset, target), at(target, p))) * (HEIGHT - TOP - BOTTOM)
  const heel = apart(live.map((t) => y(t, 0)))
  const toe = apart(live.map((t) => y(t, 1)))
  const now = apart(live.map((t) => y(t, position)))
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    const box = area.current?.getBoundingClientRect()
    if (!box || (event.type === 'pointermove' && event.buttons !== 1)) return
    event.currentTarget.setPointerCapture(event.pointerId)
    onMove(Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)))
  }
  const points = sweep.points
  const bright = points.flatMap((p) => p?.centroidHz ?? [])
  const peak = Math.max(-Infinity, ...points.flatMap((p) => p?.truePeakDbtp ?? []))
  const nearest = points[Math.round(position * (SWEEP_POINTS - 1))]
  return (
    <section
      aria-label="Sweep"
      data-sweep={sweep.ms === null ? '' : sweep.ms.toFixed(0)}
      data-sweep-lufs={points.map((p) => p?.lufs?.toFixed(2) ?? '').join(' ')}
    >
      <div className="relative mt-5" style={{ height: HEIGHT }}>
        <Suspense fallback={null}>
          <LazyChart
            curves={curves}
            x={TRAVEL_AXIS}
            y={UNIT}
            height={HEIGHT}
            margins={MARGINS}
            label={`Travel of ${control.name} against its targets`}
          />
        </Suspense>
        <div
          ref={area}
          className="absolute cursor-ew-resize touch-none"
          style={{ left: MARGINS.left, right: MARGINS.right, top: TOP - 18, bottom: BOTTOM }}
          onPointerDown={drag}
          onPointerMove={drag}
        >
          <div className="absolute inset-y-0 border-l-[1.5px] border-ink" style={{ left: `${position * 100}%` }}>
            <span className="num absolute top-0 -translate-x-1/2 bg-ink px-1.5 text-[11px] leading-[16px] font-semibold text-paper">
              {Math.round(position * 100)}&nbsp;%
            </span>
          </div>
        </div>
        {live.map((t, i) => {
          const spec = specOf(preset, t)
          const words = (p: number) => valueWords(spec, t.param, at(t, p))
          const tone = { ember: 'text-ember', lane: 'text-lane', ink: 'text-ink', 'ink-2': 'text-ink2' }[look(t).tone]
          return (
            <div key={t.id} className={`num pointer-events-none text-[11px] leading-[14px] font-semibold ${tone}`}>
              <span className="absolute text-right" style={{ right: `calc(100% - ${MARGINS.left - 6}px)`, top: heel[i] - 7 }}>
                {words(0)}
              </span>
              <span className="absolute whitespace-nowrap" style={{ left: `calc(100% - ${MARGINS.right - 6}px)`, top: toe[i] - 7 }}>
                {words(1)} <span className="font-ui font-normal">{targetName(preset, t)}</span>
              </span>
              <span
                className="absolute bg-paper/80 px-0.5"
                data-now={targetName(preset, t)}
                style={{ left: `calc(${MARGINS.left + 6}px + (100% - ${MARGINS.left + MARGINS.right}px) * ${position})`, top: now[i] - 7 }}
              >
                {words(position)}
              </span>
            </div>
          )
        })}
        <span className="absolute top-[-16px] text-[11px] font-semibold" style={{ left: MARGINS.left - 52 }}>
          heel
        </span>
        <span className="absolute top-[-16px] text-[11px] font-semibold" style={{ left: `calc(100% - ${MARGINS.right}px)` }}>
          toe
        </span>
      </div>
      {live.length === 0 ? (
        <p className="text-[12px] text-ink2">None of its targets is live in “{snapshot.name}”.</p>
      ) : (
        <>
          <MeasuredTravel control={control} snapshot={snapshot} sweep={sweep} target={targetOf(preset, snapshot)} />
          <p className="text-[12px]">
            Here <b className="num">{figure(nearest?.lufs)} LUFS</b>, brightness <b className="num">{figure(nearest?.centroidHz, 0)} Hz</b>,
            true peak <b className="num">{figure(nearest?.truePeakDbtp)} dBTP</b>
            {bright.length > 1 && (
              <span className="text-ink2">
                ; brightness runs from {figure(Math.min(...bright), 0)} to {figure(Math.max(...bright), 0)} Hz, peaks reach {figure(peak)}{' '}
                dBTP.
              </span>
            )}
          </p>
          <EvenOut preset={preset} control={control} snapshot={snapshot} sweep={sweep} />
          <SweepWarnings preset={preset} live={live} sweep={sweep} peak={peak} />
        </>
      )}
      {sweep.problem && (
        <p role="alert">
          <WarningMark /> {sweep.problem}
        </p>
      )}
    </section>
  )
}

/** Proposes the last Output as a target that makes the whole travel as loud as its heel. */
function EvenOut({ preset, control, snapshot, sweep }: { preset: Preset; control: Control; snapshot: Snapshot; sweep: Sweep }) {
  const dispatch = useAppDispatch()
  const output = stagesOf(preset.chain).findLast((s) => s.model === 'output')
  const spec = output ? modelOf(output.model).params.level : undefined
  const moved = control.targets.some((t) => t.stage === output?.id && t.param === 'level' && isLive(t, snapshot.id))
  if (!output || spec?.kind !== 'number' || moved || sweep.ms === null) return null
  const level = Number(resolveStage(preset, output, snapshot.id).params.level)
  const made = evenOut(
    sweep.points.map((p) => p?.lufs ?? null),
    level,
    [spec.min, spec.max],
  )
  if (!made) return null
  const add = () =>
    dispatch(
      edit({
        type: 'addTarget',
        control: control.id,
        target: { id: newId(), stage: output.id, param: 'level', snapshots: [snapshot.id], ...made },
      }),
    )
  return (
    <button
      type="button"
      className="act"
      title={`The Output’s level runs from ${figure(Number(made.from))} to ${figure(Number(made.to))} dB against what was measured, in “${snapshot.name}”`}
      onClick={add}
    >
      Even out the loudness
    </button>
  )
}

/** Where the loudness jumps, clips, or a target stands still. */
function SweepWarnings({ preset, live, sweep, peak }: { preset: Preset; live: readonly ControlTarget[]; sweep: Sweep; peak: number }) {
  const words: string[] = []
  const jump = loudnessJump(sweep.points.map((p) => p?.lufs ?? null))
  if (jump) words.push(`The loudness jumps by ${figure(jump.by, 1, true)} LU within 5 % of the travel, at ${jump.at * 5} %.`)
  if (peak > -0.1) words.push(`It peaks at ${figure(peak)} dBTP: a converter clips.`)
  for (const target of live) {
    const spec = specOf(preset, target)
    const still = stillTwentieths(spec ?? null, target)
    if (still >= 14 && target.from !== target.to && spec?.kind !== 'choice' && target.param !== 'on')
      words.push(`${targetName(preset, target)} stands still over ${still * 5} % of the travel.`)
    if (target.from === target.to) words.push(`${targetName(preset, target)} does nothing: heel and toe are the same.`)
  }
  return (
    <div data-sweep-warnings={words.length}>
      {words.map((text) => (
        <p key={text} className="text-[12px]">
          <WarningMark /> {text}
        </p>
      ))}
    </div>
  )
}
