import { restDbfs, type GuitarMeasure, type Segment } from '@fulgor/core/guitar'
import type { MeasuredFile } from '../../threads/guitars'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'

/** A dropped recording; without a measure the player must first say which side it is. */
export interface Found {
  readonly name: string
  readonly file: File
  readonly measure: MeasuredFile['measure'] | null
  readonly outline: MeasuredFile['outline'] | null
}

const HEIGHT = 54

/** Where rest and strums were found in a recording, what they measure, and whether to keep that. */
export function FoundInFile(props: {
  found: Found
  onSide: (side: 0 | 1) => void
  onKeep: (measure: GuitarMeasure) => void
  onLeave: () => void
}) {
  const { measure, outline, name } = props.found
  if (!measure || !outline)
    return (
      <div className="my-1 flex flex-wrap gap-x-4 border-y border-rule2 py-1 text-[12px]" data-found="sides">
        <span>Which side of “{name}” is the guitar?</span>
        <button type="button" className="act" onClick={() => props.onSide(0)}>
          Left
        </button>
        <button type="button" className="act" onClick={() => props.onSide(1)}>
          Right
        </button>
        <button type="button" className="act font-normal" onClick={props.onLeave}>
          Neither
        </button>
      </div>
    )
  const counts = (kind: Segment['kind']) => measure.segments.filter((s) => s.kind === kind).length
  return (
    <div className="my-1 border-y border-rule2 py-1" data-found="measured">
      <p className="text-[12px]">
        “{name}”, {figure(measure.durationS)} s: rest and {counts('soft')} soft, {counts('normal')} normal, {counts('hard')} hard strums.
      </p>
      <svg
        viewBox={`0 0 ${outline.length} ${HEIGHT}`}
        width="100%"
        height={HEIGHT}
        preserveAspectRatio="none"
        role="img"
        aria-label="The recording, with rest and strums marked"
        className="my-1 block"
      >
        {measure.segments
          .filter((s) => s.kind === 'rest')
          .map((s) => (
            <rect
              key={s.from}
              x={(s.from / measure.durationS) * outline.length}
              width={((s.to - s.from) / measure.durationS) * outline.length}
              height={HEIGHT}
              fill="url(#fulgor-hatch)"
              opacity="0.5"
            />
          ))}
        <path
          d={Array.from(outline, (v, k) => {
            const half = Math.max(0.4, (Math.max(0, 60 + 20 * Math.log10(v + 1e-6)) / 60) * (HEIGHT / 2 - 6))
            return `M${k} ${HEIGHT / 2 - half}V${HEIGHT / 2 + half}`
          }).join('')}
          stroke="var(--ink-2)"
        />
        {measure.segments
          .filter((s) => s.kind !== 'rest')
          .map((s) => (
            <path
              key={`${s.kind} ${s.from}`}
              d={`M${(s.from / measure.durationS) * outline.length} ${HEIGHT}v-${{ soft: 4, normal: 7, hard: 10 }[s.kind as 'soft']}`}
              stroke="var(--ember)"
              strokeWidth="2"
              vectorEffect="non-scaling-stroke"
            />
          ))}
      </svg>
      <p className="text-[11px] text-ink3">
        Hatched: rest. Marks at the foot: soft, normal and hard strums, by their height. Level on 60 dB.
      </p>
      <MeasureFigures measure={measure} />
      <div className="flex gap-x-4 pt-0.5 text-[12px]">
        <button type="button" className="btn" onClick={() => props.onKeep(measure)}>
          Take these figures
        </button>
        <button type="button" className="act font-normal" onClick={props.onLeave}>
          Leave it
        </button>
      </div>
    </div>
  )
}

/** What a recording tells, in a line of figures and its warnings. */
export function MeasureFigures({ measure }: { measure: GuitarMeasure }) {
  return (
    <div className="text-[12px]" data-measure="">
      <p>
        Peaks soft <b className="num">{figure(measure.soft.peakDbfs)}</b>, normal <b className="num">{figure(measure.normal.peakDbfs)}</b>,
        hard <b className="num">{figure(measure.hard.peakDbfs)} dBFS</b>; brightness{' '}
        <b className="num">{figure(measure.centroidHz / 1000, 2)} kHz</b>; at rest <b className="num">{figure(restDbfs(measure))} dBFS</b> (
        {measure.humDbfs > measure.hissDbfs ? `mostly hum of ${measure.mains} Hz mains` : 'mostly hiss'})
        {measure.pitch && (
          <>
            ; tuned to <b className="num">{figure(measure.pitch.a4)} Hz</b>
          </>
        )}
        .
      </p>
      {measure.warnings.map((w) => (
        <p key={w} className="font-semibold">
          <WarningMark /> {w}
        </p>
      ))}
    </div>
  )
}
