import type { Edit, Preset } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { copy, paste, rangeEdits, type Picked } from '../../state/cells'
import { rangeChosen } from '../../state/cellsSlice'
import { bypassStages, duplicateStages, removeStages, stepStages } from '../../state/stageBlocks'
import { useAppDispatch, useAppSelector } from '../../state/store'

type Action = readonly [words: string, title: string, act: () => void, off?: boolean]

/** What can be done with a range of cells or with whole rows, above the foot of the matrix. */
export function RangeBar({ preset, picked }: { preset: Preset; picked: Picked }) {
  const dispatch = useAppDispatch()
  const block = useAppSelector((s) => s.cells.block)
  const { stages, snapshots } = picked
  const name = (id: string) => preset.snapshots.find((s) => s.id === id)?.name ?? ''
  const change = (made: Edit) => () => dispatch(edit(made))
  const copyNow = () => {
    const text = dispatch(copy())
    // a browser may keep its clipboard to itself; ours holds it anyway
    if (text) void navigator.clipboard.writeText(text).catch(() => undefined)
  }
  const whole = snapshots.length === 0
  const actions: readonly Action[] = whole
    ? [
        ['Copy', 'Ctrl/Cmd C', copyNow],
        ['Paste behind', 'Ctrl/Cmd V', () => dispatch(paste(null)), block === null],
        ['Duplicate', 'Copies of them right behind', () => dispatch(duplicateStages(stages))],
        ['Bypass', 'Off, or on where all of them are off', () => dispatch(bypassStages(stages))],
        ['Move up', 'Alt ↑', () => dispatch(stepStages(stages, -1))],
        ['Move down', 'Alt ↓', () => dispatch(stepStages(stages, 1))],
        ['Remove', 'Delete', () => dispatch(removeStages(stages))],
      ]
    : [
        ['Copy', 'Ctrl/Cmd C', copyNow],
        ['Paste', 'Ctrl/Cmd V', () => dispatch(paste(null)), block === null],
        ['Fill across', `All take what ${name(snapshots[0])} has; Ctrl/Cmd Enter`, change(rangeEdits.fill(picked)), snapshots.length < 2],
        ['Swap', 'Both snapshots change places in these rows', change(rangeEdits.swap(picked)), snapshots.length !== 2],
        ['Reset to base', 'Delete', change(rangeEdits.reset(picked))],
        [
          'Make it the base',
          'The base takes these values; the other snapshots follow where they say nothing',
          change(rangeEdits.toBase(picked)),
          snapshots.length !== 1,
        ],
      ]
  return (
    <div
      role="toolbar"
      aria-label={whole ? 'Selected stages' : 'Selected cells'}
      className="sticky bottom-[var(--sheet-foot-h)] left-0 z-20 flex min-h-9 w-full flex-none flex-wrap items-center gap-x-4 border-t border-ink bg-paper px-3.5 text-[12px]"
    >
      <span className="num" data-range={`${stages.length} ${snapshots.length}`}>
        {stages.length} {stages.length === 1 ? 'row' : 'rows'}
        {!whole && ` × ${snapshots.length} ${snapshots.length === 1 ? 'snapshot' : 'snapshots'}`}
      </span>
      {actions.map(([words, title, act, off]) => (
        <button key={words} type="button" className="act" title={title} disabled={off} onClick={act}>
          {words}
        </button>
      ))}
      <button type="button" className="act ml-auto" title="Escape" onClick={() => dispatch(rangeChosen(null))}>
        Deselect
      </button>
    </div>
  )
}
