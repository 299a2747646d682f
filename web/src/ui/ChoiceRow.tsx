import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { formatValue, type ChoiceSpec } from '@fulgor/core/catalogue'
import { Chevron, NoteMark } from './marks'

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
      <Listbox value={value} onChange={onChange}>
        <ListboxButton
          aria-label={`${spec.label}: ${formatValue(spec, value)}`}
          aria-description={inert ?? undefined}
          className={`min-h-6 min-w-0 truncate border-b border-control text-right text-[12px] ${own ? 'font-semibold text-ember' : 'font-medium'}`}
        >
          {formatValue(spec, value)}
          <Chevron />
        </ListboxButton>
        <ListboxOptions modal={false} anchor="bottom end" className="menu max-h-72 overflow-auto">
          {spec.options.map((option) => (
            <ListboxOption key={option.value} value={option.value} className="menu-item data-[selected]:font-bold">
              {option.label}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
      {inert !== null && (
        <p className="flex w-full items-start gap-1 text-label leading-[14px]">
          <NoteMark /> {inert}
        </p>
      )}
    </div>
  )
}
