import type { ResponseAsset } from '@fulgor/core/api'
import type { Direction, Timbre } from '@fulgor/core/cabinet'
import { quantity } from '@fulgor/core/catalogue'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import type { Sort } from './listing'
import { Toggle } from './ResponseParts'

/** How the list is ordered. */
export interface Order {
  readonly sort: Sort
  /** What distances are told against; null: the blend. */
  readonly target: ResponseAsset | null
  /** Brighter than this one, and so on. */
  readonly like: { readonly direction: Direction; readonly from: Timbre; readonly name: string } | null
  /** Kinds that alike ones are folded into; null: all apart. */
  readonly kindCount: number | null
}

export const BY_NAME: Order = { sort: 'name', target: null, like: null, kindCount: null }

const KINDS = quantity('count', 'Number of kinds', [1, 100])

const SORTS: readonly (readonly [Sort, string])[] = [
  ['name', 'name'],
  ['brightness', 'brightness'],
  ['body', 'body'],
  ['bite', 'bite'],
  ['fizz', 'fizz'],
  ['distance', 'distance'],
]

const DIRECTIONS: readonly (readonly [Direction, string])[] = [
  ['brighter', 'Brighter'],
  ['darker', 'Darker'],
  ['thicker', 'Thicker'],
  ['thinner', 'Thinner'],
]

const defaultKinds = (count: number): number => Math.max(2, Math.min(40, Math.round(count / 25) || 2))

interface Props {
  order: Order
  /** The one that is tried, while its name may be known. */
  tried: ResponseAsset | null
  /** What "brighter" starts from: a response, else the blend. */
  from: ResponseAsset | null
  blend: Timbre | null
  blind: boolean
  count: number
  /** @param anew whether the list begins at another place */
  onChange: (change: Partial<Order>, anew: boolean) => void
}

/** The order of the list, by figures and by the ear's words, and alike ones folded into kinds. */
export function OrderRow({ order: { sort, target, like, kindCount }, tried, from, blend, blind, count, onChange }: Props) {
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 text-[12px]">
        <span className="flex items-center gap-1 whitespace-nowrap text-ink2">
          by
          <Pick<Sort> label="Order" value={sort} options={SORTS} onChange={(next) => onChange({ sort: next, like: null }, true)} />
        </span>
        {sort === 'distance' && !like && (
          <span className="flex items-center gap-1.5 whitespace-nowrap">
            to <b className="max-w-[110px] truncate">{target ? target.name : 'the blend'}</b>
            {target && (
              <button type="button" className="act" onClick={() => onChange({ target: null }, false)}>
                the blend
              </button>
            )}
          </span>
        )}
        {tried && (
          <button type="button" className="act" onClick={() => onChange({ target: tried, sort: 'distance', like: null }, true)}>
            Near this
          </button>
        )}
        <span className="flex items-center gap-1.5">
          {DIRECTIONS.map(([direction, words]) => (
            <button
              key={direction}
              type="button"
              className="act"
              aria-pressed={like?.direction === direction}
              disabled={!from && !blend}
              title={`${words} than ${from ? 'the one that is tried' : 'the blend'}, otherwise alike`}
              onClick={() => {
                const origin = from ?? blend
                if (!origin) return
                onChange({ like: { direction, from: origin, name: from ? from.name : 'the blend' } }, true)
              }}
            >
              {words}
            </button>
          ))}
        </span>
        <Toggle on={kindCount !== null} onClick={() => onChange({ kindCount: kindCount === null ? defaultKinds(count) : null }, false)}>
          Kinds
        </Toggle>
        {kindCount !== null && (
          <NumberField
            spec={KINDS}
            value={kindCount}
            className="num w-11 border-b border-control bg-transparent text-right outline-none"
            onChange={(next) => onChange({ kindCount: next }, false)}
          />
        )}
      </div>
      {like && (
        <p className="flex items-baseline gap-2 text-[12px]">
          <span className="min-w-0 truncate">
            {like.direction[0].toUpperCase() + like.direction.slice(1)} than <b>{blind ? 'that one' : like.name}</b>, nearest otherwise
            first.
          </span>
          <button type="button" className="act" onClick={() => onChange({ like: null }, false)}>
            All again
          </button>
        </p>
      )}
    </>
  )
}
