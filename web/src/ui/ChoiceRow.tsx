import type { ChoiceSpec } from '@fulgor/core/catalogue'
import { NoteMark } from './marks'
import { Pick } from './Pick'

interface Props {
  name: string
  spec: ChoiceSpec
  value: string
  own: boolean
  /** Why it does nothing now, if so. */
  inert: string | null
  onChange: (value: string) => void
  onReset: () => void
}

/** A parameter with a few named values. */
export function ChoiceRow({ name, spec, value, own, inert, onChange, onReset }: Props) {
  return (
    <div
      data-param={name}
      data-inert={inert === null ? undefined : ''}
      className={`flex flex-wrap items-center justify-between gap-x-2 pt-1 text-[12px] ${inert === null ? '' : 'text-ink3'}`}
    >
      <span className={`flex-none ${own ? 'font-semibold' : ''}`}>
        {spec.label}
        {own && (
          <button type="button" className="ml-2 text-label text-ink3 underline underline-offset-2 hover:text-ember" onClick={onReset}>
            to base
          </button>
        )}
      </span>
      <Pick
        label={spec.label}
        value={value}
        options={spec.options.map((option) => [option.value, option.label] as const)}
        className={`border-b border-control text-right text-[12px] ${own ? 'font-semibold text-ember' : 'font-medium'}`}
        description={inert ?? undefined}
        onChange={onChange}
      />
      {inert !== null && (
        <p className="flex w-full items-start gap-1 text-label leading-[14px]">
          <NoteMark /> {inert}
        </p>
      )}
    </div>
  )
}
