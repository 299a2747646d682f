import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { within, type Part } from '@fulgor/core/recording'
import { figure } from './format'

/** dB that half the height shows. */
const RANGE_DB = 48
/** s that an arrow key moves an end by, with and without Shift. */
const STEP_S = 0.05
const FINE_S = 0.005

interface Props {
  label: string
  /** Largest sample of each stretch of equal length, linear. */
  outline: Float32Array
  /** s. */
  seconds: number
  /** Stretches that are marked, in the order of time; a name each where there are several. */
  parts: readonly Part[]
  nameOf?: (index: number) => string
  chosen?: number
  onChoose?: (index: number) => void
  /** An end was moved. */
  onPart: (index: number, part: Part) => void
  /** A new stretch was drawn over bare ground. */
  onDraw: (part: Part) => void
  /** Places of a grid to be seen, s. */
  grid?: readonly number[]
  /** Where it plays, s. */
  at?: number | null
  /** px. */
  height?: number
}

/** A recording as it runs; stretches are drawn and moved by pointer, and their ends by keys. */
export function Wave({
  label,
  outline,
  seconds,
  parts,
  nameOf,
  chosen = 0,
  onChoose,
  onPart,
  onDraw,
  grid = [],
  at = null,
  height = 96,
}: Props) {
  const box = useRef<HTMLDivElement>(null)
  const held = useRef<{ from: number; index: number | null; end: 'from' | 'to' } | null>(null)
  const timeAt = (event: PointerEvent) => {
    const { left, width } = (box.current as HTMLDivElement).getBoundingClientRect()
    return Math.min(seconds, Math.max(0, ((event.clientX - left) / width) * seconds))
  }
  const share = (s: number) => `${(100 * s) / seconds}%`
  const move = (event: PointerEvent) => {
    const drag = held.current
    if (!drag) return
    const now = timeAt(event)
    if (drag.index !== null) onPart(drag.index, within({ ...parts[drag.index], [drag.end]: now }, seconds))
    else if (Math.abs(now - drag.from) > seconds / 200) onDraw(within({ from: drag.from, to: now }, seconds))
  }
  const grab = (event: PointerEvent, index: number | null, end: 'from' | 'to') => {
    event.preventDefault()
    event.stopPropagation()
    held.current = { from: timeAt(event), index, end }
    box.current?.setPointerCapture(event.pointerId)
  }
  const nudge = (event: KeyboardEvent, index: number, end: 'from' | 'to') => {
    const steps: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: -1, ArrowUp: 1, PageDown: -20, PageUp: 20 }
    const step = steps[event.key]
    if (step === undefined) return
    event.preventDefault()
    const part = parts[index]
    onPart(index, within({ ...part, [end]: part[end] + step * (event.shiftKey ? FINE_S : STEP_S) }, seconds))
  }
  return (
    <div
      ref={box}
      className="relative cursor-crosshair touch-none select-none"
      style={{ height }}
      data-wave={parts.map(({ from, to }) => `${from.toFixed(3)}-${to.toFixed(3)}`).join(' ')}
      onPointerDown={(event) => event.button === 0 && grab(event, null, 'to')}
      onPointerMove={move}
      onPointerUp={() => (held.current = null)}
      onPointerCancel={() => (held.current = null)}
    >
      {parts.map(({ from, to }, k) => (
        <div
          key={k}
          className={`absolute inset-y-0 ${k === chosen ? 'bg-lit' : 'bg-deep'}`}
          style={{ left: share(from), width: share(to - from) }}
        />
      ))}
      <svg
        viewBox={`0 0 ${outline.length} ${height}`}
        width="100%"
        height={height}
        preserveAspectRatio="none"
        role="img"
        aria-label={label}
        className="absolute inset-0"
      >
        {grid.map((s) => (
          <path key={s} d={`M${(s / seconds) * outline.length} 0v${height}`} stroke="var(--rule)" vectorEffect="non-scaling-stroke" />
        ))}
        <path d={bars(outline, height)} stroke="var(--ink-2)" vectorEffect="non-scaling-stroke" />
      </svg>
      {at !== null && <span className="absolute inset-y-0 w-0 border-l border-ember" style={{ left: share(at) }} />}
      {parts.map((part, k) =>
        (['from', 'to'] as const).map((end) => (
          <button
            key={`${k} ${end}`}
            type="button"
            role="slider"
            aria-label={`${end === 'from' ? 'Start' : 'End'} of ${nameOf?.(k) ?? 'the loop'}`}
            aria-valuemin={0}
            aria-valuemax={seconds}
            aria-valuenow={part[end]}
            aria-valuetext={`${figure(part[end], 2)} s`}
            className="absolute inset-y-0 w-3 min-w-0 -translate-x-1/2 cursor-ew-resize"
            style={{ left: share(part[end]) }}
            onPointerDown={(event) => {
              onChoose?.(k)
              grab(event, k, end)
              event.currentTarget.focus()
            }}
            onFocus={() => onChoose?.(k)}
            onKeyDown={(event) => nudge(event, k, end)}
          >
            <span className={`mx-auto block h-full w-0.5 ${k === chosen ? 'bg-ember' : 'bg-control'}`} />
          </button>
        )),
      )}
    </div>
  )
}

const bars = (outline: Float32Array, height: number): string =>
  Array.from(outline, (v, k) => {
    const half = Math.max(0.4, (Math.max(0, RANGE_DB + 20 * Math.log10(v + 1e-6)) / RANGE_DB) * (height / 2 - 2))
    return `M${k + 0.5} ${(height / 2 - half).toFixed(1)}V${(height / 2 + half).toFixed(1)}`
  }).join('')
