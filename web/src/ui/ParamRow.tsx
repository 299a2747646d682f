import type { CSSProperties } from 'react'
import { clockPosition, formatValue, potMark, toTravel, type NumberSpec } from '@fulgor/core/catalogue'
import { NoteMark } from './marks'
import { NumberField } from './NumberField'
import { Slider } from './Slider'

interface Props {
  name: string
  spec: NumberSpec
  value: number
  /** The base's value when a snapshot is edited. */
  base: number | null
  /** The snapshot has a value of its own. */
  own: boolean
  /** Why it cannot be moved now, if so. */
  held: string | null
  /** Why it does nothing now, if so. */
  inert: string | null
  /** The value in another scale. */
  note?: string | null
  /** A value to be marked on the slider. */
  mark?: number | null
  /** bpm, where note values may be typed. */
  tempo?: number
  /** Takes typed text before the parameter itself does, also while it is held: see {@link NumberField}. */
  typed?: (text: string) => string | null
  onChange: (value: number) => void
  onReset: () => void
}

/** Back to the cell that the Focus panel belongs to. */
const toSheet = () => document.querySelector<HTMLElement>('.sheet [role=gridcell][tabindex="0"]')?.focus()

/** One parameter: label, typed value with clock position, and a slim slider that obeys mouse and arrow keys. */
export function ParamRow({ name, spec, value, base, own, held, inert, note = null, mark = null, tempo, typed, onChange, onReset }: Props) {
  const travel = toTravel(spec, value)
  const percent = (t: number) => `${t * 100}%`
  const from = base === null ? travel : Math.min(toTravel(spec, base), travel)
  const style = {
    '--thumb': own ? 'var(--ember)' : 'var(--ink)',
    '--fill': own ? 'var(--ember)' : 'transparent',
    '--from': from === 1 ? '100%' : percent(from),
    '--span': percent(base === null ? 0 : Math.abs(toTravel(spec, base) - travel)),
    '--mark': mark === null || mark < spec.min || mark > spec.max ? '-9px' : percent(toTravel(spec, mark)),
    '--base': base === null || !own ? '-9px' : percent(toTravel(spec, base)),
  } as CSSProperties
  return (
    <div data-param={name} data-inert={inert === null ? undefined : ''} className={`pt-1 ${inert === null ? '' : 'text-ink3'}`}>
      <div className="flex items-baseline justify-between gap-2 text-[12px] leading-4">
        <span className={own ? 'font-semibold' : ''}>
          <span
            className="cursor-default"
            title={`Double click, or Alt and a click: the initial value, ${formatValue(spec, spec.initial)}`}
            onDoubleClick={() => held === null && onChange(spec.initial)}
            onClick={(event) => event.altKey && held === null && onChange(spec.initial)}
          >
            {spec.label}
          </span>
          {own && (
            <button
              type="button"
              className="ml-2 min-h-0 text-label text-ink3 underline underline-offset-2 hover:text-ember"
              onClick={onReset}
              title={base === null ? undefined : `Back to the base, ${formatValue(spec, base)}`}
            >
              to base
            </button>
          )}
        </span>
        <span className="flex items-baseline whitespace-nowrap">
          {held === null || typed ? (
            <NumberField
              spec={spec}
              label={`${spec.label} value`}
              value={value}
              tempo={tempo}
              before={typed}
              onLeave={toSheet}
              className={`num -mt-2 h-6 w-[84px] border-b border-transparent bg-transparent text-right text-label outline-none hover:border-control focus:border-ink ${own ? 'font-semibold text-ember' : 'font-medium text-ink2'}`}
              title={held ?? undefined}
              onChange={onChange}
            />
          ) : (
            <span className="num text-label font-medium text-ink2" title={held}>
              {formatValue(spec, value)}
            </span>
          )}
          {spec.unit === 'knob' && <span className="num ml-1 text-label text-ink3">· {clockPosition(value)}</span>}
          {spec.pot && <span className="num ml-1 text-label text-ink3">· {potMark(spec, value).toFixed(1)}</span>}
        </span>
      </div>
      <Slider
        spec={spec}
        value={value}
        valueText={`${formatValue(spec, value)}${spec.unit === 'knob' ? `, ${clockPosition(value)} o’clock` : spec.pot ? `, ${potMark(spec, value).toFixed(1)} of 10` : ''}`}
        description={inert ?? undefined}
        disabled={held !== null}
        className={`slider disabled:opacity-50 ${inert === null ? '' : 'opacity-50'}`}
        style={style}
        onChange={onChange}
        onReset={() => own && onReset()}
        onLeave={toSheet}
      />
      {note !== null && inert === null && <p className="-mt-0.5 text-label leading-[13px] text-ink3">{note}</p>}
      {inert !== null && (
        <p className="flex items-start gap-1 pt-0.5 text-label leading-[14px]">
          <NoteMark /> {inert}
        </p>
      )}
    </div>
  )
}
