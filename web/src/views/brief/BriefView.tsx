import { useMemo, useRef, type KeyboardEvent } from 'react'
import { useSearchParams } from 'react-router'
import { STARTS } from '@fulgor/core/begin'
import type { ShownPreset } from '@fulgor/core/plan'
import { findSnapshot } from '@fulgor/core/preset'
import { blankSound, MAX_SOUNDS, moved, soundFields, type NeededSound, type Show } from '@fulgor/core/show'
import { useGuitarsQuery, usePlacesQuery } from '../../api/api'
import { ALL_OF_THEM } from '../../state/fetched'
import { newId } from '../../state/ids'
import type { KitDocument } from '../../state/useKitDocument'
import { ShowHead } from '../../show/ShowHead'
import { ShowPage } from '../../show/ShowPage'
import { useShownPresets } from '../../show/useShownPresets'
import { figure } from '../../ui/format'
import { Dot, WarningMark } from '../../ui/marks'
import { Progress } from '../../ui/Progress'
import { TextField } from '../../ui/TextField'
import { ListImport } from './ListImport'
import { SoundPanel } from './SoundPanel'

/** The sounds that a show or session needs, and how far each of them is. */
export function BriefView() {
  return (
    <ShowPage name="Brief" to="/brief" empty="No show yet: begin with the list of sounds that one needs.">
      {(id, show, editing) => <List id={id} show={show} editing={editing} />}
    </ShowPage>
  )
}

const GRID =
  'grid grid-cols-[18px_minmax(0,1.2fr)_minmax(0,1fr)_minmax(0,96px)_40px_minmax(0,1fr)_minmax(0,1.4fr)] gap-x-3 max-[900px]:grid-cols-[22px_minmax(0,1fr)_minmax(0,1fr)]'

/** Whether what answers a sound is there. */
function answerOf(
  sound: NeededSound,
  presets: readonly ShownPreset[],
  whole: boolean,
): { words: string; state: 'open' | 'there' | 'gone' } {
  if (!sound.answer) return { words: 'open', state: 'open' }
  const shown = presets.find((p) => p.id === sound.answer?.preset)
  const snapshot = shown && findSnapshot(shown.preset, sound.answer.snapshot)
  if (shown && snapshot)
    return { words: `${shown.preset.snapshots.indexOf(snapshot) + 1} ${snapshot.name} · ${shown.preset.name}`, state: 'there' }
  return whole ? { words: 'its snapshot is gone', state: 'gone' } : { words: '…', state: 'there' }
}

function List({ id, show, editing }: { id: string; show: Show; editing: KitDocument<Show> }) {
  const { change } = editing
  const [params, setParams] = useSearchParams()
  const { data: guitars } = useGuitarsQuery(ALL_OF_THEM)
  const { data: places } = usePlacesQuery(ALL_OF_THEM)
  const { presets, whole } = useShownPresets(show)
  const field = useRef<HTMLDivElement>(null)
  const chosen = show.sounds.find((s) => s.id === params.get('sound')) ?? show.sounds.at(0) ?? null
  const choose = (sound: string | null) =>
    setParams(
      (now) => {
        if (sound === null) now.delete('sound')
        else now.set('sound', sound)
        return now
      },
      { replace: true },
    )
  const put = (next: NeededSound, key?: string) =>
    change({ ...show, sounds: show.sounds.map((s) => (s.id === next.id ? next : s)) }, key === undefined ? undefined : `${next.id} ${key}`)
  const add = (name: string) => {
    const made = { ...blankSound(newId(), name), ...(chosen ? { guitar: chosen.guitar, place: chosen.place } : {}) }
    change({ ...show, sounds: [...show.sounds, made] })
    choose(made.id)
  }
  const answers = useMemo(() => show.sounds.map((s) => answerOf(s, presets, whole)), [show.sounds, presets, whole])
  const answered = answers.filter((a) => a.state === 'there').length
  const missing = show.sounds.filter((s, i) => s.priority === 'must' && answers[i].state !== 'there')
  const onKey = (event: KeyboardEvent, at: number) => {
    const to = event.key === 'ArrowDown' ? at + 1 : event.key === 'ArrowUp' ? at - 1 : null
    if (event.key === 'Delete') {
      event.preventDefault()
      change({ ...show, sounds: show.sounds.filter((_, i) => i !== at) })
      return
    }
    if (to === null || to < 0 || to >= show.sounds.length) return
    event.preventDefault()
    if (event.altKey) change({ ...show, sounds: moved(show.sounds, at, to) })
    else choose(show.sounds[to].id)
    const wanted = event.altKey ? show.sounds[at].id : show.sounds[to].id
    requestAnimationFrame(() => document.getElementById(`sound-${wanted}`)?.focus())
  }
  const guitarName = (s: NeededSound) => {
    if (!s.guitar) return 'any'
    return guitars?.items.find((g) => g.id === s.guitar?.kit)?.name ?? 'not in the Kit'
  }
  return (
    <div className="brief grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)] max-[1000px]:block max-[1000px]:overflow-auto">
      <ShowHead
        id={id}
        to="/brief"
        term="brief"
        show={show}
        editing={editing}
        told={
          <span>
            <b className="num">{answered}</b> of <b className="num">{show.sounds.length}</b> sounds answered
          </span>
        }
      />
      <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_372px] max-[1000px]:block">
        <main className="min-h-0 min-w-0 overflow-auto" data-answered={answered}>
          <div className="flex items-center gap-4 px-4 pt-3 pb-2">
            <Progress label="Sounds answered" value={answered} max={Math.max(1, show.sounds.length)} />
            <span className="max-w-[60%] truncate text-[12px]" role="status">
              {show.sounds.length === 0
                ? 'Write down the sounds that are needed, one after another.'
                : missing.length === 0
                  ? 'All that must be there is there.'
                  : `Missing: ${missing.map((s) => s.name).join(', ')}`}
            </span>
          </div>
          <div className={`${GRID} border-b border-ink px-4 pb-1 text-[11px] text-ink3`}>
            <span />
            <span>sound</span>
            <span>song, part</span>
            <span className="max-[900px]:hidden">role</span>
            <span className="text-right max-[900px]:hidden">bpm</span>
            <span className="max-[900px]:hidden">guitar, place</span>
            <span className="max-[900px]:hidden">answered by</span>
          </div>
          <div role="listbox" aria-label="Sounds needed" ref={field}>
            {show.sounds.map((s, i) => {
              const on = s.id === chosen?.id
              const answer = answers[i]
              return (
                <div
                  key={s.id}
                  id={`sound-${s.id}`}
                  role="option"
                  aria-selected={on}
                  tabIndex={on ? 0 : -1}
                  onClick={() => choose(s.id)}
                  onKeyDown={(event) => onKey(event, i)}
                  className={`${GRID} relative min-h-[46px] cursor-pointer items-start border-b border-rule px-4 py-1.5 ${on ? 'bg-lit' : 'hover:bg-deep'}`}
                  data-sound={s.id}
                  data-answer={answer.state}
                >
                  {on && <span className="absolute inset-y-0 left-0 w-[3px] bg-ember" />}
                  <span className="pt-1">
                    <Dot on={answer.state === 'there'} />
                  </span>
                  <span className="min-w-0">
                    <b className="block truncate text-name">{s.name}</b>
                    <span className="block truncate text-[11.5px] text-ink2" title={s.words}>
                      {s.words}
                    </span>
                  </span>
                  <span className="min-w-0">
                    <span className="block truncate">{s.song}</span>
                    <span className="block truncate text-[11.5px] text-ink2">{s.part}</span>
                  </span>
                  <span className="max-[900px]:hidden">
                    {STARTS[s.role].name}
                    {s.priority !== 'must' && <span className="block text-[11.5px] text-ink2">{s.priority} be there</span>}
                  </span>
                  <span className="num text-right max-[900px]:hidden">{s.tempo === null ? '–' : figure(s.tempo, s.tempo % 1 ? 1 : 0)}</span>
                  <span className="min-w-0 max-[900px]:hidden">
                    <span className="block truncate">{guitarName(s)}</span>
                    <span className="block truncate text-[11.5px] text-ink2">
                      {places?.items.find((p) => p.id === s.place)?.name ?? ''}
                    </span>
                  </span>
                  <span className="min-w-0 max-[900px]:col-span-2 max-[900px]:col-start-2">
                    {answer.state === 'gone' && <WarningMark />}{' '}
                    <span className={answer.state === 'there' ? 'font-semibold' : answer.state === 'open' ? 'text-ink2' : ''}>
                      {answer.words}
                    </span>
                  </span>
                </div>
              )
            })}
          </div>
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2 px-4 py-3">
            <TextField
              label="Add a sound by its name"
              value=""
              maxLength={soundFields.name.most}
              className="field w-[220px]"
              onCommit={(text) => {
                if (text.trim() !== '') add(text.trim())
                return null
              }}
            />
            <span className="text-[11.5px] text-ink2">type a name and press Enter</span>
            <ListImport
              onSounds={(sounds) => {
                change({ ...show, sounds: [...show.sounds, ...sounds] })
                if (sounds.length > 0) choose(sounds[0].id)
              }}
              room={soundsLeft(show)}
            />
          </div>
        </main>
        <aside
          aria-label="The chosen sound"
          className="min-h-0 overflow-auto border-l border-ink px-4 py-2 max-[1000px]:border-t max-[1000px]:border-l-0"
        >
          {chosen ? (
            <SoundPanel
              key={chosen.id}
              show={show}
              sound={chosen}
              presets={presets}
              onSound={put}
              onSchool={(school) => change({ ...show, school })}
              onRemove={() => {
                change({ ...show, sounds: show.sounds.filter((s) => s.id !== chosen.id) })
                choose(null)
              }}
            />
          ) : (
            <p className="text-[12px] text-ink2">
              A sound that is needed has a name, a role and a place in a song. From here it is begun, and followed step by step.
            </p>
          )}
        </aside>
      </div>
    </div>
  )
}

const soundsLeft = (show: Show): number => MAX_SOUNDS - show.sounds.length
