import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useState } from 'react'
import { type ParamSpec } from '@fulgor/core/catalogue'
import { findStage, resolveStage, targetValue, type Control, type ControlTarget, type Preset, createTarget } from '@fulgor/core/preset'
import type { ParamValue } from '@fulgor/core/signal'
import { edit, newId } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { Chevron } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { movable, specOf, targetName, valueWords } from './words'
import { POSITION_SPEC, CurveCell } from './CurveCell'

const CELL = 'num w-[84px] border-b border-transparent bg-transparent text-right outline-none hover:border-control focus:border-ink'

/** What the chosen source moves: ends, curve, value now and the snapshots that it is live in. */
export function TargetTable({
  preset,
  control,
  position,
  lit,
}: {
  preset: Preset
  control: Control
  position: number
  lit: string | null
}) {
  const dispatch = useAppDispatch()
  const change = (target: string, part: Partial<Omit<ControlTarget, 'id'>>) =>
    dispatch(edit({ type: 'changeTarget', control: control.id, target, change: part }))
  return (
    <>
      <table className="mt-3 w-full text-[12px]" aria-label="Targets">
        <thead>
          <tr className="border-t border-ink text-label text-ink3 [&>th]:py-1 [&>th]:text-right [&>th]:font-normal">
            <th className="!text-left">Target</th>
            <th>heel</th>
            <th>toe</th>
            <th className="!pl-5 !text-left">curve</th>
            <th>now</th>
            <th>live in snapshots</th>
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {control.targets.map((target) => {
            const spec = specOf(preset, target)
            if (spec === undefined) return null
            const name = targetName(preset, target)
            return (
              <tr key={target.id} className="border-t border-rule align-baseline [&>td]:py-1" data-target={name}>
                <td className="font-semibold">{name}</td>
                <td className="text-right">
                  <End
                    spec={spec}
                    target={target}
                    end="from"
                    name={`${name} at the heel`}
                    onChange={(from) => change(target.id, { from })}
                  />
                </td>
                <td className="text-right">
                  <End spec={spec} target={target} end="to" name={`${name} at the toe`} onChange={(to) => change(target.id, { to })} />
                </td>
                <td className="pl-5">
                  <CurveCell name={name} curve={target.curve} onChange={(curve) => change(target.id, { curve })} />
                </td>
                <td className="num text-right font-semibold">{valueWords(spec, target.param, targetValue(spec, target, position))}</td>
                <td className="text-right whitespace-nowrap">
                  {preset.snapshots.map((s, i) => {
                    const on = target.snapshots === null || target.snapshots.includes(s.id)
                    const flip = () => {
                      const now = target.snapshots ?? preset.snapshots.map((o) => o.id)
                      const next = on ? now.filter((id) => id !== s.id) : [...now, s.id]
                      change(target.id, { snapshots: next.length === preset.snapshots.length ? null : next })
                    }
                    return (
                      <button
                        key={s.id}
                        type="button"
                        aria-pressed={on}
                        aria-label={`${i + 1}: ${name} live in ${s.name}`}
                        title={s.name}
                        className={`num ml-0.5 inline-grid size-6 place-items-center text-[11px] ${on ? (s.id === lit ? 'bg-ember font-bold text-paper' : 'bg-ink font-bold text-paper') : 'text-ink3 hover:text-ink'}`}
                        onClick={flip}
                      >
                        {i + 1}
                      </button>
                    )
                  })}
                </td>
                <td className="text-right">
                  <button
                    type="button"
                    className="act ml-2 text-[11.5px]"
                    aria-label={`Remove ${name}`}
                    onClick={() => dispatch(edit({ type: 'removeTarget', control: control.id, target: target.id }))}
                  >
                    Remove
                  </button>
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <AddTarget preset={preset} control={control} lit={lit} />
    </>
  )
}

function End({
  spec,
  target,
  end,
  name,
  onChange,
}: {
  spec: ParamSpec | null
  target: ControlTarget
  end: 'from' | 'to'
  name: string
  onChange: (value: ParamValue) => void
}) {
  const value = target[end]
  if (spec?.kind === 'choice')
    return <Pick label={name} value={String(value)} options={spec.options.map((o) => [o.value, o.label] as const)} onChange={onChange} />
  if (spec === null && target.param === 'on')
    return (
      <Pick
        label={name}
        value={Number(value) >= 0.5 ? 'on' : 'off'}
        options={[
          ['off', 'off'],
          ['on', 'on'],
        ]}
        onChange={(v) => onChange(v === 'on' ? 1 : 0)}
      />
    )
  return (
    <NumberField
      spec={spec ?? POSITION_SPEC}
      label={name}
      value={spec ? Number(value) : 100 * Number(value)}
      format={(v) => valueWords(spec, target.param, spec ? v : v / 100)}
      className={CELL}
      onChange={(v) => onChange(spec ? v : v / 100)}
    />
  )
}

function AddTarget({ preset, control, lit }: { preset: Preset; control: Control; lit: string | null }) {
  const dispatch = useAppDispatch()
  const parts = movable(preset, control)
  const [stage, setStage] = useState<string | null>(null)
  const part = parts.find((p) => p.id === stage) ?? parts.at(0)
  if (!part) return null
  const add = (param: string) => {
    const spec = specOf(preset, { stage: part.id, param })
    if (spec === undefined) return
    const node = findStage(preset, part.id)
    const now = node && param !== 'on' ? resolveStage(preset, node, lit).params[param] : 0
    // from what is heard now, to the top of the range
    const [from, to] =
      spec === null
        ? [0, 1]
        : spec.kind === 'choice'
          ? [spec.options[0].value, spec.options[spec.options.length - 1].value]
          : [now, spec.max]
    dispatch(edit({ type: 'addTarget', control: control.id, target: createTarget(newId(), part.id, param, from, to) }))
  }
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-4 border-t border-rule pt-1 text-[12px]">
      <span className="text-ink2">Add a target:</span>
      <Pick label="Stage to move" value={part.id} options={parts.map((p) => [p.id, p.name] as const)} onChange={setStage} />
      <Menu>
        <MenuButton className="act">
          its parameter
          <Chevron />
        </MenuButton>
        <MenuItems modal={false} anchor="bottom start" className="menu max-h-72 overflow-auto">
          {part.params.map(([key, label]) => (
            <MenuItem key={key}>
              <button type="button" className="menu-item" onClick={() => add(key)}>
                {label}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
    </div>
  )
}
