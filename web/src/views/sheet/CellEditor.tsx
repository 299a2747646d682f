import { useRef, useState, type KeyboardEvent } from 'react'
import { formatValue, modelOf } from '@fulgor/core/catalogue'
import { cellChanges, resolveStage, tempoOf, effectiveParams, type Preset, type StageNode } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { namedParam, typedValue, type Typed } from '../../state/typedValue'
import { FieldNote } from '../../ui/FieldNote'
import { Pick } from '../../ui/Pick'

interface Props {
  preset: Preset
  stage: StageNode
  /** null is the base. */
  snapshot: string | null
  /** What was typed already; '' opens on the value that stands there. */
  start: string
  onDone: () => void
}

/** What a key starts typing into a cell with; '' opens the value that stands there, null is no such key. */
export const typesInto = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): string | null =>
  key === 'F2' ? '' : /^[0-9.,+\-−]$/.test(key) && !ctrlKey && !metaKey && !altKey ? key : null

/** A value typed right in its cell: the parameter that the cell shows first, another one by its name, ↑ ↓ or the list. */
export function CellEditor({ preset, stage, snapshot, start, onDone }: Props) {
  const dispatch = useAppDispatch()
  const model = modelOf(stage.model)
  const keys = Object.keys(model.params)
  const own = snapshot === null ? [] : cellChanges(preset, stage, snapshot)
  const first =
    own.find((c) => c.kind === 'param')?.key ??
    model.headline.find((key) => model.params[key].kind === 'number') ??
    model.headline[0] ??
    keys[0]
  const [param, setParam] = useState(first)
  const [text, setText] = useState(start === '' ? null : start)
  const [problem, setProblem] = useState<string | null>(null)
  const done = useRef(false)
  const { params } = resolveStage(preset, stage, snapshot)
  const shown = effectiveParams(stage, params, tempoOf(preset, snapshot))
  const written = formatValue(model.params[param], shown[param])

  const read = (typed: string): Typed => {
    const word = typed.trim().toLowerCase()
    if (word === 'on' || word === 'off')
      return { ok: true, edit: { type: 'setOn', stage: stage.id, snapshot, on: word === 'on' }, also: null }
    const named = namedParam(stage.model, typed)
    return typedValue(preset, stage, { lit: snapshot, goes: () => snapshot }, named?.key ?? param, named?.rest ?? typed)
  }
  const take = (): boolean => {
    if (done.current || text === null || text === written) return true
    const typed = read(text)
    if (!typed.ok) {
      setProblem(typed.reason)
      return false
    }
    dispatch(edit(typed.edit))
    return true
  }
  const close = () => {
    if (done.current) return
    done.current = true
    onDone()
  }
  const another = (key: string) => {
    setParam(key)
    setText(null)
    setProblem(null)
  }
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    // the matrix has its own use for these keys
    event.stopPropagation()
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (event.key === 'Escape') close()
    else if (event.key === 'Enter') {
      if (take()) close()
    } else if (step !== undefined) {
      if (take()) another(keys[(keys.indexOf(param) + step + keys.length) % keys.length])
    } else return
    event.preventDefault()
  }
  const understood = text === null || text === written ? null : noteOf(read(text))
  return (
    <div
      data-cell-editor=""
      className="absolute top-0 left-0 z-30 flex h-full min-w-[172px] items-center gap-1 border border-ink bg-paper px-1.5"
      onPointerDown={(event) => event.stopPropagation()}
      onClick={(event) => event.stopPropagation()}
      onDoubleClick={(event) => event.stopPropagation()}
      onBlur={(event) => {
        const leaves = !event.currentTarget.contains(event.relatedTarget) && !event.relatedTarget?.closest('[role=listbox]')
        if (leaves && take()) close()
      }}
    >
      <Pick
        label="Which value"
        value={param}
        options={keys.map((key) => [key, model.params[key].label] as const)}
        className="max-w-[84px] text-label text-ink2"
        onChange={another}
      />
      <span className="relative ml-auto" onKeyDownCapture={onKeyDown}>
        <input
          key={param}
          ref={(field) => {
            if (!field || field === document.activeElement) return
            field.focus()
            if (text === null) field.select()
          }}
          type="text"
          autoComplete="off"
          spellCheck={false}
          aria-label={`${model.params[param].label} in this cell`}
          aria-invalid={problem !== null}
          className="num w-[78px] border-b border-ink bg-transparent text-right text-label outline-none"
          value={text ?? written}
          onChange={(event) => {
            setText(event.currentTarget.value)
            setProblem(null)
          }}
        />
        <FieldNote problem={problem} note={understood} />
      </span>
    </div>
  )

  function noteOf(typed: Typed): string {
    if (!typed.ok) return '…'
    const change = typed.edit.type === 'all' ? typed.edit.edits[typed.edit.edits.length - 1] : typed.edit
    if (change.type !== 'setParam') return '= the stage on or off'
    const spec = model.params[change.param]
    return `= ${spec.label} ${formatValue(spec, change.value)}${typed.also === null ? '' : `; ${typed.also}`}`
  }
}
