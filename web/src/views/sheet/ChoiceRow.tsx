import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { formatValue, type ChoiceSpec } from '@fulgor/core/catalogue'
import { Chevron } from '../../ui/marks'

interface Props {
  name: string
  spec: ChoiceSpec
  value: string
  own: boolean
  onChange: (value: string) => void
  onReset: () => void
}

/** A parameter with a few named values. */
export function ChoiceRow({ name, spec, value, own, onChange, onReset }: Props) {
  return (
    <div data-param={name} className="flex items-center justify-between gap-2 pt-1 text-[12px]">
      <span className={own ? 'font-semibold' : ''}>
        {spec.label}
        {own && (
          <button type="button" className="ml-2 text-label text-ink3 underline underline-offset-2 hover:text-ember" onClick={onReset}>
            to base
          </button>
        )}
      </span>
      <Listbox value={value} onChange={onChange}>
        <ListboxButton
          aria-label={spec.label}
          className={`min-h-6 min-w-0 truncate border-b border-control text-right text-[12px] ${own ? 'font-semibold text-ember' : 'font-medium'}`}
        >
          {formatValue(spec, value)}
          <Chevron />
        </ListboxButton>
        <ListboxOptions anchor="bottom end" className="menu max-h-72 overflow-auto">
          {spec.options.map((option) => (
            <ListboxOption key={option.value} value={option.value} className="menu-item data-[selected]:font-bold">
              {option.label}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </div>
  )
}
