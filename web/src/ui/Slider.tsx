import { useEffect, useRef, type CSSProperties, type KeyboardEvent, type PointerEvent } from 'react'
import { formatValue, fromTravel, nudge, parseValue, toTravel, type NumberSpec } from '@fulgor/core/catalogue'

interface Props {
  spec: NumberSpec
  value: number
  valueText: string
  description?: string
  disabled: boolean
  className: string
  style: CSSProperties
  onChange: (value: number) => void
  /** Delete. */
  onReset: () => void
  /** Escape. */
  onLeave: () => void
}

const STEPS = 1000
/** The value that was copied last: browsers send no clipboard events to a slider, and ask before they show what they hold. */
let copied: string | null = null
/** Share of a movement that is left with Shift held. */
const FINE = 0.1

/**
 * A parameter on a line: by drag, arrow keys and, while it has the focus, the wheel; Shift makes each of them finer. Alt and a click
 * gives the initial value; copy and paste take the value as text with its unit.
 */
export function Slider({ spec, value, valueText, description, disabled, className, style, onChange, onReset, onLeave }: Props) {
  const input = useRef<HTMLInputElement>(null)
  const travel = toTravel(spec, value)
  const latest = useRef({ spec, value, onChange })
  useEffect(() => {
    latest.current = { spec, value, onChange }
  })
  /** With Shift held: where pointer and value were when it was pressed, as travel. */
  const fine = useRef<{ pointer: number; value: number } | null>(null)
  const shift = useRef(false)

  useEffect(() => {
    const field = input.current
    if (!field) return
    // the page would scroll: React's own listener cannot keep it from that
    const onWheel = (event: WheelEvent) => {
      if (document.activeElement !== field || event.ctrlKey) return
      event.preventDefault()
      const now = latest.current
      // with Shift a wheel scrolls sideways
      const turn = Math.sign(event.deltaY || event.deltaX)
      if (turn !== 0) now.onChange(nudge(now.spec, now.value, -turn * (event.shiftKey ? FINE : 1)))
    }
    field.addEventListener('wheel', onWheel, { passive: false })
    return () => field.removeEventListener('wheel', onWheel)
  }, [])

  const move = (pointer: number) => {
    if (!shift.current) fine.current = null
    else fine.current ??= { pointer, value: travel }
    const from = fine.current
    onChange(fromTravel(spec, from ? from.value + (pointer - from.pointer) * FINE : pointer))
  }
  const copyValue = () => {
    copied = formatValue(spec, value)
    void navigator.clipboard.writeText(copied).catch(() => undefined)
  }
  const pasteValue = async () => {
    const text = copied ?? (await navigator.clipboard.readText().catch(() => ''))
    const parsed = parseValue(spec, text, { now: value })
    if (parsed.ok) onChange(Number(parsed.value))
  }
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.ctrlKey || event.metaKey) {
      const act = { c: copyValue, v: () => void pasteValue() }[event.key.toLowerCase()]
      if (!act) return
      event.preventDefault()
      act()
      return
    }
    const step = event.shiftKey ? FINE : 1
    const steps = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step, PageUp: 10, PageDown: -10 }[event.key]
    if (event.key === 'Delete') onReset()
    else if (event.key === 'Backspace') onChange(spec.initial)
    else if (event.key === 'Home') onChange(spec.min)
    else if (event.key === 'End') onChange(spec.max)
    else if (steps !== undefined) onChange(nudge(spec, value, steps))
    else if (event.key === 'Escape') onLeave()
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  const onPointerDown = (event: PointerEvent<HTMLInputElement>) => {
    if (!event.altKey) return
    event.preventDefault()
    onChange(spec.initial)
  }
  return (
    <input
      ref={input}
      type="range"
      className={className}
      style={style}
      aria-label={spec.label}
      aria-description={description}
      aria-valuetext={valueText}
      disabled={disabled}
      min={0}
      max={STEPS}
      value={Math.round(travel * STEPS)}
      onChange={(event) => move(Number(event.currentTarget.value) / STEPS)}
      onKeyDown={onKeyDown}
      onPointerDown={onPointerDown}
      onPointerMove={(event) => (shift.current = event.shiftKey)}
      onPointerUp={() => (fine.current = null)}
    />
  )
}
