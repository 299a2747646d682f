import { useRef, useState } from 'react'
import { benchWords } from '@fulgor/core/cabinet'
import { formatNumber, formatValue, modelOf, unitText } from '@fulgor/core/catalogue'
import { cellChanges, resolveStage, type CellChange, type Preset, type StageNode } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { stageChosen } from '../../state/editor'
import { useAppDispatch } from '../../state/store'
import { Dot } from '../../ui/marks'
import { CellEditor, typesInto } from './CellEditor'
import { focusFirstParam } from './FocusPanel'

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

const unitSuffix = (unit: string): string => ({ kHz: 'k', s: 's', ms: 'ms', '%': '%' })[unit] ?? ''

export function SnapshotCell({ preset, stage, name, snapshot, row, column, lit, picked, focused, lands }: CellProps) {
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
