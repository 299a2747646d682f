import { useId, useMemo, useState, type ReactNode } from 'react'
import { catalogue, FAMILIES, type Family, type StageModel } from '@fulgor/core/catalogue'
import { FAMILY_WORDS as WORDS } from '../../ui/families'
import { listKeys } from '../../ui/listKeys'

/** Models of a family that hold every word, those that hold them in their name first. */
function search(text: string, family: Family | null): readonly StageModel[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const holds = (all: string) => words.every((word) => all.toLowerCase().includes(word))
  const found = catalogue.filter(
    (m) =>
      (family === null || m.family === family) &&
      holds(`${m.name} ${m.family} ${WORDS[m.family]} ${m.purpose} ${m.substitute} ${m.tags.join(' ')}`),
  )
  return [...found.filter((m) => holds(m.name)), ...found.filter((m) => !holds(m.name))]
}

interface Props {
  /** What Enter does with the marked model. */
  verb: string
  first?: Family
  /** The model that is marked when the list opens. */
  now?: string
  onMark?: (model: StageModel) => void
  onTake: (model: StageModel) => void
  children?: ReactNode
}

/** All models: by family, by what players call them; arrow keys mark one, Enter takes it. */
export function Catalogue({ verb, first, now, onMark, onTake, children }: Props) {
  const [words, setWords] = useState('')
  const [family, setFamily] = useState<Family | null>(first ?? null)
  const found = useMemo(() => search(words, words.trim() === '' ? family : null), [words, family])
  const [marked, setMarked] = useState<string | null>(now ?? null)
  const list = useId()
  const at = found.findIndex((m) => m.id === marked)
  // what is searched for is marked by itself, so that Enter takes it
  const current = at >= 0 ? found[at] : words.trim() === '' ? null : (found.at(0) ?? null)
  const mark = (model: StageModel | undefined) => {
    if (!model) return
    setMarked(model.id)
    onMark?.(model)
    document.getElementById(`${list}-${model.id}`)?.scrollIntoView({ block: 'nearest' })
  }
  const onKeyDown = listKeys({
    count: found.length,
    at,
    onMark: (next) => mark(found[next]),
    onTake: () => current && onTake(current),
  })
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-2">
        <input
          type="search"
          autoFocus
          role="combobox"
          aria-expanded="true"
          aria-controls={list}
          aria-activedescendant={current ? `${list}-${current.id}` : undefined}
          aria-label="Search the catalogue"
          placeholder="Search: chime, slapback, edge …"
          value={words}
          onChange={(event) => {
            setWords(event.currentTarget.value)
            setMarked(null)
          }}
          onKeyDown={onKeyDown}
          className="field w-[220px]"
        />
        <span className="text-label text-ink2" aria-live="polite">
          {found.length} of {catalogue.length}
          {current && `; Enter ${verb} ${current.name}`}
        </span>
        {children}
      </div>
      <div className="grid h-[min(56vh,460px)] grid-cols-[112px_minmax(0,1fr)] gap-4 max-[700px]:grid-cols-1 max-[700px]:grid-rows-[auto_minmax(0,1fr)]">
        <div role="group" aria-label="Families" className="flex flex-col items-start overflow-auto max-[700px]:flex-row max-[700px]:gap-3">
          {[null, ...FAMILIES].map((name) => (
            <button
              key={name ?? 'all'}
              type="button"
              aria-pressed={family === name && words.trim() === ''}
              onClick={() => {
                setFamily(name)
                setWords('')
              }}
              className={`min-h-[26px] border-l-[3px] pl-2 whitespace-nowrap ${family === name && words.trim() === '' ? 'border-ember font-bold' : 'border-transparent text-ink2 hover:text-ink'}`}
            >
              {name === null ? 'All' : WORDS[name]}
            </button>
          ))}
        </div>
        <ul id={list} role="listbox" aria-label="Models" tabIndex={0} onKeyDown={onKeyDown} className="overflow-auto border-t border-rule2">
          {found.map((model) => (
            <li
              key={model.id}
              id={`${list}-${model.id}`}
              role="option"
              aria-selected={model === current}
              data-model={model.id}
              onPointerEnter={onMark ? undefined : () => setMarked(model.id)}
              onClick={() => (onMark && model !== current ? mark(model) : onTake(model))}
              className={`grid cursor-pointer grid-cols-[150px_minmax(0,1fr)] gap-4 border-b border-rule py-1.5 pr-2 pl-1 max-[700px]:grid-cols-1 max-[700px]:gap-0 ${model === current ? 'bg-deep shadow-[inset_3px_0_0_var(--ember)]' : ''}`}
            >
              <span>
                <b className="block font-semibold">{model.name}</b>
                <span className="eyebrow">{WORDS[model.family]}</span>
              </span>
              <span className="text-ink2">{model.purpose}</span>
            </li>
          ))}
          {found.length === 0 && <li className="py-3 text-ink2">Nothing in the catalogue matches “{words}”.</li>}
        </ul>
      </div>
    </>
  )
}
