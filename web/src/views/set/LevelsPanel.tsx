import { useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import type { Plan, ShownPreset, Wanted } from '@fulgor/core/plan'
import { findSnapshot, partName, targetOf } from '@fulgor/core/preset'
import { PLACE_LUFS } from '@fulgor/core/place'
import type { Show } from '@fulgor/core/show'
import { usePlacesQuery } from '../../api/api'
import { useWishes } from '../../background/useWish'
import { ALL_OF_THEM } from '../../state/fetched'
import { renderers } from '../../threads/crews'
import { figure } from '../../ui/format'
import { PlayMark, WarningMark } from '../../ui/marks'
import { Progress } from '../../ui/Progress'
import { Segments } from '../../ui/Segments'
import { Rehearsal, renderingFor, type Piece } from './rehearsal'

/** LU of a jump that was not planned from which on it is told (common practice, no source). */
const JUMP_LU = 1.5
const keyOf = (w: Wanted): string => JSON.stringify([w.preset, w.snapshot, w.on])

/** How loud every sound of the night is in running order, and the night played through. */
export function LevelsPanel({ show, plan, presets }: { show: Show; plan: Plan | null; presets: readonly ShownPreset[] }) {
  const { data } = usePlacesQuery(ALL_OF_THEM)
  const steps = useMemo(() => (plan?.changes ?? []).filter((c) => c.change.does !== 'tap'), [plan])
  const sounds = useMemo(() => {
    const found = new Map<string, Wanted>()
    for (const { change } of steps) found.set(keyOf(change.wanted), change.wanted)
    return [...found].flatMap(([key, wanted]) => {
      const rendering = renderingFor(wanted, presets)
      return rendering ? [{ key, rendering }] : []
    })
  }, [steps, presets])
  const { answers, problems } = useWishes(renderers, [sounds], () =>
    sounds.map(({ rendering }) => ({ task: 'soundLevel', args: [rendering], keep: 80, rank: 'beside' })),
  )
  const rehearsal = useMemo(() => new Rehearsal(), [])
  useEffect(() => rehearsal.stop, [rehearsal])
  const { at, playing, problem, heard } = useSyncExternalStore(rehearsal.subscribe, rehearsal.now)
  const [how, setHow] = useState<'whole' | 'changes'>('changes')
  const measured = answers.filter((a) => a !== undefined).length
  const levelOf = (wanted: Wanted) => answers[sounds.findIndex((s) => s.key === keyOf(wanted))] ?? null
  const placeOf = (wanted: Wanted) => {
    const sound = show.sounds.find((s) => s.answer?.preset === wanted.preset && s.answer.snapshot === wanted.snapshot)
    const id = sound?.place ?? show.sounds.find((s) => s.place !== null)?.place
    return data?.items.find((p) => p.id === id) ?? null
  }
  const start = () => {
    const pieces: Piece[] = steps.map(({ change }) => ({ wanted: change.wanted, seconds: how === 'whole' ? 8 : 2.5 }))
    void rehearsal.play(pieces, presets, show.gapMs / 1000)
  }
  if (!plan) return <p className="py-2 text-ink2">Counting …</p>
  return (
    <div className="text-[12px]" data-levels={measured === sounds.length ? 'done' : 'working'}>
      <h2 className="text-section font-bold">Run the show</h2>
      <div className="flex items-center gap-3 py-1">
        <button
          type="button"
          aria-label={playing ? 'Stop the run' : 'Run the show'}
          className="grid size-8 flex-none place-items-center rounded-full bg-ink text-paper"
          disabled={steps.length === 0}
          onClick={() => (playing ? rehearsal.stop() : start())}
        >
          <PlayMark playing={playing} />
        </button>
        <Segments
          label="What is played"
          value={how}
          options={[
            ['changes', 'only the changes'],
            ['whole', 'some bars of each'],
          ]}
          onChange={setHow}
        />
      </div>
      <p className="text-[11.5px] text-ink3">
        Riffs go through all changes in order, as the engine plays them live; another preset comes behind a gap of{' '}
        {figure(show.gapMs / 1000, 1)} s. Start turned down.
      </p>
      {problem !== null && (
        <p role="alert" className="font-semibold">
          <WarningMark /> {problem}
        </p>
      )}
      <h2 className="mt-2 border-t border-ink pt-1 text-section font-bold">Loudness in running order</h2>
      {measured < sounds.length && (
        <p className="flex items-center gap-3" role="status">
          <Progress label="Sounds measured" value={measured} max={sounds.length} />
          <span className="num">
            {measured} of {sounds.length}
          </span>
        </p>
      )}
      {problems.find((p) => p !== undefined) !== undefined && <p role="alert">{problems.find((p) => p !== undefined)}</p>}
      <table className="w-full" aria-label="Loudness in running order">
        <thead>
          <tr className="text-[11px] text-ink3 [&>th]:font-normal">
            <th className="text-left">sound</th>
            <th className="text-right">LUFS</th>
            <th className="text-right">jump LU</th>
            <th className="text-right">dB SPL</th>
          </tr>
        </thead>
        <tbody>
          {steps.map(({ change, loads }, i) => {
            const { wanted } = change
            const shown = presets.find((p) => p.id === wanted.preset)
            const snapshot = shown && findSnapshot(shown.preset, wanted.snapshot)
            const level = levelOf(wanted)
            const before = i > 0 ? levelOf(steps[i - 1].change.wanted) : null
            const jump = level && before ? level.lufs - before.lufs : null
            const planned =
              plannedLu(wanted, presets) - (i > 0 ? plannedLu(steps[i - 1].change.wanted, presets) : plannedLu(wanted, presets))
            const off = jump !== null && Math.abs(jump - planned) > JUMP_LU
            const place = placeOf(wanted)
            const first = i === 0 || steps[i - 1].change.item !== change.item
            const stages = shown ? Object.entries(wanted.on).map(([id, on]) => `${on ? '+' : '−'} ${partName(shown.preset, id)}`) : []
            return (
              <tr
                key={i}
                className={`border-t ${first ? 'border-rule2' : 'border-rule'} ${i === at ? 'bg-lit' : ''}`}
                data-level={level?.lufs.toFixed(2)}
              >
                <td className="max-w-0 w-full truncate py-0.5 pr-2" title={`${change.song.name}, ${change.part.name}`}>
                  {first && <span className="block text-[11px] text-ink3">{change.song.name}</span>}
                  {snapshot?.name ?? 'gone'} <span className="text-ink2">{stages.join(' ')}</span>
                  {loads && <span className="text-ink2"> (other preset)</span>}
                </td>
                <td className="num text-right align-bottom">{level ? figure(level.lufs, 1) : '–'}</td>
                <td className="num text-right align-bottom whitespace-nowrap">
                  {off && <WarningMark />} {jump === null ? '–' : <b className={off ? '' : 'font-normal'}>{figure(jump, 1, true)}</b>}
                  {Math.abs(planned) > 0.05 && <span className="text-ink2"> of {figure(planned, 1, true)}</span>}
                  {heard[i] && heard[i].gapS > 0 && <span className="text-ink2"> gap {figure(heard[i].gapS, 1)} s</span>}
                </td>
                <td className="num text-right align-bottom">{level && place ? figure(place.level + level.lufs - PLACE_LUFS, 0) : '–'}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="mt-1 text-[11.5px] text-ink3">
        Jump: against the sound before; “of” is what the targets plan, a lead’s lift among it. dB SPL at the place that the brief names.
        Loud places hurt: wear protection and follow the venue’s and your local rules.
      </p>
    </div>
  )
}

function plannedLu(wanted: Wanted, presets: readonly ShownPreset[]): number {
  const shown = presets.find((p) => p.id === wanted.preset)
  const snapshot = shown && findSnapshot(shown.preset, wanted.snapshot)
  return shown && snapshot ? targetOf(shown.preset, snapshot) : 0
}
