import { useState } from 'react'
import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react'
import { usePresetsQuery } from '../api/api'
import { Chevron } from '../ui/marks'
import { useQuiet } from '../ui/useQuiet'

const SHOWN = 50

interface Props {
  label?: string
  /** The chosen preset; null is the open one. */
  value: string | null
  /** Its name. */
  name: string
  /** The open preset, which stands first. */
  open: string | null
  onChange: (preset: string | null) => void
}

/** A preset of the whole shelf: typing searches it where it is, however long it is. */
export function PresetPick({ label = 'Preset of the layer', value, name, open, onChange }: Props) {
  const [text, setText] = useState('')
  const search = useQuiet(text.trim().slice(0, 100), 200)
  const { data } = usePresetsQuery({ search: search || undefined, sort: search ? 'name' : 'updated', limit: SHOWN })
  const found = (data?.items ?? []).filter((p) => p.id !== open)
  const more = (data?.total ?? 0) - (data?.items.length ?? 0)
  return (
    <Combobox
      immediate
      value={value ?? THIS}
      onChange={(chosen: string | null) => chosen !== null && onChange(chosen === THIS ? null : chosen)}
      onClose={() => setText('')}
    >
      <span className="flex min-w-0 items-baseline">
        <ComboboxInput
          aria-label={label}
          displayValue={() => name}
          onChange={(event) => setText(event.currentTarget.value)}
          onFocus={(event) => event.currentTarget.select()}
          placeholder="type a name"
          className="min-h-6 w-[150px] min-w-0 truncate border-b border-control bg-transparent text-right font-medium placeholder:text-ink3"
        />
        <ComboboxButton aria-label="All presets" className="grid size-6 place-items-center">
          <Chevron />
        </ComboboxButton>
      </span>
      <ComboboxOptions modal={false} anchor="bottom end" className="menu max-h-72 overflow-auto">
        {search === '' && open !== null && (
          <ComboboxOption value={THIS} className="menu-item data-[selected]:font-bold">
            this one
          </ComboboxOption>
        )}
        {found.map((preset) => (
          <ComboboxOption key={preset.id} value={preset.id} className="menu-item data-[selected]:font-bold">
            {preset.name}
          </ComboboxOption>
        ))}
        {(found.length === 0 || more > 0) && (
          <ComboboxOption disabled value="more" className="menu-item">
            {found.length === 0 && search !== '' ? `nothing is called “${search}”` : `${more} more: type to find them`}
          </ComboboxOption>
        )}
      </ComboboxOptions>
    </Combobox>
  )
}

const THIS = 'this'
