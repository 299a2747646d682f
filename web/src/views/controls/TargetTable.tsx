import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useState } from 'react'
import { quantity, type ParamSpec } from '@fulgor/core/catalogue'
import {
  CURVE_SHAPES,
  curveAt,
  findStage,
  MAX_DEAD,
  resolveStage,
  targetValue,
  type Control,
  type ControlTarget,
  type Curve,
  type Preset,
  createTarget,
} from '@fulgor/core/preset'
import type { ParamValue } from '@fulgor/core/signal'
import { edit, newId } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { Chevron } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { DrawnCurve } from './DrawnCurve'
import { CURVE_NAMES, curveWords, movable, specOf, targetName, valueWords } from './words'

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

/** Travel of a macro. */
const POSITION_SPEC = quantity('percent', 'Position', [0, 100])

/** A curve as a small drawing; its shape and dead zones are chosen beside it, its points drawn into it. */
function CurveCell({ name, curve, onChange }: { name: string; curve: Curve; onChange: (curve: Curve) => void }) {
  const [open, setOpen] = useState(false)
  const line = Array.from({ length: 41 }, (_, i) => `${i},${20 - 19 * curveAt(curve, i / 40)}`).join(' ')
  const dead = (label: string, key: 'heel' | 'toe') => (
    <label className="flex items-baseline gap-1 text-ink2">
      {label}
      <NumberField
        spec={quantity('percent', `${label} of ${name}`, [0, 100 * MAX_DEAD])}
        value={Math.round(curve[key] * 100)}
        className="num w-[40px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
        onChange={(share) => onChange({ ...curve, [key]: share / 100 })}
      />
    </label>
  )
  return (
    <div>
      <button
        type="button"
        className="flex items-baseline gap-2"
        aria-expanded={open}
        aria-label={`Curve of ${name}: ${curveWords(curve)}`}
        onClick={() => setOpen(!open)}
      >
        <svg width="42" height="22" viewBox="0 -1 41 22" aria-hidden="true">
          <path d="M0 20.5H41" stroke="var(--rule-2)" />
          <polyline points={line} fill="none" stroke="currentColor" strokeWidth="1.4" />
        </svg>
        {curveWords(curve)}
        <Chevron />
      </button>
      {open && (
        <div className="mt-1 flex flex-wrap items-baseline gap-x-3">
          <Pick
            label={`Shape of ${name}`}
            value={curve.shape}
            options={CURVE_SHAPES.map((s) => [s, CURVE_NAMES[s]] as const)}
            onChange={(shape) =>
              onChange(
                shape === 'points'
                  ? {
                      ...curve,
                      shape,
                      points: curve.points ?? [
                        [0, 0],
                        [0.5, 0.5],
                        [1, 1],
                      ],
                    }
                  : { ...curve, shape },
              )
            }
          />
          {dead('Dead at heel', 'heel')}
          {dead('at toe', 'toe')}
          {curve.shape === 'points' && (
            <DrawnCurve name={name} points={curve.points ?? []} onChange={(points) => onChange({ ...curve, points })} />
          )}
          {curve.shape === 'points' && (
            <label className="flex items-baseline gap-1 text-ink2">
              points
              <TextField
                label={`Points of ${name}`}
                value={(curve.points ?? []).map(([x, y]) => `${Math.round(x * 100)}:${Math.round(y * 100)}`).join(' ')}
                className="num w-[170px] border-b border-control bg-transparent outline-none focus:border-ink"
                onCommit={(text) => {
                  const points = text
                    .trim()
                    .split(/[\s;]+/)
                    .map((pair) => pair.split(':').map((v) => Number(v) / 100))
                  const fine =
                    points.length >= 2 &&
                    points.length <= 16 &&
                    points.every((p, i) => p.length === 2 && p.every((v) => v >= 0 && v <= 1) && (i === 0 || p[0] >= points[i - 1][0]))
                  if (!fine) return 'Points are pairs of travel and value in %, such as 0:0 50:80 100:100, in the order of the travel.'
                  onChange({ ...curve, points: points.map(([x, y]) => [x, y] as const) })
                  return null
                }}
              />
            </label>
          )}
        </div>
      )}
    </div>
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
