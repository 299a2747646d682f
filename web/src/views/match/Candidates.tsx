import { useEffect, useMemo, useState, type KeyboardEvent } from 'react'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { modelCandidate, presetCandidate, snapshotCandidate, type Candidate } from '@fulgor/core/closing'
import type { Portrait } from '@fulgor/core/match'
import { partName, stagesOf, type Preset } from '@fulgor/core/preset'
import { api, sentenceOf } from '../../api/api'
import { useWishes } from '../../background/useWish'
import { PresetPick } from '../../desk/PresetPick'
import { edit } from '../../state/actions'
import { notified } from '../../state/notices'
import { sideChosen, trialChosen } from '../../state/player'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { renderers } from '../../threads/crews'
import type { RenderTasks } from '../../threads/render.worker'
import { renderingOf } from '../../threads/riffSource'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { stepped } from '../../ui/listKeys'
import { WarningMark } from '../../ui/marks'
import { Pick } from '../../ui/Pick'

/** What is chosen to be compared, as it can be said of any state of the preset. */
type Chosen =
  | { readonly kind: 'model'; readonly stage: string; readonly model: string }
  | { readonly kind: 'snapshot'; readonly snapshot: string }
  | { readonly kind: 'preset'; readonly id: string; readonly document: Preset }

const MARKS = { k: 'keep', m: 'maybe', n: 'no' } as const
type Mark = (typeof MARKS)[keyof typeof MARKS]
const MOST = 24

/** Lists live on while one goes to another page and back. */
const kept = new Map<string, readonly Chosen[]>()

interface Props {
  preset: Preset
  lit: string
  /** How far a sound is from the recording; null without one. */
  distance?: ((of: Portrait) => number | null) | null
}

/** The same take through several stages, snapshots or presets, as loud as the sheet; one wins and is put in. */
export function Candidates({ preset, lit, distance = null }: Props) {
  const dispatch = useAppDispatch()
  const openId = useAppSelector((s) => s.editor.id) ?? ''
  const focused = useAppSelector((s) => s.editor.stage)
  const trial = useAppSelector((s) => s.player.trial)
  const [chosen, setChosenState] = useState<readonly Chosen[]>(() => kept.get(openId) ?? [])
  const setChosen = (next: readonly Chosen[]) => {
    kept.set(openId, next)
    setChosenState(next)
  }
  const stages = stagesOf(preset.chain)
  const [stageId, setStageId] = useState(focused ?? stages.find((s) => modelOf(s.model).family === 'amp')?.id ?? stages.at(0)?.id ?? '')
  const stage = stages.find((s) => s.id === stageId) ?? stages.at(0)
  const [marks, setMarks] = useState<Readonly<Record<string, Mark>>>({})
  const [blind, setBlind] = useState<number | null>(null)
  const [heard, setHeard] = useState<string | null>(null)
  const candidates = useMemo(
    () =>
      chosen.flatMap((c): Candidate[] => {
        if (c.kind === 'preset') return [presetCandidate(preset, lit, c.id, c.document)]
        if (c.kind === 'snapshot')
          return preset.snapshots.some((s) => s.id === c.snapshot) ? [snapshotCandidate(preset, lit, c.snapshot)] : []
        const at = stagesOf(preset.chain).find((s) => s.id === c.stage)
        return at ? [modelCandidate(preset, at, c.model)] : []
      }),
    [chosen, preset, lit],
  )
  const shown = useMemo(() => (blind === null ? candidates : shuffled(candidates, blind)), [candidates, blind])
  const variants = useMemo(() => [preset, ...candidates.map((c) => c.variant)], [preset, candidates])
  const sounds = useWishes<RenderTasks, 'portrait'>(
    renderers,
    [variants, lit],
    () =>
      variants.map((of) => ({
        task: 'portrait' as const,
        args: [renderingOf(of, lit, 'live'), 'mid' as const],
        key: null,
        rank: 'beside' as const,
      })),
    { afterMs: 200 },
  )
  const soundOf = (c: Candidate): Portrait | null => sounds.answers[1 + candidates.indexOf(c)] ?? null
  const now = sounds.answers[0] ?? null
  const gainOf = (c: Candidate): number => {
    const own = soundOf(c)?.lufs
    return own == null || now?.lufs == null ? 0 : now.lufs - own
  }
  const hear = (c: Candidate | null) => {
    setHeard(c?.id ?? null)
    dispatch(sideChosen('A'))
    dispatch(trialChosen(c ? { preset: c.variant, gainDb: gainOf(c) } : null))
  }
  useEffect(() => () => void dispatch(trialChosen(null)), [dispatch])
  const at = trial ? shown.findIndex((c) => c.id === heard) : -1
  const one = at < 0 ? null : shown[at]
  const add = (next: readonly Chosen[]) => {
    const known = new Set(chosen.map(keyOf))
    setChosen([...chosen, ...next.filter((c) => !known.has(keyOf(c)))].slice(0, MOST))
  }
  const addPreset = async (id: string) => {
    const { data, error } = await dispatch(api.endpoints.preset.initiate(id, { forceRefetch: true, subscribe: false }))
    if (data) add([{ kind: 'preset', id, document: data.document }])
    else dispatch(notified({ kind: 'warning', text: `Not added: ${sentenceOf(error)}` }))
  }
  const putIn = (c: Candidate) => {
    hear(null)
    dispatch(edit(c.putIn(gainOf(c))))
    dispatch(
      notified({
        kind: 'note',
        text: `${c.name} is put in${c.kind === 'stage' && preset.snapshots.length > 1 ? ', in every snapshot' : ''}.`,
      }),
    )
  }
  const mark = (c: Candidate, as: Mark) => setMarks((all) => (all[c.id] === as ? withoutKey(all, c.id) : { ...all, [c.id]: as }))
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    const as = (MARKS as Partial<Record<string, Mark>>)[event.key.toLowerCase()]
    if (event.ctrlKey || event.metaKey || event.altKey) return
    if (step !== undefined && shown.length > 0) hear(shown[stepped(at, step, shown.length)])
    else if (event.key === 'Enter' && one) putIn(one)
    else if (event.key === 'Escape' && one) hear(null)
    else if (as && one) mark(one, as)
    else if (event.key === 'Delete' && one) {
      hear(null)
      setChosen(chosen.filter((_, k) => candidates[k] !== one))
    } else return
    event.preventDefault()
  }
  const family = stage && modelOf(stage.model).family
  return (
    <section
      aria-label="Candidates"
      className="text-[12px]"
      data-candidates={shown.length}
      data-measured={sounds.fresh ? 'done' : 'working'}
    >
      <h2 className="text-section font-bold">
        Candidates on one take <Explain term="candidates" />
      </h2>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5">
        {stage && (
          <span className="flex items-baseline gap-2">
            <span className="text-ink2">In the place of</span>
            <Pick
              label="Stage that candidates take the place of"
              value={stage.id}
              options={stages.map((s, k) => [s.id, `${k + 1} ${partName(preset, s.id)}`] as const)}
              className="font-semibold"
              onChange={setStageId}
            />
            <Pick
              label="Model to try"
              value=""
              options={catalogue.filter((m) => m.family === family && m.id !== stage.model).map((m) => [m.id, m.name] as const)}
              short={() => 'add one'}
              onChange={(model) => add([{ kind: 'model', stage: stage.id, model }])}
            />
            <button
              type="button"
              className="act"
              onClick={() =>
                add(catalogue.filter((m) => m.family === family).map((m) => ({ kind: 'model', stage: stage.id, model: m.id })))
              }
            >
              Add all of its family
            </button>
          </span>
        )}
        {preset.snapshots.length > 1 && (
          <button type="button" className="act" onClick={() => add(preset.snapshots.map((s) => ({ kind: 'snapshot', snapshot: s.id })))}>
            Add the snapshots
          </button>
        )}
        <span className="flex items-baseline gap-1">
          <span className="text-ink2">or a preset</span>
          <PresetPick
            label="Preset to compare"
            value=""
            name=""
            open={null}
            onChange={(id) => id !== null && id !== openId && void addPreset(id)}
          />
        </span>
      </div>
      {shown.length === 0 ? (
        <p className="border-t border-rule py-1 text-ink2">
          Nothing chosen yet. Every candidate plays the riff of the player bar, as loud as the sheet, so that only the sound differs.
        </p>
      ) : (
        <>
          <div
            role="listbox"
            aria-label="Candidates on one take"
            tabIndex={0}
            data-desk-keys=""
            className="border-t border-ink"
            onKeyDown={onKey}
          >
            {shown.map((c, k) => {
              const sound = soundOf(c)
              const on = k === at
              const far = sound && distance ? distance(sound) : null
              return (
                <div
                  key={c.id}
                  role="option"
                  aria-selected={on}
                  data-candidate={c.id}
                  className={`grid min-h-7 cursor-pointer grid-cols-[22px_minmax(0,1fr)_58px_70px_60px_54px] items-center gap-x-2 border-b border-rule ${on ? 'bg-lit' : 'hover:bg-deep'} ${marks[c.id] === 'no' ? 'text-ink3' : ''}`}
                  onClick={() => hear(on ? null : c)}
                  onDoubleClick={() => putIn(c)}
                >
                  <span className={`num border-l-[3px] pl-1 text-ink2 ${on ? 'border-ember' : 'border-transparent'}`}>{k + 1}</span>
                  <span
                    className={`truncate font-semibold ${marks[c.id] === 'no' ? 'line-through' : ''}`}
                    title={blind === null ? c.name : undefined}
                  >
                    {blind === null ? c.name : `Candidate ${String.fromCharCode(65 + (k % 26))}`}
                    {blind === null && c.variant === preset && <span className="font-normal text-ink2"> · as it is</span>}
                  </span>
                  <span className="font-semibold">{marks[c.id] ?? ''}</span>
                  <span className="num text-right text-ink2">
                    {sound && blind === null ? `${figure((sound.brightnessHz ?? 0) / 1_000, 2)} kHz` : ''}
                  </span>
                  <span className="num text-right text-ink2">
                    {sound && blind === null ? `${figure(gainOf(c), 1, true)} dB` : sound ? '' : '…'}
                  </span>
                  <b className="num text-right">{far !== null && blind === null ? `${figure(far)} dB` : ''}</b>
                </div>
              )
            })}
          </div>
          {sounds.problems.some(Boolean) && (
            <p role="alert">
              <WarningMark /> {sounds.problems.find(Boolean)}
            </p>
          )}
          <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 pt-1.5">
            <button type="button" className="btn btn-filled" disabled={!one} onClick={() => one && putIn(one)}>
              Put it in
            </button>
            {Object.values(MARKS).map((as) => (
              <button
                key={as}
                type="button"
                className="act font-normal"
                disabled={!one}
                aria-pressed={one !== null && marks[one.id] === as}
                onClick={() => one && mark(one, as)}
              >
                {as === 'no' ? 'No' : as === 'keep' ? 'Keep' : 'Maybe'}
              </button>
            ))}
            <button
              type="button"
              className="act"
              aria-pressed={blind !== null}
              onClick={() => setBlind(blind === null ? Date.now() : null)}
            >
              {blind === null ? 'Blind, shuffled' : 'Show names'}
            </button>
            <button
              type="button"
              className="act font-normal"
              onClick={() => {
                hear(null)
                setChosen([])
                setMarks({})
              }}
            >
              Clear
            </button>
            <span className="ml-auto text-[11px] text-ink3">↑ ↓ hear · K keep · M maybe · N no · Enter put in</span>
          </div>
          <p className="text-[11px] text-ink3">
            Brightness, then dB by which it is turned to be as loud as the sheet{distance ? ', then its distance from the recording' : ''}.
          </p>
        </>
      )}
    </section>
  )
}

const keyOf = (c: Chosen): string =>
  c.kind === 'preset' ? `p ${c.id}` : c.kind === 'snapshot' ? `s ${c.snapshot}` : `m ${c.stage} ${c.model}`

const withoutKey = (all: Readonly<Record<string, Mark>>, key: string) => Object.fromEntries(Object.entries(all).filter(([k]) => k !== key))

/** In an order that says nothing, the same for the same seed. */
function shuffled<T>(of: readonly T[], seed: number): T[] {
  const out = [...of]
  let state = seed % 2_147_483_647 || 1
  for (let k = out.length - 1; k > 0; k--) {
    state = (state * 16_807) % 2_147_483_647
    const j = state % (k + 1)
    ;[out[k], out[j]] = [out[j], out[k]]
  }
  return out
}
