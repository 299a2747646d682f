import { Fragment } from 'react'
import { effectOf, functionLabel } from '@fulgor/core/board'
import {
  capacityOf,
  EMPTY_BOARD,
  functionsOf,
  samePlace,
  switchAt,
  type BoardPlace,
  type BoardSwitch,
  type Gesture,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'
import { useAppSelector } from '../../state/store'
import { bindingWords, PAGE_NAMES } from './words'

const HOW: Record<Gesture, string> = { press: 'press', hold: 'hold', double: 'twice', both: 'both' }

interface Props {
  preset: Preset
  chosen: BoardPlace
  onChoose: (place: BoardPlace) => void
}

/** What each switch of the page does in each snapshot, bank by bank, and what stands on none. */
export function SwitchTable({ preset, chosen, onChoose }: Props) {
  const { page, bank } = useAppSelector((s) => s.board)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const board = preset.board ?? EMPTY_BOARD
  const { switches: count } = capacityOf(preset.device)
  const own = board.switches
    .filter((s) => s.page === page && functionsOf(s).length > 0)
    .sort((a, b) => a.bank - b.bank || a.index - b.index)
  const free = Array.from({ length: count }, (_, index) => index).filter((index) => {
    const there = switchAt(board, { page, bank, index })
    return !there || functionsOf(there).length === 0
  })
  const idle = (preset.controls ?? []).filter((c) => c.targets.length === 0)
  const shown = [...new Set(own.map((s) => s.bank))]
  return (
    <>
      <div className="mt-2 overflow-x-auto">
        <table hidden={own.length === 0} className="w-full min-w-[760px] table-fixed text-[12px]" aria-label="What each switch does">
          <colgroup>
            <col className="w-[28px]" />
            <col className="w-[120px]" />
            <col className="w-[44px]" />
          </colgroup>
          <thead>
            <tr className="border-t border-ink text-left text-label text-ink3 [&>th]:py-1 [&>th]:pr-2 [&>th]:font-normal">
              <th scope="col">no.</th>
              <th scope="col">Switch, {PAGE_NAMES[page].toLowerCase()}</th>
              <th scope="col">on</th>
              {preset.snapshots.map((s, i) => (
                <th key={s.id} scope="col" className={`truncate ${s.id === lit ? 'bg-lit pl-1 !font-semibold text-ember' : ''}`}>
                  {i + 1} {s.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((b) => (
              <Fragment key={b}>
                {(shown.length > 1 || b > 0) && (
                  <tr>
                    <th scope="rowgroup" colSpan={3 + preset.snapshots.length} className="eyebrow pt-1 text-left font-normal">
                      bank {b + 1}
                    </th>
                  </tr>
                )}
                {own
                  .filter((s) => s.bank === b)
                  .flatMap((s) =>
                    functionsOf(s).map(({ gesture, fn }, k) => (
                      <FunctionRow
                        key={`${s.id} ${gesture}`}
                        preset={preset}
                        own={s}
                        gesture={gesture}
                        fn={fn}
                        first={k === 0}
                        lit={lit}
                        chosen={samePlace(s, chosen)}
                        onChoose={() => onChoose({ page: s.page, bank: s.bank, index: s.index })}
                      />
                    )),
                  )}
              </Fragment>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 border-t border-rule pt-1 text-[12px] text-ink2" data-free={free.map((i) => i + 1).join(' ')}>
        {free.length === 0
          ? `Every switch of bank ${bank + 1} has a function.`
          : `Without a function in bank ${bank + 1}: ${free.map((i) => i + 1).join(', ')}.`}{' '}
        {idle.length > 0 && `Sources that move nothing: ${idle.map((c) => c.name).join(', ')}.`}
      </p>
    </>
  )
}

function FunctionRow(props: {
  preset: Preset
  own: BoardSwitch
  gesture: Gesture
  fn: SwitchFunction
  first: boolean
  lit: string | null
  chosen: boolean
  onChoose: () => void
}) {
  const { preset, own, gesture, fn, first, lit, chosen, onChoose } = props
  const effects = preset.snapshots.map((s) => ({ id: s.id, ...effectOf(preset, fn, s.id) }))
  const alike = effects.every((e) => e.words === effects[0].words)
  const label = own.label || functionLabel(preset, fn)
  return (
    <tr
      className={`align-baseline [&>td]:py-[3px] [&>td]:pr-2 ${first ? 'border-t border-rule' : ''} ${chosen ? 'bg-deep' : ''}`}
      data-function={`${own.index + 1} ${gesture}`}
    >
      <td className="num text-ink3">{first ? own.index + 1 : ''}</td>
      <td className="truncate">
        {first ? (
          <button
            type="button"
            className="min-h-6 min-w-6 max-w-full truncate text-left font-semibold"
            aria-pressed={chosen}
            onClick={onChoose}
          >
            {label}
          </button>
        ) : (
          <span className="text-ink2">{functionLabel(preset, fn)}</span>
        )}
        {first && own.midi && <span className="block truncate text-[11px] text-ink3">{bindingWords(own.midi)}</span>}
      </td>
      <td className="text-ink2">{HOW[gesture]}</td>
      {alike && effects.length > 1 ? (
        <td colSpan={effects.length} className={effects[0].idle ? 'text-ink3' : ''}>
          {effects[0].words}
        </td>
      ) : (
        effects.map((e) => (
          <td key={e.id} className={`${e.id === lit ? 'bg-lit pl-1' : ''} ${e.idle ? 'text-ink3' : ''}`} data-effect={e.id}>
            {e.words}
          </td>
        ))
      )}
    </tr>
  )
}
