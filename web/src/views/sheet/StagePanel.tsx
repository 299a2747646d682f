import { formatNumber, formatValue, modelOf, potMark, type NumberSpec } from '@fulgor/core/catalogue'
import { noteMs } from '@fulgor/core/stage'
import { useState } from 'react'
import { Link } from 'react-router'
import {
  cellChanges,
  effectiveParams,
  findLane,
  findSnapshot,
  landing,
  resolveStage,
  tempoOf,
  type Preset,
  type StageNode,
  stageFields,
} from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { pointedAt } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { Chevron } from '../../ui/marks'
import { ActionsMenu } from '../../ui/ActionsMenu'
import { Explain } from '../../ui/Explain'
import { ChoiceRow } from '../../ui/ChoiceRow'
import { ParamRow } from '../../ui/ParamRow'
import { TextField } from '../../ui/TextField'
import { delayOthers } from './routing'
import { stageActions } from './sheetActions'
import { sheetRows, type SheetRow } from './rows'
import { rowName } from './rowName'
import { Echoes } from './Echoes'
import { ModelDialog } from './ModelDialog'
import { MovedBy } from './MovedBy'
import { useOwnUnity } from './ownUnity'
import { ReachChoice } from '../../desk/ReachChoice'
import { ReverbTime } from './ReverbTime'
import { StageChart } from './StageChart'
import { timeWords } from './timeWords'
import { isTime, typedValue } from '../../state/typedValue'
import { setToUnity } from '../../state/unity'

interface Props {
  preset: Preset
  stage: StageNode
  row: SheetRow
}

/** All parameters of one stage, as they are in the lit snapshot. */
export function StagePanel({ preset, stage, row }: Props) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const reach = useAppSelector((s) => s.editor.reach)
  const model = modelOf(stage.model)
  const snapshot = findSnapshot(preset, lit)
  const { on, params, bench } = resolveStage(preset, stage, lit)
  const goes = (key: string) => landing(preset, stage, key, lit, reach).snapshot
  const changes = snapshot ? cellChanges(preset, stage, snapshot.id) : []
  const changed = new Set(changes.map((c) => c.key))
  const tempo = tempoOf(preset, lit)
  const heard = { ...stage, params, bench }
  const synced = effectiveParams(heard, params, tempo)
  const set = (param: string, value: number | string) =>
    dispatch(edit({ type: 'setParam', stage: stage.id, snapshot: goes(param), param, value }))
  const reset = (param: string) => lit && dispatch(edit({ type: 'resetCell', stage: stage.id, snapshot: lit, param }))
  const inert = model.inert?.(params) ?? {}
  /** By time or rate: the choice that holds its note value, and that. */
  const sync = new Map((model.sync ?? []).map((s) => [s.time, { key: s.note, note: String(params[s.note]) }]))
  const hangs = model.derived?.(synced) ?? {}
  /** Takes a typed time; '' has taken it, else the reason. */
  const typeTime = (key: string, text: string): string => {
    const typed = typedValue(preset, stage, { lit, goes }, key, text)
    if (typed.ok) dispatch(edit(typed.edit))
    return typed.ok ? '' : typed.reason
  }
  const ownUnity = useOwnUnity(preset, heard)
  const lane = row.kind === 'lane'
  const [models, setModels] = useState(false)
  const echoLines = model.echoes?.(synced) ?? []

  const point = ({ target }: { target: EventTarget }) => {
    const key = (target as HTMLElement).closest<HTMLElement>('[data-param], [data-param-key]')?.dataset
    dispatch(pointedAt(key?.param ?? key?.paramKey ?? null))
  }

  return (
    <div onPointerOver={point} onFocus={point} onPointerLeave={() => dispatch(pointedAt(null))} onBlur={() => dispatch(pointedAt(null))}>
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-title leading-tight">
          {lane ? (
            rowName(row, stage)
          ) : (
            <TextField
              label="Name of the stage"
              value={rowName(row, stage)}
              maxLength={stageFields.name.most}
              className="w-full max-w-[190px] truncate border-b border-transparent bg-transparent font-head text-title font-bold outline-none [font-stretch:var(--head-width)] hover:border-control focus:border-ink"
              onCommit={(text) => {
                const name = text.trim()
                dispatch(edit({ type: 'nameStage', stage: stage.id, name: name === model.name ? '' : name }))
                return null
              }}
            />
          )}
        </h2>
        <ActionsMenu actions={dispatch(stageActions(stage.id))} className="act flex-none text-[12px]">
          Actions
          <Chevron />
        </ActionsMenu>
      </div>
      <p className="mt-0.5 mb-1.5 text-[11.5px] leading-[15px] text-ink2">
        {stage.name !== undefined && <b className="font-semibold">{model.name}. </b>}
        {model.purpose}{' '}
        {!lane && (
          <button type="button" className="act min-h-0 text-[11.5px]" onClick={() => setModels(true)}>
            Another model
          </button>
        )}
      </p>
      {models && <ModelDialog preset={preset} stage={stage} onClose={() => setModels(false)} />}
      <div className="flex items-start justify-between gap-x-3">
        <ReachChoice preset={preset} stage={stage} />
        <button
          type="button"
          aria-pressed={on}
          className="act"
          title={lane ? 'Silences this lane' : 'Shift B; hold B to hear it switched over, level-matched'}
          data-param-key="on"
          onClick={() => dispatch(edit({ type: 'setOn', stage: stage.id, snapshot: goes('on'), on: !on }))}
        >
          {lane ? (on ? 'Mute' : 'Unmute') : on ? 'Bypass' : 'Switch on'}
        </button>
      </div>
      {model.charts.length > 0 && (
        <StageChart stage={{ ...heard, on: true }} base={changes.length > 0 ? stage : null} preset={preset} model={model} />
      )}
      <div className="mt-1">
        {Object.entries(model.params).map(([key, spec]) => {
          const own = changed.has(key)
          if (spec.kind === 'choice')
            return (
              <ChoiceRow
                key={key}
                name={key}
                spec={spec}
                value={String(params[key])}
                own={own}
                inert={inert[key] ?? null}
                onChange={(v) => set(key, v)}
                onReset={() => reset(key)}
              />
            )
          const derived = Object.hasOwn(hangs, key)
          const held = derived || (sync.get(key)?.note ?? 'free') !== 'free'
          const value = Number(held ? synced[key] : params[key])
          return (
            <ParamRow
              key={key}
              name={key}
              spec={spec}
              value={value}
              base={own ? Number(stage.params[key]) : null}
              own={own}
              held={derived ? 'from the first time' : held ? 'from the note value' : null}
              mark={spec.pot ? ownUnity : null}
              tempo={isTime(spec) ? tempo : undefined}
              typed={isTime(spec) && !derived ? (text) => typeTime(key, text) : undefined}
              inert={inert[key] ?? null}
              note={
                unityWords(spec, ownUnity) ??
                shortened(spec, value, held && !derived ? sync.get(key)?.note : undefined, tempo) ??
                timeWords(model.family, key, spec, value, tempo)
              }
              onChange={(v) => set(key, v)}
              onReset={() => reset(key)}
            />
          )
        })}
      </div>
      <MovedBy preset={preset} stage={stage} snapshot={snapshot} />
      {model.family === 'cabinet' && <BenchLink stage={stage} />}
      {echoLines.length > 0 && (
        <Echoes lines={echoLines} mix={Number(params.mix ?? 100)} tempo={tempo} onMix={'mix' in params ? (mix) => set('mix', mix) : null} />
      )}
      {model.family === 'reverb' && (
        <ReverbTime params={synced} specs={model.params} tempo={tempo} onNote={set} onDecay={(s) => void typeTime('decay', `${s} s`)} />
      )}
      {model.latencyMs !== undefined && (
        <p className="mt-1 text-[11.5px] text-ink2">
          Its voice comes about {model.latencyMs} ms late, as a player some steps away would sound; an attack comes after 2 ms.
          {row.depth > 0 && (
            <button type="button" className="act ml-1" onClick={() => dispatch(delayOthers(stage.id, model.latencyMs ?? 0))}>
              Hold the other lanes back as long
            </button>
          )}
        </p>
      )}
      <UnityButton preset={preset} stage={stage} on={on} lane={lane} />
      <InOut above={lane ? lastOf(preset, stage.id) : row.before} stage={stage.id} />
      <p className="mt-2 text-[11.5px] leading-[15px] text-ink3">On a device without it: {model.substitute}</p>
    </div>
  )
}

/** Where a pedal's own level pot stands for unity. */
function unityWords(spec: NumberSpec, unity: number | null): string | null {
  if (!spec.pot || unity === null) return null
  if (unity > spec.max) return 'Softer than its input even fully up.'
  const held = Math.max(spec.min, unity)
  return `As loud as its input at ${formatNumber({ ...spec, unit: 'knob' }, potMark(spec, held))} (${formatValue(spec, held)}), picked hard.`
}

/** Why a note value is not what is heard: it lies outside of what the stage can do at this tempo. */
function shortened(spec: NumberSpec, value: number, note: string | undefined, tempo: number): string | null {
  if (note === undefined) return null
  const ms = noteMs(tempo, note)
  const wanted = spec.unit === 'hz' ? 1000 / ms : spec.unit === 's' ? ms / 1000 : ms
  return Math.abs(wanted - value) < 1e-6 ? null : `As far as it goes: the note would be ${formatValue(spec, wanted)}`
}

/** Whose measures stand before a lane's strip: the last node of the lane, or what comes into it. */
function lastOf(preset: Preset, lane: string): string | null {
  const nodes = findLane(preset, lane)?.lane.nodes ?? []
  return nodes.at(-1)?.id ?? sheetRows(preset.chain).find((r) => r.id === lane)?.before ?? null
}

/** Brings a stage's level to where the whole is as loud with it as without it. */
function UnityButton({ preset, stage, on, lane }: { preset: Preset; stage: StageNode; on: boolean; lane: boolean }) {
  const dispatch = useAppDispatch()
  const [busy, setBusy] = useState(false)
  if (lane || stage.model === 'output') return null
  const run = async () => {
    setBusy(true)
    await dispatch(setToUnity(stage.id))
    setBusy(false)
  }
  return (
    <p className="mt-1.5">
      <button
        type="button"
        className="act"
        disabled={busy || !on}
        onClick={() => void run()}
        title={`Sets its level so that “${preset.name}” is as loud with ${modelOf(stage.model).name} as without it, on the current riff`}
      >
        {busy ? 'Measuring …' : 'Set to unity'}
      </button>{' '}
      <Explain term="unity" />
    </p>
  )
}

/** Measured figures before and after the stage in the lit snapshot. */
function InOut({ above, stage }: { above: string | null; stage: string }) {
  const entry = useAppSelector((s) => (s.editor.snapshot ? s.measures.snapshots[s.editor.snapshot] : undefined))
  const before = above ? entry?.stages[above] : undefined
  const after = entry?.stages[stage]
  const rows = [
    ['RMS, dBFS', before?.rmsDbfs, after?.rmsDbfs, 1],
    ['True peak, dBTP', before?.truePeakDbtp, after?.truePeakDbtp, 1],
    ['Crest, dB', before?.crestDb, after?.crestDb, 1],
    ['Brightness, Hz', before?.centroidHz, after?.centroidHz, 0],
  ] as const
  return (
    <table className="mt-2.5 w-full border-t border-rule2 text-[11.5px]">
      <thead>
        <tr className="text-label text-ink3">
          <th className="text-left font-normal">
            Measured <Explain term="crest" />
          </th>
          <th className="w-16 text-right font-normal">in</th>
          <th className="w-16 text-right font-normal">out</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([label, a, b, places]) => (
          <tr key={label} className="border-t border-rule">
            <td className="py-0.5">{label}</td>
            <td className="num text-right">{above === null ? 'the riff' : before ? figure(a, places) : '…'}</td>
            <td className="num text-right" data-out={label}>
              {after ? figure(b, places) : '…'}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** To the place where a cabinet's microphones stand. */
function BenchLink({ stage }: { stage: StageNode }) {
  const id = useAppSelector((s) => s.editor.id)
  return (
    <Link className="act mt-1 block w-fit" to={`/bench/${id}?stage=${stage.id}`}>
      Open the mic bench
    </Link>
  )
}
