import { useMemo, useState } from 'react'
import { formatValue } from '@fulgor/core/catalogue'
import { partName, strokeDbfs, type Preset } from '@fulgor/core/preset'
import { gainParams, GOALS, type Goal } from '@fulgor/core/reading'
import { Errands } from '../../background/errand'
import { Cancelled, reasonOf } from '../../background/tasks'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { renderers } from '../../threads/crews'
import { renderingOf } from '../../threads/riffSource'
import { figure } from '../../ui/format'
import { Pick } from '../../ui/Pick'

/** Sets a gain by what it shall do under the hand, searched on the running preset. */
export function Goals({ preset, snapshot }: { preset: Preset; snapshot: string }) {
  const dispatch = useAppDispatch()
  const errands = useMemo(() => new Errands(), [])
  const [chosen, setChosen] = useState('')
  const [told, setTold] = useState<string | null>(null)
  const gains = gainParams(preset, snapshot)
  const gain = gains.find((g) => `${g.stage.id} ${g.param}` === chosen) ?? gains.find((g) => g.param !== 'master') ?? gains.at(0)
  if (!gain) return null
  const { stage, param, spec } = gain
  const seek = async (goal: Goal) => {
    setTold('Searching …')
    try {
      const found = await errands.begin().run(renderers, {
        task: 'gainFor',
        args: [
          renderingOf(preset, snapshot, 'live'),
          { stage: stage.id, param, spec },
          strokeDbfs(preset, snapshot, goal.stroke),
          goal.percent,
        ],
        key: null,
        rank: 'now',
      })
      dispatch(edit({ type: 'setParam', stage: stage.id, snapshot, param, value: found.value }))
      const place = `${partName(preset, stage.id)}, ${spec.label.toLowerCase()} ${formatValue(spec, found.value)}`
      setTold(
        found.limited
          ? `${place}: the end of its range, ${figure(found.percent)} % there; something else distorts${found.percent > goal.percent ? '' : ' too little'}.`
          : `${place}: ${figure(found.percent)} % there. Undo brings back what it was.`,
      )
    } catch (error) {
      if (!(error instanceof Cancelled)) setTold(`Not found: ${reasonOf(error)}`)
    }
  }
  return (
    <div className="mt-1 text-[12px]" data-goals="">
      <div className="flex items-baseline gap-2">
        <span className="text-ink2">Set</span>
        <Pick
          label="What is turned"
          value={`${stage.id} ${param}`}
          options={gains.map(
            (g) => [`${g.stage.id} ${g.param}`, `${partName(preset, g.stage.id)}: ${g.spec.label.toLowerCase()}`] as const,
          )}
          onChange={setChosen}
        />
        <span className="text-ink2">here, to be</span>
      </div>
      {GOALS.map((goal) => (
        <button key={goal.id} type="button" className="act block" onClick={() => void seek(goal)}>
          {goal.words}
        </button>
      ))}
      {told !== null && <p role="status">{told}</p>}
    </div>
  )
}
