import { useSortable } from '@dnd-kit/sortable'
import { memo, useState, type KeyboardEvent } from 'react'
import { formatValue, modelOf, type StageModel } from '@fulgor/core/catalogue'
import { effectiveParams, landing, tempoOf, resolveStage, type ParamMap, type Preset, type StageNode } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { stageChosen } from '../../state/editor'
import { removeStages } from '../../state/stageBlocks'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Dot, Grip } from '../../ui/marks'
import { CellEditor } from './CellEditor'
import { FoundMark } from './FoundMark'
import { focusChosen, focusRow } from './focusRow'
import { focusFirstParam } from './FocusPanel'
import { TraceCell } from './EmberTrace'
import { leaveLane, splitBeside, stepRow } from './routing'
import { sameCells, sameLine, type SheetRow } from './rows'
import { rowName } from './rowName'
import { SnapshotCell } from './SnapshotCell'
import { Gutter } from './JoinRow'

interface Props {
  preset: Preset
  row: SheetRow
  stage: StageNode
  index: number
  /** Depth of the deepest lanes, for the width of the gutter. */
  deepest: number
  /** Snapshots whose cells of this row are in the selected range. */
  picked: readonly string[] | null
}

/** One stage or lane: its place in the signal, base values, the ember trace, and what each snapshot changes. */
export const StageRow = memo(function StageRow({ preset, row, stage, index, deepest, picked }: Props) {
  const dispatch = useAppDispatch()
  const chosen = useAppSelector((s) => s.editor.stage === stage.id)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const reach = useAppSelector((s) => s.editor.reach)
  const named = useAppSelector((s) => s.editor.column === 'name')
  const pointed = useAppSelector((s) => (s.editor.stage === stage.id ? s.editor.pointed : null))
  const goes = pointed === null ? null : landing(preset, stage, pointed, lit, reach)
  const model = modelOf(stage.model)
  const [typing, setTyping] = useState<string | null>(null)
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({ id: stage.id })
  const heard = resolveStage(preset, stage, lit)
  const lane = row.kind === 'lane'
  const name = rowName(row, stage)

  const onKeyDown = (event: KeyboardEvent) => {
    if (!event.altKey) return
    const act = {
      ArrowUp: () => dispatch(stepRow(stage.id, -1)),
      ArrowDown: () => dispatch(stepRow(stage.id, 1)),
      ArrowRight: () => !lane && dispatch(splitBeside(stage.id)),
      ArrowLeft: () => (lane ? row.split && dispatch(edit({ type: 'dissolve', split: row.split.id })) : dispatch(leaveLane(stage.id))),
    }[event.key]
    if (!act) return
    event.preventDefault()
    event.stopPropagation()
    act()
  }
  const timed = effectiveParams(stage, stage.params, tempoOf(preset, lit))
  return (
    <div
      role="row"
      ref={setNodeRef}
      data-stage={stage.id}
      aria-selected={chosen}
      onKeyDown={onKeyDown}
      style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
      className={`group/row sheet-columns relative grid h-[var(--row-h)] flex-none grid-rows-[minmax(0,1fr)] border-b border-rule ${isDragging ? 'z-30 bg-deep' : ''} ${chosen ? 'before:pointer-events-none before:absolute before:inset-x-0 before:-inset-y-px before:z-20 before:border-y-[1.5px] before:border-ink' : ''}`}
    >
      <div role="gridcell" className="sticky left-0 z-10 flex items-center justify-start bg-paper text-ink3">
        <button
          type="button"
          {...attributes}
          {...listeners}
          role={undefined}
          aria-label={`Drag ${name}, row ${index + 1}`}
          title={
            lane
              ? 'Drag among the lanes, or left to dissolve them; Alt with ↑ ↓ ←'
              : 'Drag up or down, or to the right over a stage for a lane beside it; Alt with ↑ ↓ → ←'
          }
          tabIndex={-1}
          className="grid h-6 w-[20px] flex-none cursor-grab touch-none place-items-center text-ink3 hover:text-ink"
        >
          <Grip />
        </button>
        <span className="num w-4 flex-none text-right text-axis">{lane ? '' : row.number}</span>
        <Gutter row={row} on={heard.on} deepest={deepest} />
      </div>
      <div
        role="gridcell"
        data-cell={`${index},0`}
        tabIndex={chosen && named ? 0 : -1}
        data-lands={goes?.snapshot === null ? 'here' : undefined}
        onFocus={() => dispatch(stageChosen({ stage: stage.id }))}
        // also where it has the focus already: another row may have been chosen since
        onClick={(event) => {
          event.currentTarget.focus()
          dispatch(stageChosen({ stage: stage.id }))
        }}
        onKeyDown={(event) => {
          if (event.target !== event.currentTarget) return
          if (event.key === 'Delete') {
            dispatch(removeStages([stage.id]))
            dispatch(focusChosen())
          }
          if (event.key === 'Enter') focusFirstParam()
          // digits choose snapshots here
          if (event.key === 'F2') setTyping('')
        }}
        className={`sticky left-[var(--gutter-w)] z-10 min-w-0 cursor-pointer pt-[5px] pr-0.5 pl-1.5 ${picked?.length === 0 ? 'bg-deep shadow-[inset_0_0_0_1px_var(--ink)]' : 'bg-paper'}`}
      >
        <div className="flex items-center gap-1.5 leading-[15px]">
          <span className={`truncate text-name ${stage.on ? 'font-semibold' : 'text-ink3'} ${lane ? 'text-lane' : ''}`}>{name}</span>
          <FoundMark stage={stage.id} />
          <button
            type="button"
            aria-pressed={stage.on}
            aria-label={`${name}: ${stage.on ? 'on' : lane ? 'muted' : 'off'} in the base`}
            title={
              lane ? 'Mute or unmute in the base' : stage.on ? 'On in the base; click to bypass' : 'Off in the base; click to switch on'
            }
            tabIndex={-1}
            onClick={(event) => {
              event.stopPropagation()
              dispatch(edit({ type: 'setOn', stage: stage.id, snapshot: null, on: !stage.on }))
            }}
            className="-my-1 ml-auto grid size-6 place-items-center"
          >
            <Dot on={stage.on} />
          </button>
        </div>
        <div
          className={`num -mt-px truncate text-label leading-[14px] ${stage.on ? 'text-ink2' : 'text-ink3'}`}
          onDoubleClick={() => setTyping('')}
        >
          {summaryOf(model, stage.params, timed)}
        </div>
        {typing !== null && (
          <CellEditor
            preset={preset}
            stage={stage}
            snapshot={null}
            start={typing}
            onDone={() => {
              setTyping(null)
              focusRow(stage.id)
            }}
          />
        )}
      </div>
      <TraceCell row={row} name={name} />
      {preset.snapshots.map((snapshot, i) => (
        <SnapshotCell
          key={snapshot.id}
          preset={preset}
          stage={stage}
          name={name}
          snapshot={snapshot.id}
          row={index}
          column={i + 1}
          lit={snapshot.id === lit}
          picked={picked?.includes(snapshot.id) ?? false}
          focused={chosen && !named && snapshot.id === lit}
          lands={goes?.changes.includes(snapshot.id) ? (goes.snapshot === null ? 'along' : 'here') : undefined}
        />
      ))}
      <div className="border-l border-rule max-[700px]:hidden" />
    </div>
  )
}, sameRow)

function sameRow(a: Props, b: Props): boolean {
  const { stage, index, deepest, picked } = b
  if (a.stage !== stage || a.index !== index || a.deepest !== deepest || a.picked !== picked) return false
  return sameLine(a.row, b.row) && sameCells(a.preset, b.preset, stage.id)
}

/** What stands under a stage's name: its two leading values but for those that do nothing as they stand, or what of it is moved. */
function summaryOf(model: StageModel, set: ParamMap, timed: ParamMap): string {
  if (model.summary) return model.summary(timed).join(' · ') || 'flat'
  const idle = model.inert?.(set) ?? {}
  return model.headline
    .filter((key) => !(key in idle))
    .map((key) => {
      const spec = model.params[key]
      const text = formatValue(spec, spec.kind === 'choice' ? set[key] : timed[key])
      return spec.kind === 'number' && spec.unit === 'knob' ? `${spec.short} ${text}` : text
    })
    .join(' · ')
}
