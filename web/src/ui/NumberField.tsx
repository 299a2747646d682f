import { formatValue, parseValue, type NumberSpec, type Parsed } from '@fulgor/core/catalogue'
import { FieldNote } from './FieldNote'
import { useDraft } from './useDraft'

interface Props {
  spec: NumberSpec
  /** null: there is none, `empty` stands there. */
  value: number | null
  onChange: (value: number) => void
  label?: string
  /** How the value is written; with its unit by itself. */
  format?: (value: number) => string
  /** Word for no value; given, the field can be emptied. */
  empty?: { readonly word: string; readonly onEmpty: () => void }
  /** bpm, where note values may be typed. */
  tempo?: number
  /** Takes the text before it is read as a number of the spec: null passes it on, '' has taken it, else the reason. */
  before?: (text: string) => string | null
  className?: string
  title?: string
  onLeave?: () => void
}

const KEEPS = 'num min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink'

/** Every typed number: it takes values as players say them, tells what it understood while one types, and never drops a unit. */
export function NumberField({
  spec,
  value,
  onChange,
  label,
  format,
  empty,
  tempo,
  before,
  className = `${KEEPS} w-[72px]`,
  title,
  onLeave,
}: Props) {
  const written = value === null ? (empty?.word ?? '') : (format?.(value) ?? formatValue(spec, value))
  const none = (text: string) => empty !== undefined && (text.trim() === '' || text.trim().toLowerCase() === empty.word.toLowerCase())
  const read = (text: string): Parsed => parseValue(spec, text, { tempo, now: value ?? undefined })
  const { draft, problem, props } = useDraft(
    written,
    (text) => {
      if (none(text)) {
        empty?.onEmpty()
        return null
      }
      const taken = before?.(text) ?? null
      if (taken !== null) return taken === '' ? null : taken
      const parsed = read(text)
      if (!parsed.ok) return parsed.reason
      onChange(Number(parsed.value))
      return null
    },
    onLeave,
  )
  return (
    <span className="relative inline-block">
      <input
        type="text"
        inputMode="text"
        autoComplete="off"
        spellCheck={false}
        aria-label={label ?? spec.label}
        title={title}
        className={className}
        {...props}
        onClick={(event) => event.currentTarget.select()}
      />
      <FieldNote problem={problem} note={draft === null || draft === written || none(draft) ? null : understood(spec, read(draft))} />
    </span>
  )
}

function understood(spec: NumberSpec, parsed: Parsed): string {
  if (!parsed.ok) return '…'
  const value = formatValue(spec, parsed.value)
  return parsed.also === null ? `= ${value}` : `= ${value}; ${parsed.also}`
}
