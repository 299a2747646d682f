import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { memo } from 'react'
import { Chevron } from './marks'
import { useSteady } from './useSteady'

type Options = readonly (readonly [value: string, words: string])[]

/** A choice from a list, shown as the words of what is chosen. */
export function Pick<T extends string>(props: {
  label: string
  value: T
  options: readonly (readonly [T, string])[]
  className?: string
  /** What the button shows where the words are too long for its place. */
  short?: (value: T) => string
  /** What else is to be known of it, for those who hear the page. */
  description?: string
  onChange: (value: T) => void
}) {
  const { label, value, options, className = '', short, description } = props
  const shown = short ? short(value) : (options.find(([v]) => v === value)?.[1] ?? '–')
  const onChange = useSteady(props.onChange as (value: string) => void)
  return <List name={`${label}: ${shown}`} title={short && label} {...{ value, options, className, shown, description, onChange }} />
}

interface Props {
  name: string
  title: string | undefined
  description: string | undefined
  value: string
  shown: string
  options: Options
  className: string
  onChange: (value: string) => void
}

const alike = (a: Options, b: Options): boolean =>
  a === b || (a.length === b.length && a.every(([value, words], k) => value === b[k][0] && words === b[k][1]))

/** Lists are the dearest part of a page that is drawn anew with every step of a slider: one that shows the same is left as it is. */
const List = memo(
  function List({ name, title, description, value, shown, options, className, onChange }: Props) {
    return (
      <Listbox value={value} onChange={onChange}>
        <ListboxButton
          aria-label={name}
          aria-description={description}
          title={title}
          className={`min-h-6 min-w-0 truncate whitespace-nowrap ${className}`}
        >
          {shown}
          <Chevron />
        </ListboxButton>
        <ListboxOptions modal={false} anchor="bottom end" className="menu max-h-72 overflow-auto">
          {options.map(([option, words]) => (
            <ListboxOption key={option} value={option} className="menu-item data-[selected]:font-bold">
              {words}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    )
  },
  ({ options: a, ...before }, { options: b, ...now }) =>
    (Object.keys(now) as (keyof typeof now)[]).every((key) => before[key] === now[key]) && alike(a, b),
)
