import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { Chevron } from './marks'

/** A choice from a list, shown as the words of what is chosen. */
export function Pick<T extends string>(props: {
  label: string
  value: T
  options: readonly (readonly [T, string])[]
  className?: string
  /** What the button shows where the words are too long for its place. */
  short?: (value: T) => string
  onChange: (value: T) => void
}) {
  const shown = props.short ? props.short(props.value) : (props.options.find(([v]) => v === props.value)?.[1] ?? '–')
  return (
    <Listbox value={props.value} onChange={props.onChange}>
      <ListboxButton
        aria-label={`${props.label}: ${shown}`}
        title={props.short ? props.label : undefined}
        className={`min-h-6 min-w-0 truncate whitespace-nowrap ${props.className ?? ''}`}
      >
        {shown}
        <Chevron />
      </ListboxButton>
      <ListboxOptions modal={false} anchor="bottom end" className="menu max-h-72 overflow-auto">
        {props.options.map(([value, words]) => (
          <ListboxOption key={value} value={value} className="menu-item data-[selected]:font-bold">
            {words}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  )
}
