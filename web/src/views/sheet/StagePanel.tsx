import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { formatValue, modelOf, type NumberSpec } from '@fulgor/core/catalogue'
import { cellChanges, effectiveParams, findSnapshot, resolveStage, stagesOf, type Preset, type StageNode } from '@fulgor/core/preset'
import { repeatsUntilSilence } from '@fulgor/core/stage'
import { edit } from '../../state/actions'
import { scopeChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { Chevron } from '../../ui/marks'
import { Segments } from '../../ui/Segments'
import { ChoiceRow } from './ChoiceRow'
import { ParamRow } from './ParamRow'
import { StageChart } from './StageChart'

interface Props {
  preset: Preset
  stage: StageNode
  index: number
}

/** All parameters of one stage, for the base or for the lit snapshot. */
export function StagePanel({ preset, stage, index }: Props) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const scope = useAppSelector((s) => s.editor.scope)
  const model = modelOf(stage.model)
  const snapshot = findSnapshot(preset, lit)
  const target = scope === 'snapshot' ? lit : null
  const { on, params } = resolveStage(preset, stage, target)
  const changes = snapshot ? cellChanges(preset, stage, snapshot.id) : []
  const changed = new Set(changes.map((c) => c.key))
  const synced = effectiveParams(stage, params, preset.tempo)
  const set = (param: string, value: number | string) =>
    dispatch(edit({ type: 'setParam', stage: stage.id, snapshot: target, param, value }))
  const reset = (param: string) => lit && dispatch(edit({ type: 'resetCell', stage: stage.id, snapshot: lit, param }))
  const stages = stagesOf(preset.chain)

  return (
    <>
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-title leading-tight">{model.name}</h2>
        <StageMenu preset={preset} stage={stage} index={index} snapshot={lit} canReset={changes.length > 0} />
      </div>
      <p className="mt-0.5 mb-1.5 text-[11.5px] leading-[15px] text-ink2">{model.purpose}</p>
      <div className="flex flex-wrap items-center justify-between gap-x-3">
        <Segments
          label="Edits go to"
          value={scope}
          options={[
            ['base', 'Base'],
            ['snapshot', snapshot ? snapshot.name : 'Snapshot'],
          ]}
          onChange={(next) => dispatch(scopeChosen(next))}
        />
        <button
          type="button"
          aria-pressed={on}
          className="act"
          title="B"
          onClick={() => dispatch(edit({ type: 'setOn', stage: stage.id, snapshot: target, on: !on }))}
        >
          {on ? 'Bypass' : 'Switch on'}
        </button>
      </div>
      <p className="eyebrow mb-1 whitespace-normal">
        {scope === 'base'
          ? changes.length > 0
            ? `${snapshot?.name} has ${changes.length} of its own; the base does not change those.`
            : 'Heard in every snapshot that has no value of its own.'
          : `${snapshot?.name} changes ${changes.length} of ${Object.keys(model.params).length + 1} values.`}
      </p>
      {model.charts.length > 0 && (
        <StageChart stage={{ ...stage, on: true, params }} base={target ? stage : null} tempo={preset.tempo} model={model} />
      )}
      <div className="mt-1">
        {Object.entries(model.params).map(([key, spec]) => {
          const own = scope === 'snapshot' && changed.has(key)
          if (spec.kind === 'choice')
            return (
              <ChoiceRow
                key={key}
                name={key}
                spec={spec}
                value={String(params[key])}
                own={own}
                onChange={(v) => set(key, v)}
                onReset={() => reset(key)}
              />
            )
          const held = model.sync?.time === key && params[model.sync.note] !== 'free'
          return (
            <ParamRow
              key={key}
              name={key}
              spec={spec}
              value={Number(held ? synced[key] : params[key])}
              base={scope === 'snapshot' ? Number(stage.params[key]) : null}
              own={own}
              held={held ? 'from the note value' : null}
              onChange={(v) => set(key, v)}
              onReset={() => reset(key)}
            />
          )
        })}
      </div>
      {model.id === 'delay.digital' && (
        <Repeats feedback={Number(params.feedback)} spec={model.params.time as NumberSpec} time={Number(synced.time)} />
      )}
      <InOut above={stages[index - 1]?.id} stage={stage.id} />
      <p className="mt-2 text-[11.5px] leading-[15px] text-ink3">On a device without it: {model.substitute}</p>
    </>
  )
}

function StageMenu({ preset, stage, index, snapshot, canReset }: Props & { snapshot: string | null; canReset: boolean }) {
  const dispatch = useAppDispatch()
  const move = (to: number) => dispatch(edit({ type: 'moveStage', stage: stage.id, index: to }))
  const actions: readonly (readonly [label: string, key: string, act: () => void, off: boolean])[] = [
    ['Move up', 'Alt ↑', () => move(index - 1), index === 0],
    ['Move down', 'Alt ↓', () => move(index + 1), index === preset.chain.length - 1],
    [
      'Reset this snapshot to base',
      'Delete',
      () => snapshot && dispatch(edit({ type: 'resetCell', stage: stage.id, snapshot })),
      !canReset,
    ],
    ['Copy this snapshot to base', '', () => snapshot && dispatch(edit({ type: 'cellToBase', stage: stage.id, snapshot })), !canReset],
    ['Remove stage', 'Delete', () => dispatch(edit({ type: 'removeStage', stage: stage.id })), false],
  ]
  return (
    <Menu>
      <MenuButton className="act flex-none text-[12px]">
        Stage
        <Chevron />
      </MenuButton>
      <MenuItems anchor="bottom end" className="menu">
        {actions.map(([label, key, act, off]) => (
          <MenuItem key={label} disabled={off}>
            <button type="button" className="menu-item" onClick={act}>
              {label}
              {key && <kbd>{key}</kbd>}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}

function Repeats({ feedback, spec, time }: { feedback: number; spec: NumberSpec; time: number }) {
  const count = repeatsUntilSilence(feedback / 100)
  return (
    <p className="mt-1 text-[11.5px] text-ink2">
      {count === 1 ? 'One repeat' : `${count} repeats until −60 dB`}, {formatValue(spec, time)} apart
      {feedback > 0 && `, each ${figure(20 * Math.log10(feedback / 100))} dB`}.
    </p>
  )
}

/** Measured figures before and after the stage in the lit snapshot. */
function InOut({ above, stage }: { above: string | undefined; stage: string }) {
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
          <th className="text-left font-normal">Measured</th>
          <th className="w-16 text-right font-normal">in</th>
          <th className="w-16 text-right font-normal">out</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([label, a, b, places]) => (
          <tr key={label} className="border-t border-rule">
            <td className="py-0.5">{label}</td>
            <td className="num text-right">{figure(a, places)}</td>
            <td className="num text-right" data-out={label}>
              {figure(b, places)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
