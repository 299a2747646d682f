import type { ReactNode } from 'react'
import { NavLink } from 'react-router'
import { sentenceOf } from '../../api/api'

export interface KitItem {
  readonly id: string
  readonly name: string
  /** What the list tells of it. */
  readonly told: ReactNode
}

interface Props {
  /** “Guitars”. */
  label: string
  /** Address of the page. */
  to: string
  /** Under headings of their own where there are several. */
  groups: readonly { readonly heading?: string; readonly items: readonly KitItem[] }[]
  chosen: string | undefined
  asked: { readonly data?: unknown; readonly error?: unknown; readonly refetch: () => unknown }
  /** What adds one. */
  add: ReactNode
  /** What stands beside an empty list. */
  empty: string
  /** The chosen one. */
  children: ReactNode
}

/** A page of the Kit: what there is on the left, the chosen one beside it. */
export function KitPage({ label, to, groups, chosen, asked, add, empty, children }: Props) {
  const none = groups.every((g) => g.items.length === 0)
  return (
    <div className="grid min-h-0 grid-cols-[206px_minmax(0,1fr)] max-[900px]:block">
      <aside
        aria-label={label}
        className="flex min-h-0 flex-col overflow-auto border-r border-rule2 max-[900px]:border-r-0 max-[900px]:border-b"
      >
        {asked.error !== undefined && none && (
          <p role="alert" className="px-3.5 py-2">
            {sentenceOf(asked.error)}{' '}
            <button type="button" className="act" onClick={() => void asked.refetch()}>
              Ask again
            </button>
          </p>
        )}
        {groups.map(({ heading, items }) => (
          <div key={heading ?? ''}>
            {heading !== undefined && <h2 className="eyebrow px-3.5 pt-2">{heading}</h2>}
            <ul>
              {items.map(({ id, name, told }) => (
                <li key={id} className="border-b border-rule">
                  <NavLink
                    to={`${to}/${id}`}
                    aria-current={id === chosen ? 'page' : undefined}
                    className={`relative block px-3.5 py-1.5 hover:bg-deep ${id === chosen ? 'bg-deep' : ''}`}
                  >
                    {id === chosen && <span className="absolute inset-y-0 left-0 w-[3px] bg-ember" />}
                    <span className={`block truncate text-name ${id === chosen ? 'font-bold' : 'font-semibold'}`}>{name}</span>
                    <span className="block text-[11.5px] text-ink2">{told}</span>
                  </NavLink>
                </li>
              ))}
            </ul>
          </div>
        ))}
        <div className="sticky bottom-0 mt-auto border-t border-rule bg-paper">{add}</div>
      </aside>
      {chosen === undefined ? <p className="px-4 py-3 text-ink2">{asked.data ? empty : 'Opening …'}</p> : children}
    </div>
  )
}
