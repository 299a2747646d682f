/** A choice of a few, in words, the chosen one underlined. */
export function Segments<T extends string>(props: {
  label: string
  value: T
  options: readonly (readonly [value: T, label: string])[]
  onChange: (value: T) => void
  disabled?: boolean
}) {
  return (
    <div role="radiogroup" aria-label={props.label} className="flex gap-2.5">
      {props.options.map(([value, label], i) => {
        const on = value === props.value
        return (
          <button
            key={value}
            type="button"
            role="radio"
            aria-checked={on}
            tabIndex={on ? 0 : -1}
            disabled={props.disabled}
            onClick={() => props.onChange(value)}
            onKeyDown={(event) => {
              const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
              if (step === 0) return
              event.preventDefault()
              event.stopPropagation()
              const next = (i + step + props.options.length) % props.options.length
              props.onChange(props.options[next][0])
              const siblings = event.currentTarget.parentElement?.querySelectorAll('button')
              siblings?.[next].focus()
            }}
            className={`min-h-6 border-b-2 leading-[18px] whitespace-nowrap disabled:text-ink3 ${on ? 'border-ember font-bold text-ink' : 'border-transparent text-ink2 hover:text-ink'}`}
          >
            {label}
          </button>
        )
      })}
    </div>
  )
}
