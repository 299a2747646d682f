import { useSortable } from '@dnd-kit/sortable'
import { memo, useRef, useState, type KeyboardEvent } from 'react'
import { benchWords } from '@fulgor/core/cabinet'
import { formatNumber, formatValue, modelOf, unitText } from '@fulgor/core/catalogue'
import {
  cellChanges,
  effectiveParams,
  landing,
  tempoOf,
  MAX_LANES,
  resolveStage,
  type CellChange,
  type Preset,
  type StageNode,
} from '@fulgor/core/preset'
import { edit, newId } from '../../state/actions'
import { stageChosen } from '../../state/editor'
import { removeStages } from '../../state/stageBlocks'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Dot, Grip } from '../../ui/marks'
import { CellEditor, typesInto } from './CellEditor'
import { focusChosen, focusRow } from './focusRow'
import { focusFirstParam } from './FocusPanel'
import { TraceCell } from './EmberTrace'
import { leaveLane, matchLanes, splitBeside, stepRow } from './routing'
import { gutterWidth, type SheetRow } from './rows'
import { rowName } from './rowName'

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
          {model.headline
            .map((key) => {
              const spec = model.params[key]
              const text = formatValue(spec, spec.kind === 'choice' ? stage.params[key] : timed[key])
              return spec.kind === 'number' && spec.unit === 'knob' ? `${spec.short} ${text}` : text
            })
            .join(' · ')}
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
})

/** Where lanes come together: the sum's trace, and what can be done with all of them. */
export function JoinRow({ preset, row, deepest }: { preset: Preset; row: SheetRow; deepest: number }) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const { setNodeRef } = useSortable({ id: row.id, disabled: { draggable: true } })
  const [matching, setMatching] = useState(false)
  const { split } = row
  if (!split) return null
  const match = async () => {
    setMatching(true)
    await dispatch(matchLanes(split.id))
    setMatching(false)
  }
  return (
    <div
      role="row"
      ref={setNodeRef}
      className="sheet-columns relative grid h-[var(--row-h)] flex-none grid-rows-[minmax(0,1fr)] border-b border-rule"
    >
      <div role="gridcell" className="sticky left-0 z-10 flex items-center bg-paper pl-[36px] text-ink3">
        <Gutter row={row} on deepest={deepest} />
      </div>
      <div role="gridcell" className="sticky left-[var(--gutter-w)] z-10 min-w-0 bg-paper pt-[3px] pl-1.5">
        <span className="block truncate text-label leading-[14px] text-ink2">Sum of {split.lanes.length} lanes</span>
        <span className="flex gap-2.5 text-[11.5px]">
          <button
            type="button"
            className="act"
            disabled={matching}
            onClick={() => void match()}
            title="Sets the lanes’ levels by measured loudness"
          >
            {matching ? 'Measuring …' : 'Match the sides'}
          </button>
          <button
            type="button"
            className="act"
            disabled={split.lanes.length >= MAX_LANES}
            onClick={() => dispatch(edit({ type: 'addLane', split: split.id, lane: newId() }))}
          >
            Add lane
          </button>
        </span>
      </div>
      <TraceCell row={row} name={`the sum of ${split.lanes.length} lanes`} />
      {preset.snapshots.map((s) => (
        <div key={s.id} role="gridcell" className={`border-l border-rule ${s.id === lit ? 'bg-lit' : 'max-[700px]:hidden'}`} />
      ))}
      <div className="border-l border-rule max-[700px]:hidden" />
    </div>
  )
}

/** The signal's line with a node at each stage; lanes leave it and come back. */
function Gutter({ row, on, deepest }: { row: SheetRow; on: boolean; deepest: number }) {
  const width = gutterWidth(deepest)
  return (
    <svg
      width={width}
      height="100%"
      viewBox={`0 0 ${width} 40`}
      preserveAspectRatio="none"
      className={`h-full flex-none ${row.depth > 0 ? 'text-lane' : 'text-ink'}`}
      aria-hidden="true"
    >
      <path d={row.path} fill="none" stroke="currentColor" strokeWidth="1.5" />
      {row.kind === 'join' ? (
        <path d={`M${row.node} 16l4 4-4 4-4-4z`} fill="var(--paper)" stroke="currentColor" strokeWidth="1.3" />
      ) : row.kind === 'lane' ? (
        <path d={`M${row.node - 3.5} 20h7`} stroke="currentColor" strokeWidth="2.4" opacity={on ? 1 : 0.35} />
      ) : (
        <circle cx={row.node} cy="20" r="4" fill={on ? 'currentColor' : 'var(--paper)'} stroke="currentColor" strokeWidth="1.4" />
      )}
    </svg>
  )
}

interface CellProps {
  preset: Preset
  stage: StageNode
  name: string
  snapshot: string
  row: number
  column: number
  lit: boolean
  picked: boolean
  focused: boolean
  /** An edit of the value at hand would change this cell, or what it shares with the base. */
  lands: 'here' | 'along' | undefined
}

function SnapshotCell({ preset, stage, name, snapshot, row, column, lit, picked, focused, lands }: CellProps) {
  const dispatch = useAppDispatch()
  const changes = cellChanges(preset, stage, snapshot)
  const { on } = resolveStage(preset, stage, snapshot)
  const values = changes.filter((c) => c.key !== 'on')
  const switched = changes.some((c) => c.key === 'on')
  // a filled dot says “on” by itself where there is a value beside it
  const word = switched && (!on || values.length === 0)
  const lines = word ? 1 : 2
  const [typing, setTyping] = useState<string | null>(null)
  const cell = useRef<HTMLDivElement>(null)
  return (
    <div
      role="gridcell"
      data-cell={`${row},${column}`}
      tabIndex={focused ? 0 : -1}
      aria-selected={picked}
      data-lands={lands}
      onFocus={() => dispatch(stageChosen({ stage: stage.id, snapshot }))}
      ref={cell}
      onClick={(event) => {
        event.currentTarget.focus()
        dispatch(stageChosen({ stage: stage.id, snapshot }))
      }}
      onDoubleClick={() => setTyping('')}
      onKeyDown={(event) => {
        if (event.target !== event.currentTarget) return
        if (event.key === 'Delete') dispatch(edit({ type: 'resetCell', stage: stage.id, snapshot }))
        if (event.key === 'Enter') focusFirstParam()
        const typed = typesInto(event)
        if (typed === null) return
        event.preventDefault()
        setTyping(typed)
      }}
      className={`relative flex min-w-0 cursor-pointer items-center gap-[5px] border-l border-rule pl-[7px] ${lit ? '' : 'max-[700px]:hidden'} ${picked ? 'bg-deep shadow-[inset_0_0_0_1px_var(--ink)]' : lit ? 'bg-lit' : 'hover:bg-deep'}`}
    >
      <span className="sr-only">{describe(stage, name, changes, preset, snapshot)}</span>
      {changes.length > 0 && <Dot on={on} />}
      <span className="min-w-0" aria-hidden="true">
        {word && <span className="narrow block text-label leading-[14px] text-ink2">{on ? 'on' : 'off'}</span>}
        {values.slice(0, lines).map((change) => (
          <CellValue
            key={change.key}
            stage={stage}
            change={change}
            more={values.length > lines && change === values[lines - 1] ? values.length - lines : 0}
          />
        ))}
      </span>
      {typing !== null && (
        <CellEditor
          preset={preset}
          stage={stage}
          snapshot={snapshot}
          start={typing}
          onDone={() => {
            setTyping(null)
            cell.current?.focus()
          }}
        />
      )}
    </div>
  )
}

function CellValue({ stage, change, more }: { stage: StageNode; change: CellChange; more: number }) {
  if (change.kind === 'on') return null
  if (change.kind === 'bench')
    return (
      <span className="narrow block truncate text-label leading-[14px] font-semibold" title={benchWords(change.value)}>
        own mics
      </span>
    )
  const spec = modelOf(stage.model).params[change.key]
  const number = spec.kind === 'number' && typeof change.value === 'number'
  return (
    <span className="block truncate text-label leading-[14px] whitespace-nowrap">
      {number && <span className="narrow text-ink2">{spec.short} </span>}
      <b className={number ? 'num font-semibold' : 'narrow font-semibold'}>
        {number ? formatNumber(spec, change.value) : formatValue(spec, change.value)}
      </b>
      {number && <span className="narrow text-ink2">{unitSuffix(unitText(spec, change.value))}</span>}
      {more > 0 && <span className="text-ink3"> +{more}</span>}
    </span>
  )
}

const unitSuffix = (unit: string): string => ({ kHz: 'k', s: 's', ms: 'ms', '%': '%' })[unit] ?? ''

function describe(stage: StageNode, name: string, changes: readonly CellChange[], preset: Preset, snapshot: string): string {
  const model = modelOf(stage.model)
  const column = preset.snapshots.find((s) => s.id === snapshot)?.name ?? ''
  if (changes.length === 0) return `${name} in ${column}: as base`
  const words = changes.map((c) =>
    c.kind === 'on'
      ? c.value
        ? 'on'
        : 'off'
      : c.kind === 'bench'
        ? `microphones of its own, ${benchWords(c.value)}`
        : `${model.params[c.key].label} ${formatValue(model.params[c.key], c.value)}`,
  )
  return `${name} in ${column}: ${words.join(', ')}`
}
