import type { ReactNode } from 'react'
import { partName, partsOf, runsItself, type Preset, type SwitchFunction, MAX_SWITCH_STAGES } from '@fulgor/core/preset'
import { Pick } from '../../ui/Pick'

export function Details(props: { preset: Preset; fn: SwitchFunction; gesture: string; onChange: (fn: SwitchFunction) => void }) {
  const { preset, fn, gesture, onChange } = props
  const sources = (preset.controls ?? []).filter((c) => !runsItself(c)).map((c) => [c.id, c.name] as const)
  switch (fn.do) {
    case 'snapshot':
      return (
        <Line name="which">
          <Pick
            label={`Snapshot of ${gesture}`}
            value={fn.snapshot}
            options={preset.snapshots.map((s, i) => [s.id, `${i + 1} ${s.name}`] as const)}
            onChange={(snapshot) => onChange({ do: 'snapshot', snapshot })}
          />{' '}
        </Line>
      )
    case 'stages':
      return <Stages {...props} fn={fn} />
    case 'source':
      return (
        <Line name="which">
          <Pick
            label={`Source of ${gesture}`}
            value={fn.control}
            options={sources}
            onChange={(control) => onChange({ do: 'source', control })}
          />
        </Line>
      )
    case 'pedals': {
      const [first, second = ''] = fn.controls
      return (
        <>
          <Line name="lets go of">
            <Pick
              label={`Pedal of ${gesture}`}
              value={first}
              options={sources}
              onChange={(id) => onChange({ do: 'pedals', controls: [id, ...(second && second !== id ? [second] : [])] })}
            />{' '}
          </Line>
          <Line name="and takes up">
            <Pick
              label={`Other pedal of ${gesture}`}
              value={second}
              options={[['', 'none'] as const, ...sources.filter(([id]) => id !== first)]}
              onChange={(id) => onChange({ do: 'pedals', controls: id === '' ? [first] : [first, id] })}
            />{' '}
          </Line>
        </>
      )
    }
    case 'bank':
    case 'preset':
      return (
        <Line name="which way">
          <Pick
            label={`Direction of ${gesture}`}
            value={fn.by === 1 ? 'up' : 'down'}
            options={
              [
                ['up', 'up'],
                ['down', 'down'],
              ] as const
            }
            onChange={(way) => onChange({ do: fn.do, by: way === 'up' ? 1 : -1 })}
          />{' '}
        </Line>
      )
    default:
      return null
  }
}

function Stages({
  preset,
  fn,
  gesture,
  onChange,
}: {
  preset: Preset
  fn: Extract<SwitchFunction, { do: 'stages' }>
  gesture: string
  onChange: (fn: SwitchFunction) => void
}) {
  const parts = partsOf(preset.chain).map((s) => [s.id, partName(preset, s.id)] as const)
  const free = parts.filter(([id]) => !fn.stages.includes(id))
  const set = (stages: readonly string[]) => onChange({ ...fn, stages })
  return (
    <>
      {fn.stages.map((stage, i) => (
        <div key={stage} className="flex items-baseline justify-between gap-2">
          <Pick
            label={`Stage ${i + 1} of ${gesture}`}
            value={stage}
            options={parts.filter(([id]) => id === stage || !fn.stages.includes(id))}
            onChange={(id) => set(fn.stages.map((s) => (s === stage ? id : s)))}
          />
          {fn.stages.length > 1 && (
            <button
              type="button"
              className="act"
              aria-label={`Take ${partName(preset, stage)} off`}
              onClick={() => set(fn.stages.filter((s) => s !== stage))}
            >
              {' '}
              take off
            </button>
          )}
        </div>
      ))}
      {free.length > 0 && fn.stages.length < MAX_SWITCH_STAGES && (
        <Line name="">
          <Pick
            label={`One more stage of ${gesture}`}
            value=""
            options={[['', 'one more stage'] as const, ...free]}
            onChange={(id) => id !== '' && set([...fn.stages, id])}
          />{' '}
        </Line>
      )}
      {fn.stages.length > 1 && (
        <Line name="how">
          <Pick
            label={`How ${gesture} switches`}
            value={fn.how}
            options={
              [
                ['each', 'each to its other state'],
                ['together', 'all on, or all off'],
              ] as const
            }
            onChange={(how) => onChange({ ...fn, how })}
          />{' '}
        </Line>
      )}
    </>
  )
}

export const Line = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="flex items-baseline justify-between gap-2">
    <span className="text-ink2">{name}</span>
    {children}
  </div>
)
