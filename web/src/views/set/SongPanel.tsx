import { footWords } from '@fulgor/core/board'
import { quantity } from '@fulgor/core/catalogue'
import { pedalClashes, type PlannedChange, type ShownPreset } from '@fulgor/core/plan'
import { TEMPO_RANGE } from '@fulgor/core/recording'
import {
  barBeat,
  clock,
  inOrder,
  MAX_MOVES,
  MAX_PARTS,
  itemFields,
  lengthWords,
  metreFields,
  nextPart,
  parseLength,
  partFields,
  parsePlace,
  removePart,
  resize,
  secondsOf,
  songFields,
  songProblems,
  splitPart,
  stepPart,
  withPart,
  type Move,
  type OrderItem,
  type Song,
  type SongPart,
} from '@fulgor/core/show'
import { partName, partsOf, type Preset } from '@fulgor/core/preset'
import { useGuitarsQuery } from '../../api/api'
import { ALL_OF_THEM } from '../../state/fetched'
import { newId } from '../../state/ids'
import { SoundPick } from '../../show/SoundPick'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'
import { TextField } from '../../ui/TextField'
import { Line, Tick, Words } from './fields'

interface Props {
  song: Song
  item: OrderItem
  part: string | null
  presets: readonly ShownPreset[]
  changes: readonly PlannedChange[]
  /** Nights that play it too. */
  shared: number
  onPart: (id: string | null) => void
  onSong: (song: Song, key?: string) => void
  onItem: (item: OrderItem) => void
  onTakeOut: () => void
  onDelete: () => void
}

const SHORT = 'num w-[64px] min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink'

/** One song: what it is, and its parts; the chosen part with all that happens in it. */
export function SongPanel(props: Props) {
  const { song, item, part: chosen, presets, changes, shared, onPart, onSong, onItem, onTakeOut, onDelete } = props
  const { data } = useGuitarsQuery(ALL_OF_THEM)
  const guitars = data?.items ?? []
  const part = song.parts.find((p) => p.id === chosen) ?? null
  const put = (change: Partial<Song>, key?: string) => onSong({ ...song, ...change }, key)
  const add = () => {
    const id = newId()
    onSong({ ...song, parts: [...song.parts, nextPart(song, id, `Part ${song.parts.length + 1}`)] })
    onPart(id)
  }
  return (
    <div className="text-[12px]">
      <h2 className="text-section font-bold">
        <TextField
          label="Name of the song"
          value={song.name}
          maxLength={songFields.name.most}
          className="w-full min-h-6 border-b border-transparent bg-transparent outline-none hover:border-control focus:border-ink"
          onCommit={(text) => {
            if (text.trim() === '') return 'A song needs a name.'
            put({ name: text.trim() })
            return null
          }}
        />
      </h2>
      {songProblems(song).map((words) => (
        <p key={words} className="py-0.5 font-semibold" data-problem="">
          <WarningMark /> {words}
        </p>
      ))}
      <Line label="Cue, time before it">
        <span className="flex gap-3">
          <Words
            label="Cue"
            narrow
            value={item.cue}
            most={itemFields.cue.most}
            onChange={(cue) => (onItem({ ...item, cue: cue.trim() }), null)}
          />
          <NumberField
            spec={quantity('s', 'Time before the song', itemFields.gap.range, 30)}
            value={item.gap}
            className={SHORT}
            onChange={(gap) => onItem({ ...item, gap })}
          />
        </span>
      </Line>
      <Line label="Tempo and metre">
        <span className="flex items-baseline gap-2">
          <NumberField
            spec={quantity('bpm', 'Tempo of the song', TEMPO_RANGE, 120)}
            value={song.tempo}
            empty={{ word: 'no tempo', onEmpty: () => put({ tempo: null }) }}
            className={SHORT}
            onChange={(tempo) => put({ tempo }, 'tempo')}
          />
          <NumberField
            spec={quantity('count', 'Beats of a bar', metreFields.beats.range, 4)}
            value={song.metre.beats}
            format={(n) => String(n)}
            className="num w-[22px] min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink"
            onChange={(beats) => put({ metre: { ...song.metre, beats: Math.round(beats) } }, 'beats')}
          />
          /
          <Pick
            label="Unit of the metre"
            value={String(song.metre.unit)}
            options={metreFields.unit.options.map((u) => [String(u), String(u)] as const)}
            className="num"
            onChange={(unit) => put({ metre: { ...song.metre, unit: Number(unit) as Song['metre']['unit'] } })}
          />
        </span>
      </Line>
      <Line label="Parts are counted in">
        <Segments
          label="Parts are counted in"
          value={song.counted}
          options={[
            ['beats', 'bars and beats'],
            ['time', 'minutes'],
          ]}
          onChange={(counted) => onSong(recounted(song, counted))}
        />
      </Line>
      <Line label="Key, tuning">
        <span className="flex gap-2">
          <Words label="Key" narrow value={song.key} most={songFields.key.most} onChange={(key) => (put({ key }), null)} />
          <Words label="Tuning" narrow value={song.tuning} most={songFields.tuning.most} onChange={(tuning) => (put({ tuning }), null)} />
        </span>
      </Line>
      <Line label="Guitar">
        <Pick
          label="Guitar of the song"
          value={song.guitar ?? ''}
          options={[
            ['', 'any'] as const,
            ...guitars.map((g) => [g.id, g.name] as const),
            ...(song.guitar !== null && !guitars.some((g) => g.id === song.guitar)
              ? [[song.guitar, 'one that is not in the Kit'] as const]
              : []),
          ]}
          onChange={(guitar) => put({ guitar: guitar === '' ? null : guitar })}
        />
      </Line>
      <div className="flex flex-wrap gap-x-4 border-t border-rule py-1">
        <button type="button" className="act" disabled={song.parts.length >= MAX_PARTS} onClick={add}>
          Add a part
        </button>
        <button type="button" className="act font-normal" onClick={onTakeOut}>
          Take out of this night
        </button>
        <button type="button" className="act font-normal" onClick={onDelete}>
          Delete the song
        </button>
        {shared > 0 && (
          <span className="text-ink2">
            {shared === 1 ? 'One more night plays' : `${shared} more nights play`} it: edits count there too.
          </span>
        )}
      </div>
      {part ? (
        <PartFields key={part.id} {...props} part={part} changes={changes.filter((c) => c.change.part.id === part.id)} presets={presets} />
      ) : (
        <p className="border-t border-ink py-1 text-ink2">Choose a part on the line to say what sounds in it.</p>
      )}
    </div>
  )
}

/** The song counted the other way; without a tempo the numbers stay as they are. */
function recounted(song: Song, counted: Song['counted']): Song {
  if (counted === song.counted) return song
  const beat = secondsOf({ ...song, counted: 'beats' }, 1)
  const by = beat === null ? 1 : counted === 'time' ? beat : 1 / beat
  const to = (n: number) => Math.round(n * by * 1000) / 1000
  return {
    ...song,
    counted,
    parts: song.parts.map((p) => ({
      ...p,
      at: to(p.at),
      length: to(p.length),
      moves: p.moves.map((m) => (m.do === 'pedal' ? { ...m, at: to(m.at), length: to(m.length) } : { ...m, at: to(m.at) })),
    })),
  }
}

function PartFields(props: Omit<Props, 'part'> & { part: SongPart }) {
  const { song, part, presets, changes, onSong, onPart } = props
  const put = (change: Partial<SongPart>, key?: string) =>
    onSong(
      withPart(song, part.id, (p) => ({ ...p, ...change })),
      key,
    )
  const preset = presets.find((p) => p.id === part.sound?.preset)?.preset ?? null
  const place = song.counted === 'beats' ? barBeat(song.metre, part.at) : clock(part.at)
  const parts = inOrder(song)
  const k = parts.findIndex((p) => p.id === part.id)
  return (
    <section aria-label={`Part ${part.name}`} className="mt-1 border-t border-ink pt-1" data-of-part={part.id}>
      <h3 className="text-[13px] font-bold">
        <TextField
          label="Name of the part"
          value={part.name}
          maxLength={partFields.name.most}
          className="w-full min-h-6 border-b border-transparent bg-transparent outline-none hover:border-control focus:border-ink"
          onCommit={(text) => {
            if (text.trim() === '') return 'A part needs a name.'
            put({ name: text.trim() })
            return null
          }}
        />
      </h3>
      <Line label={song.counted === 'beats' ? 'From bar, for' : 'From, for'}>
        <span className="flex gap-2">
          <TextField
            label="Where the part begins"
            value={place}
            className={SHORT}
            title="17.3 is the third beat of bar 17; counted by time, 1:30"
            onCommit={(text) => {
              const at = parsePlace(song, text)
              if (at === null) return song.counted === 'beats' ? 'Write a bar, or bar and beat: 17 or 17.3.' : 'Write a time: 1:30 or 90 s.'
              put({ at })
              return null
            }}
          />
          <TextField
            label="How long the part is"
            value={lengthWords(song, part.length)}
            className="num w-[96px] min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink"
            onCommit={(text) => {
              const length = parseLength(song, text)
              if (length === null) return song.counted === 'beats' ? 'Write bars or beats: 8, or 6 beats.' : 'Write a time: 0:30 or 30 s.'
              onSong(resize(song, part.id, length))
              return null
            }}
          />
        </span>
      </Line>
      <Line label="Sound">
        <SoundPick label="Sound of the part" value={part.sound} presets={presets} none="nothing" onChange={(sound) => put({ sound })} />
      </Line>
      <div className="flex gap-5 border-t border-rule">
        <Tick label="I sing" on={part.sung} onChange={(sung) => put({ sung })} />
        <Tick label="no free hand" on={part.handsFull} onChange={(handsFull) => put({ handsFull })} />
      </div>
      <Moves song={song} part={part} preset={preset} onMoves={(moves, key) => put({ moves }, key)} />
      <div className="flex flex-wrap gap-x-4 border-t border-rule py-1">
        <button type="button" className="act font-normal" disabled={k <= 0} onClick={() => onSong(stepPart(song, part.id, -1))}>
          Earlier
        </button>
        <button
          type="button"
          className="act font-normal"
          disabled={k === parts.length - 1}
          onClick={() => onSong(stepPart(song, part.id, 1))}
        >
          Later
        </button>
        <button
          type="button"
          className="act font-normal"
          onClick={() => {
            const id = newId()
            onSong(splitPart(song, part.id, part.at + part.length / 2, id))
            onPart(id)
          }}
        >
          Cut in two
        </button>
        <button
          type="button"
          className="act font-normal"
          onClick={() => {
            onSong(removePart(song, part.id))
            onPart(null)
          }}
        >
          Delete
        </button>
      </div>
      {pedalClashes(part).length > 0 && (
        <p className="border-t border-rule py-0.5 font-semibold">
          <WarningMark /> two pedals move at once: both feet
        </p>
      )}
      <Feet changes={changes} />
    </section>
  )
}

/** What the feet do at the start of the part and in it. */
function Feet({ changes }: { changes: readonly PlannedChange[] }) {
  if (changes.length === 0) return <p className="border-t border-rule py-1 text-ink2">Nothing to press: what sounded goes on.</p>
  return (
    <ul className="border-t border-rule" aria-label="What the feet do">
      {changes.map((c, i) => (
        <li key={i} className="border-b border-rule py-0.5">
          {c.steps.length === 0 && c.troubles.length === 0 && (
            <span className="text-ink2">It sounds already when the preset is loaded.</span>
          )}
          {c.steps.map((s, n) => (
            <span key={n} className="mr-2 inline-block">
              <b className="num">{footWords(s.gesture, s.place)}</b> <span className="text-ink2">{STEP_WORDS[s.fn.do]}</span>
            </span>
          ))}
          {c.presses > 1 && (
            <span className="num text-ink2">
              {figure(c.needS, 1)} s{c.change.windowS === null ? '' : ` of ${figure(c.change.windowS, 1)} s`}
            </span>
          )}
          {c.loads && <span className="text-ink2"> another preset is loaded: a gap, and no echo rings on</span>}
          {c.troubles.map((t) => (
            <p key={t.words} className="font-semibold">
              <WarningMark /> {t.words}
            </p>
          ))}
        </li>
      ))}
    </ul>
  )
}

const STEP_WORDS: Record<string, string> = {
  snapshot: 'loads the snapshot',
  stages: 'switches the stage',
  page: 'other page',
  bank: 'bank',
  preset: 'other preset',
  tap: 'tap',
  tuner: 'tuner',
  source: 'moves a source',
  pedals: 'what a pedal does',
}

function Moves(props: { song: Song; part: SongPart; preset: Preset | null; onMoves: (moves: readonly Move[], key?: string) => void }) {
  const { song, part, preset, onMoves } = props
  const set = (i: number, move: Move, key?: string) =>
    onMoves(
      part.moves.map((m, k) => (k === i ? move : m)),
      key,
    )
  const full = part.moves.length >= MAX_MOVES
  const stages = preset ? partsOf(preset.chain).filter((s) => s.model !== 'lane') : []
  const controls = (preset?.controls ?? []).filter((c) => c.kind === 'pedal' || c.kind === 'knob')
  const at = (m: Move, i: number) => (
    <TextField
      label="When, from the start of the part"
      value={m.at === 0 ? 'at once' : `after ${lengthWords(song, m.at)}`}
      className="num w-[92px] min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink"
      onCommit={(text) => {
        const clean = text.trim().replace(/^after /, '')
        const length = clean === 'at once' || clean === '0' ? 0 : parseLength(song, clean)
        if (length === null || length > part.length) return 'Write how long after its start: 4 bars, or at once.'
        set(i, { ...m, at: length })
        return null
      }}
    />
  )
  return (
    <div data-moves="">
      {part.moves.map((m, i) => (
        <div key={i} className="flex min-h-7 flex-wrap items-baseline justify-end gap-x-2 border-t border-rule">
          {m.do === 'stage' && (
            <Pick
              label="Stage"
              value={`${m.on ? '+' : '-'} ${m.stage}`}
              options={stages.flatMap((s) => [
                [`+ ${s.id}`, `${partName(preset as Preset, s.id)} on`] as const,
                [`- ${s.id}`, `${partName(preset as Preset, s.id)} off`] as const,
              ])}
              className="mr-auto"
              onChange={(next) => set(i, { ...m, stage: next.slice(2), on: next.startsWith('+') })}
            />
          )}
          {m.do === 'pedal' && (
            <>
              <Pick
                label="Pedal"
                value={m.control}
                options={[
                  ...controls.map((c) => [c.id, c.name] as const),
                  ...(controls.some((c) => c.id === m.control) ? [] : [[m.control, 'a source that is gone'] as const]),
                ]}
                className="mr-auto"
                onChange={(control) => set(i, { ...m, control })}
              />
              <Segments
                label="Which way"
                value={m.to >= m.from ? 'up' : 'down'}
                options={[
                  ['up', 'heel to toe'],
                  ['down', 'toe to heel'],
                ]}
                onChange={(way) => set(i, { ...m, from: way === 'up' ? 0 : 1, to: way === 'up' ? 1 : 0 })}
              />
              <TextField
                label="How long the pedal moves"
                value={lengthWords(song, m.length) || '0'}
                className={SHORT}
                onCommit={(text) => {
                  const length = parseLength(song, text)
                  if (length === null) return 'Write how long: 4 bars.'
                  set(i, { ...m, length })
                  return null
                }}
              />
            </>
          )}
          {m.do === 'tap' && <span className="mr-auto">Tap the tempo</span>}
          {at(m, i)}
          <button
            type="button"
            className="act font-normal"
            aria-label={`Take away move ${i + 1}`}
            onClick={() => onMoves(part.moves.filter((_, k) => k !== i))}
          >
            Take away
          </button>
        </div>
      ))}
      <div className="flex flex-wrap gap-x-4 border-t border-rule">
        <button
          type="button"
          className="act font-normal"
          disabled={stages.length === 0 || full}
          onClick={() => onMoves([...part.moves, { do: 'stage', stage: stages[0].id, at: 0, on: true }])}
        >
          Switch a stage
        </button>
        <button
          type="button"
          className="act font-normal"
          disabled={controls.length === 0 || full}
          title={controls.length === 0 ? 'The preset has no pedal; add one in Controls' : undefined}
          onClick={() =>
            onMoves([...part.moves, { do: 'pedal', control: controls[0].id, at: 0, length: Math.max(1, part.length / 2), from: 0, to: 1 }])
          }
        >
          Move a pedal
        </button>
        <button type="button" className="act font-normal" disabled={full} onClick={() => onMoves([...part.moves, { do: 'tap', at: 0 }])}>
          Tap
        </button>
      </div>
    </div>
  )
}
