import { useSortable } from '@dnd-kit/sortable'
import { memo, useMemo, type KeyboardEvent } from 'react'
import { cleanTap, repeatsAt, type PlannedChange, type ShownPreset } from '@fulgor/core/plan'
import { clock, inOrder, songSeconds, type Feet, type OrderItem, type Song, type SongPart } from '@fulgor/core/show'
import { figure } from '../../ui/format'
import { PartLine, tellTheSame } from './PartLine'
import { pressesOf } from './planned'

/** Cue, song, tempo, delay, line, presses. */
export const ROW = 'grid grid-cols-[34px_118px_40px_88px_minmax(0,1fr)_44px] gap-x-2 max-[900px]:grid-cols-[28px_104px_minmax(0,1fr)_32px]'

/** What a row calls, with its place in the night; must stay the same. */
export interface RowHands {
  readonly onChoose: (index: number, part: string | null) => void
  readonly onSong: (song: Song, key?: string) => void
  readonly onKey: (event: KeyboardEvent, index: number, song: Song, part: SongPart | null) => void
}

interface Props extends RowHands {
  index: number
  item: OrderItem
  song: Song
  longest: number
  feet: Feet
  changes: readonly PlannedChange[]
  presets: readonly ShownPreset[]
  chosen: boolean
  part: string | null
}

/** One song of the night on its line, drawn anew only where something of it has changed: a night may hold hundreds. */
export const SongRow = memo(Row, ({ changes: a, ...before }, { changes: b, ...now }) => {
  const keys = Object.keys(before) as (keyof typeof before)[]
  return keys.every((key) => before[key] === now[key]) && tellTheSame(a, b)
})

function Row({ index, item, song, longest, feet, changes, presets, chosen, part, onChoose, onSong, onKey }: Props) {
  const { setNodeRef, setActivatorNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: String(index) })
  const hands = useMemo(
    () => ({
      onChoose: (of: string) => onChoose(index, of),
      onChange: onSong,
      onKey: (event: KeyboardEvent, of: SongPart) => onKey(event, index, song, of),
    }),
    [index, song, onChoose, onSong, onKey],
  )
  const { seconds, repeats, tap } = useMemo(() => {
    const first = inOrder(song).find((p) => p.sound)?.sound
    const preset = presets.find((p) => p.id === first?.preset)?.preset
    return {
      seconds: songSeconds(song),
      repeats: preset && first && song.tempo !== null ? repeatsAt(preset, first.snapshot, song.tempo) : null,
      tap: song.tempo === null ? null : cleanTap(song.tempo, song.metre.beats * (4 / song.metre.unit), feet),
    }
  }, [song, presets, feet])
  const presses = pressesOf(changes)
  return (
    <div
      ref={setNodeRef}
      style={{
        transform: transform ? `translate3d(0, ${Math.round(transform.y)}px, 0)` : undefined,
        transition,
        contentVisibility: 'auto',
      }}
      className={`${ROW} relative min-h-[70px] border-t px-3.5 ${chosen ? 'z-10 border-ink shadow-[0_1.5px_0_var(--ink)]' : 'border-rule'} ${isDragging ? 'z-20 bg-deep' : ''}`}
      data-song={song.id}
      data-song-presses={presses}
    >
      <span className="num pt-3 text-[12px] text-ink2">{item.cue}</span>
      <span className="min-w-0 pt-2.5">
        <button
          type="button"
          ref={setActivatorNodeRef}
          {...listeners}
          id={`song-${index}`}
          aria-pressed={chosen && part === null}
          title="Drag, or Alt with ↑ and ↓, to move it in the night"
          onClick={() => onChoose(index, null)}
          onKeyDown={(event) => onKey(event, index, song, null)}
          className="head block w-full truncate text-left text-[14px] leading-[17px] hover:text-ember"
        >
          {song.name}
        </button>
        <span className="num block text-[11px] text-ink2">
          {seconds === null ? '–:––' : clock(seconds)} · {song.metre.beats}/{song.metre.unit}
        </span>
        {song.key !== '' && <span className="block truncate text-[11px] text-ink2">{song.key}</span>}
      </span>
      <span className="num pt-2.5 text-right text-[15px] font-semibold max-[900px]:hidden">
        {song.tempo === null ? '–' : figure(song.tempo, song.tempo % 1 ? 1 : 0)}
      </span>
      <span className="min-w-0 pt-3 text-[11px] leading-[13.5px] text-ink2 narrow max-[900px]:hidden">
        <b className="num block text-[11.5px] text-ink">{repeats ? `${figure(repeats.ms, 0)} ms` : '–'}</b>
        <span className="block truncate">{repeats ? repeats.note : 'no delay'}</span>
        {tap && <span className="block truncate">tap {tap.words}</span>}
      </span>
      <PartLine song={song} longest={longest} changes={changes} presets={presets} chosen={chosen ? part : null} {...hands} />
      <b className="num pt-5 text-right text-[17px] font-semibold" aria-label={`${presses} presses`}>
        {presses}
      </b>
    </div>
  )
}
