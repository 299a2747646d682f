import { modelOf } from '@fulgor/core/catalogue'
import { useState } from 'react'
import {
  cellChanges,
  effectiveParams,
  findSnapshot,
  landing,
  resolveStage,
  tempoOf,
  type Preset,
  type StageNode,
  stageFields,
} from '@fulgor/core/preset'
import { edit, setValue } from '../../state/actions'
import { pointedAt } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { ActionsMenu } from '../../ui/ActionsMenu'
import { TextField } from '../../ui/TextField'
import { delayOthers } from './routing'
import { stageActions } from './sheetActions'
import { type SheetRow } from './rows'
import { rowName } from './rowName'
import { Echoes } from './Echoes'
import { ModelDialog } from './ModelDialog'
import { MovedBy } from './MovedBy'
import { useOwnUnity } from './ownUnity'
import { ReachChoice } from '../../desk/ReachChoice'
import { ReverbTime } from './ReverbTime'
import { StageChart } from './StageChart'
import { StageChoice, StageValue, typeTime } from './StageValue'
import { timeWords } from './timeWords'
import { isTime } from '../../state/typedValue'
import { unityWords, shortened, UnityButton, InOut, BenchLink, lastOf } from './StagePanelParts'

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
  const set = (param: string, value: number | string) => dispatch(setValue(stage.id, param, value))
  const inert = model.inert?.(params) ?? {}
  /** By time or rate: the choice that holds its note value, and that. */
  const sync = new Map((model.sync ?? []).map((s) => [s.time, { key: s.note, note: String(params[s.note]) }]))
  const hangs = model.derived?.(synced) ?? {}
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
        <ActionsMenu actions={dispatch(stageActions(stage.id))} className="act flex-none text-[12px]" words="Actions" />
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
              <StageChoice
                key={key}
                stage={stage.id}
                name={key}
                spec={spec}
                value={String(params[key])}
                own={own}
                inert={inert[key] ?? null}
              />
            )
          const derived = Object.hasOwn(hangs, key)
          const held = derived || (sync.get(key)?.note ?? 'free') !== 'free'
          const value = Number(held ? synced[key] : params[key])
          return (
            <StageValue
              key={key}
              stage={stage.id}
              name={key}
              spec={spec}
              value={value}
              base={own ? Number(stage.params[key]) : null}
              own={own}
              held={derived ? 'from the first time' : held ? 'from the note value' : null}
              mark={spec.pot ? ownUnity : null}
              tempo={isTime(spec) ? tempo : undefined}
              takesTimes={isTime(spec) && !derived}
              inert={inert[key] ?? null}
              note={
                unityWords(spec, ownUnity) ??
                shortened(spec, value, held && !derived ? sync.get(key)?.note : undefined, tempo) ??
                timeWords(model.family, key, spec, value, tempo)
              }
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
        <ReverbTime
          params={synced}
          specs={model.params}
          tempo={tempo}
          onNote={set}
          onDecay={(s) => void dispatch(typeTime(stage.id, 'decay', `${s} s`))}
        />
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
