import { useEffect, useState, useSyncExternalStore } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import {
  barsAt,
  LEAST_PART_S,
  loopSeconds,
  onBeats,
  recordingFields,
  TEMPO_RANGE,
  tempoOfBars,
  type Part,
  type Recording,
} from '@fulgor/core/recording'
import { useDeleteRecordingMutation, useGuitarQuery, useGuitarsQuery, usePlacesQuery } from '../../api/api'
import { loopPlayer } from '../../audio/loopPlayer'
import { reasonOf } from '../../background/tasks'
import { useWish } from '../../background/useWish'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { renderers } from '../../threads/crews'
import type { RenderTasks } from '../../threads/render.worker'
import { figure } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Wave } from '../../ui/Wave'
import { KitHead, NotThere } from './KitHead'
import { KitNotes } from './KitNotes'
import { KitRemove } from './KitRemove'
import { Line } from './PositionPart'
import { recordingSource } from '../../state/recordingSource'
import { UsedIn } from './UsedIn'
import { useKitDocument } from '../../state/useKitDocument'

const SMALL = 'num w-[74px] border-b border-control bg-transparent text-right outline-none focus:border-ink'

/** A riff or a backing: what of it is looped, its tempo and bars, what it was recorded on, and where it is used. */
export function RecordingSheet({ id, to }: { id: string; to: string }) {
  const editing = useKitDocument(id, recordingSource)
  const [remove] = useDeleteRecordingMutation()
  const { document: recording, missing, standing, change } = editing
  if (missing !== null || !recording) return <NotThere missing={missing} to={to} others="What is there" />
  const put = (part: Partial<Recording>, key?: string) => change({ ...recording, ...part }, key)
  const riff = recording.use === 'riff'
  return (
    <div className="min-h-0 min-w-0 overflow-auto px-4 py-2" data-sync={standing.sync}>
      <KitHead
        kind={recording.use}
        name={recording.name}
        most={recordingFields.name.most}
        editing={editing}
        onName={(name) => put({ name })}
      >
        <KitRemove
          kind="recording"
          id={id}
          name={recording.name}
          to={to}
          keeps={['plays it, and still will for 30 days.', 'play it, and still will for 30 days.']}
          remove={remove}
        />
      </KitHead>
      <KitNotes kind={recording.use} notes={recording.notes} onNotes={(notes) => put({ notes })} />
      <Loop recording={recording} onChange={put} />
      <div className="mt-2 grid grid-cols-2 gap-x-8 border-t border-ink pt-1 text-[12px] max-[700px]:block">
        <Times recording={recording} onChange={put} />
        {riff && <RecordedOn recording={recording} onChange={put} />}
      </div>
      {riff ? (
        <UsedIn
          id={id}
          name={recording.name}
          to={(preset) => `/sheet/${preset}`}
          none="No preset yet: choose it in the player bar of one."
        />
      ) : (
        <HeardAt id={id} />
      )}
    </div>
  )
}

interface PartProps {
  recording: Recording
  onChange: (part: Partial<Recording>, key?: string) => void
}

/** The file as it runs, and what of it is looped. */
function Loop({ recording, onChange }: PartProps) {
  const dispatch = useAppDispatch()
  const { file, seconds, tempo, beats } = recording
  const { answer: shape, problem } = useWish<RenderTasks, 'shape'>(renderers, [file], () => ({
    task: 'shape',
    args: [file],
    rank: 'beside',
    keep: 40,
  }))
  const [beating, setBeating] = useState(true)
  useSyncExternalStore(loopPlayer.subscribe, loopPlayer.now)
  const sounding = loopPlayer.playing === file
  const whole: Part = { from: 0, to: seconds }
  const part = recording.part ?? whole
  useEffect(() => () => loopPlayer.stop(), [file])
  useEffect(() => loopPlayer.follow(part))
  const at = useClock(sounding)
  const take = (next: Part, key: string) => {
    const held = beating ? onBeats(next, tempo, seconds) : next
    onChange({ part: held.from < 0.001 && seconds - held.to < 0.001 ? null : held }, key)
  }
  const play = async () => {
    try {
      if (sounding) loopPlayer.stop()
      else await loopPlayer.play(file, part)
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: reasonOf(error) }))
    }
  }
  const beat = tempo === null ? null : 60 / tempo
  const grid = beat === null || seconds / beat > 400 ? [] : gridOf(part.from, beat * beats, seconds)
  return (
    <div className="border-t border-ink pt-1">
      <div className="flex flex-wrap items-baseline gap-x-4 text-[12px]">
        <h2 className="text-section font-bold">What is looped</h2>
        <span className="num text-ink2" data-loop={loopSeconds(recording).toFixed(3)}>
          {figure(loopSeconds(recording), 2)} s of {figure(seconds, 2)} s
          {tempo !== null && `, ${figure(barsAt(tempo, beats, loopSeconds(recording)), 2)} bars`}
        </span>
        {shape && (
          <span className="num text-ink2">
            peak {figure(shape.peakDbfs)} dBFS{shape.lufs === null ? '' : `, ${figure(shape.lufs)} LUFS`}
          </span>
        )}
        <span className="ml-auto flex gap-x-4">
          {tempo !== null && (
            <label className="flex items-baseline gap-1">
              <input type="checkbox" className="self-center accent-ember" checked={beating} onChange={() => setBeating(!beating)} />
              ends on a beat
            </label>
          )}
          <button type="button" className="act" disabled={recording.part === null} onClick={() => onChange({ part: null })}>
            Loop all of it
          </button>
          <button type="button" className="btn" aria-pressed={sounding} onClick={() => void play()}>
            {sounding ? 'Stop' : 'Hear the loop'}
          </button>
        </span>
      </div>
      {problem && <p role="alert">{problem}</p>}
      <div className="my-1 min-h-[96px]">
        {shape && (
          <Wave
            label={`${recording.name} as it runs`}
            outline={shape.outline}
            seconds={seconds}
            parts={[part]}
            grid={grid}
            at={at}
            onPart={(_, next) => take(next, next.from === part.from ? 'end' : 'start')}
            onDraw={(next) => take(next, 'drawn')}
          />
        )}
      </div>
      <p className="text-[11px] text-ink3">
        Drag over the wave to loop a stretch; drag its ends, or move them by arrow keys (5 ms with Shift). Level on 48 dB. The loop’s end is
        led into its start over 4 ms.
        {recording.use === 'riff' && ' Presets keep their loop until you take the Kit’s in the player bar.'}
      </p>
    </div>
  )
}

/** Bars from a start on, both ways, s. */
function gridOf(from: number, bar: number, seconds: number): number[] {
  const first = from - Math.floor(from / bar) * bar
  return Array.from({ length: Math.max(0, Math.floor((seconds - first) / bar) + 1) }, (_, k) => first + k * bar)
}

/** Where the loop plays, s; null while it does not. */
function useClock(sounding: boolean): number | null {
  const [at, setAt] = useState<number | null>(null)
  useEffect(() => {
    if (!sounding) return
    const timer = setInterval(() => setAt(loopPlayer.at), 60)
    return () => {
      clearInterval(timer)
      setAt(null)
    }
  }, [sounding])
  return at
}

/** Ends of the loop, tempo and bars, typed. */
function Times({ recording, onChange }: PartProps) {
  const { part, seconds, tempo, bars, beats } = recording
  const { from, to } = part ?? { from: 0, to: seconds }
  const length = to - from
  const told = tempo === null ? null : barsAt(tempo, beats, length)
  const counted = bars === null ? null : tempoOfBars(bars, beats, length)
  const possible = counted !== null && counted >= TEMPO_RANGE[0] && counted <= TEMPO_RANGE[1]
  return (
    <div data-times="">
      <h2 className="text-section font-bold">Times</h2>
      <Line name="Loop from">
        <NumberField
          spec={quantity('s', 'Start of the loop, typed', [0, to - LEAST_PART_S])}
          value={from}
          className={SMALL}
          format={(s) => `${figure(s, 3)} s`}
          onChange={(s) => onChange({ part: { from: s, to } }, 'from')}
        />
      </Line>
      <Line name="to">
        <NumberField
          spec={quantity('s', 'End of the loop, typed', [from + LEAST_PART_S, seconds])}
          value={to}
          className={SMALL}
          format={(s) => `${figure(s, 3)} s`}
          onChange={(s) => onChange({ part: { from, to: s } }, 'to')}
        />
      </Line>
      <Line name="Tempo">
        <NumberField
          spec={quantity('bpm', 'Tempo of the recording', TEMPO_RANGE)}
          value={tempo}
          className={SMALL}
          empty={{ word: 'not told', onEmpty: () => onChange({ tempo: null }) }}
          onChange={(bpm) => onChange({ tempo: bpm }, 'tempo')}
        />
      </Line>
      <Line name="Bars">
        <span className="flex items-baseline gap-1">
          <NumberField
            spec={quantity('count', 'Bars of the loop', [1, 999])}
            value={bars}
            className={SMALL}
            empty={{ word: 'not told', onEmpty: () => onChange({ bars: null }) }}
            onChange={(n) => onChange({ bars: n }, 'bars')}
          />
          of
          <NumberField
            spec={quantity('count', 'Beats of a bar', recordingFields.beats.range)}
            value={beats}
            className="num w-[26px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
            onChange={(n) => onChange({ beats: n }, 'beats')}
          />
        </span>
      </Line>
      {counted !== null && (tempo === null || Math.abs(counted - tempo) > 0.05) && (
        <p className="border-t border-rule py-1" data-counted={counted.toFixed(2)}>
          {bars} bars in {figure(length, 2)} s are <b className="num">{figure(counted, 1)} bpm</b>.{' '}
          {possible ? (
            <button type="button" className="act" onClick={() => onChange({ tempo: Math.round(counted * 100) / 100 })}>
              Take that tempo
            </button>
          ) : (
            'That is no tempo that a preset can have.'
          )}
        </p>
      )}
      {told !== null && bars === null && (
        <p className="border-t border-rule py-1">
          At this tempo the loop is <b className="num">{figure(told, 2)} bars</b> long.{' '}
          {Math.round(told) >= 1 && (
            <button
              type="button"
              className="act"
              disabled={from + (Math.round(told) * beats * 60) / (tempo ?? 120) > seconds}
              onClick={() =>
                onChange({ bars: Math.round(told), part: { from, to: from + (Math.round(told) * beats * 60) / (tempo ?? 120) } })
              }
            >
              Make it {Math.round(told)}
            </button>
          )}
        </p>
      )}
    </div>
  )
}

/** The guitar and position that a riff was recorded on: without it, it is played as it is on every guitar. */
function RecordedOn({ recording, onChange }: PartProps) {
  const { made } = recording
  const { data } = useGuitarsQuery({ sort: 'name' })
  const { data: guitar } = useGuitarQuery(made?.guitar ?? '', { skip: made === null })
  const guitars = data?.items ?? []
  const gone = made !== null && data !== undefined && !guitars.some((g) => g.id === made.guitar)
  return (
    <div data-recorded-on="">
      <h2 className="text-section font-bold">Recorded on</h2>
      <Line name="Guitar">
        <Pick
          label="Guitar that it was recorded on"
          value={made?.guitar ?? ''}
          options={[
            ['', 'not told'] as const,
            ...guitars.map((g) => [g.id, g.name] as const),
            ...(gone ? [[made.guitar, 'a guitar that is not in the Kit'] as const] : []),
          ]}
          onChange={(of) => onChange({ made: of === '' ? null : { guitar: of, position: 0 } })}
        />
      </Line>
      {made && guitar && (
        <Line name="Position">
          <Pick
            label="Position that it was recorded on"
            value={String(Math.min(made.position, guitar.document.positions.length - 1))}
            options={guitar.document.positions.map((p, k) => [String(k), `${k + 1} ${p.name}`] as const)}
            onChange={(k) => onChange({ made: { ...made, position: Number(k) } })}
          />
        </Line>
      )}
      <p className="border-t border-rule py-1 text-ink2">
        {made
          ? 'On another guitar its level and third octaves are turned by what strums of the two differ; every note alike, and its own noise stays in it.'
          : 'Not told: every guitar hears it as it is.'}
      </p>
    </div>
  )
}

/** Places that play a backing along. */
function HeardAt({ id }: { id: string }) {
  const { data } = usePlacesQuery({ uses: id, sort: 'name' })
  const places = data?.items ?? []
  return (
    <div className="mt-2 border-t border-ink pt-1 text-[12px]">
      <h2 className="text-section font-bold">Heard along at</h2>
      <p className={places.length === 0 ? 'text-ink2' : 'font-semibold'}>
        {places.length === 0 ? 'No place yet: choose it on the page of a place.' : places.map((p) => p.name).join(', ')}
      </p>
    </div>
  )
}
