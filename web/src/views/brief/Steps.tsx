import { useState } from 'react'
import { Link } from 'react-router'
import { figureOf, progressOf, stepsOf, type Step, type StepFigure } from '@fulgor/core/begin'
import type { ShownPreset } from '@fulgor/core/plan'
import type { NeededSound, Show, StepState } from '@fulgor/core/show'
import { useWish } from '../../background/useWish'
import { renderers } from '../../threads/crews'
import { renderingOf } from '../../threads/riffSource'
import type { Rendering } from '../../threads/sounds'
import { Progress } from '../../ui/Progress'

interface Props {
  sound: NeededSound
  school: Show['school']
  preset: ShownPreset | null
  onSteps: (steps: NeededSound['steps']) => void
}

const readJob = (job: Rendering) => ({ task: 'read', args: [job] as [Rendering], rank: 'idle' }) as const

/** The order of work, with what is measured; a step that is done by measurement needs no click. */
export function Steps({ sound, school, preset, onSteps }: Props) {
  const steps = stepsOf(school)
  const snapshot = sound.answer?.snapshot ?? ''
  const there = preset?.preset.snapshots.some((s) => s.id === snapshot) === true
  const {
    answer: reading,
    fresh,
    problem,
  } = useWish(renderers, [preset, snapshot, there], () => (preset && there ? readJob(renderingOf(preset.preset, snapshot, 'live')) : null))
  const read = fresh ? reading : null
  const figures = Object.fromEntries(
    steps.map((s) => [s.id, preset && there ? figureOf(s, sound, preset.preset, snapshot, read) : null]),
  ) as Partial<Record<Step['id'], StepFigure | null>>
  const progress = progressOf(steps, sound, figures)
  const [open, setOpen] = useState<Step['id'] | null>(null)
  const shown = open ?? progress.next
  const mark = (id: Step['id'], state: StepState | null) => {
    const { [id]: _, ...rest } = sound.steps
    onSteps(state === null ? rest : { ...rest, [id]: state })
    setOpen(null)
  }
  return (
    <div data-steps={read ? 'read' : there ? 'reading' : 'none'}>
      <div className="flex items-center gap-3 py-1">
        <Progress label="Steps done" value={progress.done} max={progress.of} />
        <span className="num text-ink2">
          {progress.done} of {progress.of}
        </span>
      </div>
      {problem !== null && <p role="alert">Not measured: {problem}</p>}
      <ol>
        {steps.map((s, i) => {
          const state = sound.steps[s.id]
          const figure = figures[s.id] ?? null
          const done = state === 'done' || figure?.done === true
          const on = s.id === shown
          return (
            <li key={s.id} className="border-t border-rule" data-step={s.id} data-done={done ? 'yes' : (state ?? 'no')}>
              <button
                type="button"
                aria-expanded={on}
                onClick={() => setOpen(on ? null : s.id)}
                className={`grid min-h-6 w-full grid-cols-[18px_minmax(0,1fr)_auto] items-baseline gap-x-1 py-0.5 text-left hover:text-ember ${on ? 'font-bold' : ''}`}
              >
                <span className="num text-ink2">{i + 1}</span>
                <span className="truncate">
                  {s.name}
                  {figure && <span className="font-normal text-ink2"> {figure.words}</span>}
                </span>
                <span className={`text-[11.5px] font-normal ${done ? '' : 'text-ink2'}`}>
                  {state === 'skipped'
                    ? 'skipped'
                    : done
                      ? state === 'done'
                        ? 'done'
                        : 'done, measured'
                      : figure?.done === false
                        ? 'not yet'
                        : ''}
                </span>
              </button>
              {on && (
                <div className="pb-1.5 pl-[19px]">
                  <p>{s.why}</p>
                  <p className="text-ink2">Listen: {s.listen}</p>
                  {figure && <p className="num text-[11.5px]">{figure.words}</p>}
                  {!preset && <p className="text-ink2">Measured once a snapshot answers the sound.</p>}
                  <span className="flex flex-wrap gap-x-4">
                    {preset && (
                      <Link className="act" to={s.view === 'kit' ? '/kit/guitars' : `/${s.view}/${preset.id}?snapshot=${snapshot}`}>
                        Go there
                      </Link>
                    )}
                    {state !== 'done' && (
                      <button type="button" className="act" onClick={() => mark(s.id, 'done')}>
                        Done
                      </button>
                    )}
                    {state !== 'skipped' && (
                      <button type="button" className="act font-normal" onClick={() => mark(s.id, 'skipped')}>
                        Skip
                      </button>
                    )}
                    {state !== undefined && (
                      <button type="button" className="act font-normal" onClick={() => mark(s.id, null)}>
                        Take it up again
                      </button>
                    )}
                  </span>
                </div>
              )}
            </li>
          )
        })}
      </ol>
    </div>
  )
}
