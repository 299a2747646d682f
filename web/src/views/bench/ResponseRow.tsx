import type { ReactNode } from 'react'
import type { ResponseAsset } from '@fulgor/core/api'
import { StarMark } from './ResponseParts'

/** Height of a row, px. */
export const ROW = 30

interface Props {
  response: ResponseAsset
  index: number
  /** px from the top of the list. */
  start: number
  on: boolean
  blind: boolean
  /** Others of its kind that lie behind it. */
  kind: { readonly alike: number; readonly open: boolean } | null
  figures: ReactNode
  onTry: () => void
  onTake: () => void
  onStar: () => void
  onKind: () => void
}

export function ResponseRow({ response, index, start, on, blind, kind, figures, onTry, onTake, onStar, onKind }: Props) {
  return (
    <div
      id={`response-${index}`}
      role="option"
      aria-selected={on}
      data-response={index}
      onClick={onTry}
      onDoubleClick={onTake}
      style={{ height: ROW, transform: `translateY(${start}px)` }}
      className={`absolute inset-x-0 flex cursor-pointer items-center gap-2 border-b border-rule pr-1 text-[12px] ${on ? 'bg-deep font-semibold shadow-[inset_3px_0_0_var(--ember)]' : ''}`}
    >
      <span
        data-star={response.favourite}
        title="Favourite (F)"
        onClick={(event) => {
          event.stopPropagation()
          onStar()
        }}
        className={`grid size-6 flex-none place-items-center ${response.favourite ? 'text-ember' : 'text-rule2 hover:text-ink'}`}
      >
        <StarMark on={response.favourite} />
        {response.favourite && !blind && <span className="sr-only">Favourite </span>}
      </span>
      <span className="min-w-0 flex-1 truncate" title={blind ? undefined : `${response.path}/${response.name}`}>
        {blind ? `No. ${index + 1}` : response.name}
        {kind && (
          <span
            data-alike=""
            className="ml-2 cursor-pointer text-label font-normal text-ink3 underline underline-offset-2"
            onClick={(event) => {
              event.stopPropagation()
              onKind()
            }}
          >
            {kind.open ? 'fold' : `and ${kind.alike} alike`}
          </span>
        )}
      </span>
      {!blind && figures}
    </div>
  )
}
