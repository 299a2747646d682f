import { columnsOf, functionLabel } from '@fulgor/core/board'
import {
  EMPTY_BOARD,
  switchAt,
  type Board,
  type BoardSwitch,
  type DeviceCapacity,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'

interface Props {
  preset: Preset
  board?: Board
  capacity: DeviceCapacity
  bank: number
  /** Switches that are held fast; with `onLock` they can be. */
  locked: ReadonlySet<string>
  onLock?: (own: BoardSwitch) => void
  /** Board that it is compared with: what stands elsewhere there is marked. */
  before?: Board
}

/** Numbers of a row, the upper row of the board first: feet see the near row below. */
function rowsOf(switches: number): number[][] {
  const columns = columnsOf(switches)
  const rows: number[][] = []
  for (let from = 0; from < switches; from += columns)
    rows.unshift(Array.from({ length: Math.min(columns, switches - from) }, (_, i) => from + i))
  return rows
}

/** One face of the board, as it lies before the feet. */
export function BoardPicture({ preset, board = preset.board ?? EMPTY_BOARD, capacity, bank, locked, onLock, before }: Props) {
  const words = (fn: SwitchFunction | null | undefined) => (fn ? functionLabel(preset, fn) : '')
  return (
    <div className="grid gap-1" role="group" aria-label={`Board of ${preset.name}, bank ${bank + 1}`}>
      {rowsOf(capacity.switches).map((row) => (
        <div key={row[0]} className="grid gap-1" style={{ gridTemplateColumns: `repeat(${columnsOf(capacity.switches)}, minmax(0, 1fr))` }}>
          {row.map((index) => {
            const own = switchAt(board, { page: 'snapshots', bank, index })
            const old = before && switchAt(before, { page: 'snapshots', bank, index })
            const isNew = before !== undefined && JSON.stringify(own?.press ?? null) !== JSON.stringify(old?.press ?? null)
            const fast = own !== undefined && locked.has(own.id)
            const press = own?.label || words(own?.press)
            const title = [
              press,
              own?.hold ? `hold: ${words(own.hold)}` : '',
              own?.both ? `with ${index + 2}: ${words(own.both)}` : '',
              fast ? 'stays as it is' : '',
            ]
              .filter(Boolean)
              .join(' · ')
            const inside = (
              <>
                <span className="num flex justify-between text-[10.5px] text-ink2">
                  {index + 1}
                  {fast && <span className="font-ui">fast</span>}
                </span>
                <span className="block truncate text-[11px] leading-[13px]">{press || '–'}</span>
                {own?.hold && <span className="block truncate text-[10.5px] leading-[12px] text-ink2">hold {words(own.hold)}</span>}
                {own?.both && (
                  <span className="block truncate text-[10.5px] leading-[12px] text-ink2">
                    with {index + 2} {words(own.both)}
                  </span>
                )}
              </>
            )
            const look = `min-w-0 border px-1 py-0.5 text-left ${isNew ? 'border-[1.6px] border-ember' : 'border-control'} min-h-[44px]`
            return onLock && own ? (
              <button
                key={index}
                type="button"
                className={`${look} hover:bg-deep`}
                aria-pressed={fast}
                title={`${title} · click to hold it fast`}
                onClick={() => onLock(own)}
              >
                {inside}
              </button>
            ) : (
              <span key={index} className={look} title={title}>
                {inside}
              </span>
            )
          })}
        </div>
      ))}
    </div>
  )
}
