import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useEffect, useMemo, useRef, type KeyboardEvent } from 'react'
import { Link, useSearchParams } from 'react-router'
import {
  blankSong,
  clock,
  inOrder,
  MAX_PARTS,
  MAX_SONGS,
  moved,
  moveStart,
  nextPart,
  playedSongs,
  removePart,
  songFields,
  withoutSong,
  withPart,
  withSong,
  type OrderItem,
  type RunningOrder,
  type Show,
  type Song,
  type SongPart,
} from '@fulgor/core/show'
import type { DeviceCapacity } from '@fulgor/core/preset'
import type { ShownPreset } from '@fulgor/core/plan'
import { useDeviceQuery } from '../../api/api'
import { newId } from '../../state/ids'
import type { KitDocument } from '../../state/useKitDocument'
import { renderers } from '../../threads/crews'
import { useWish } from '../../background/useWish'
import { ShowHead } from '../../show/ShowHead'
import { ShowPage } from '../../show/ShowPage'
import { useShownPresets } from '../../show/useShownPresets'
import { Segments } from '../../ui/Segments'
import { TextField } from '../../ui/TextField'
import { LayoutPanel } from './LayoutPanel'
import { LevelsPanel } from './LevelsPanel'
import { NightPanel } from './NightPanel'
import { OrderPick } from './OrderPick'
import { PapersPanel } from './PapersPanel'
import { bySong } from './planned'
import { drawnSeconds, LEAST, ticks } from './scale'
import { ROW, SongRow, type RowHands } from './SongRow'
import { SongPanel } from './SongPanel'
import { UsagePanel } from './UsagePanel'

/** The songs of a night, what the feet do in them, and what would make it less. */
export function SetView() {
  return (
    <ShowPage name="Set" to="/set" empty="No show yet: the songs of a night, what sounds in them and what your feet do, on one page.">
      {(id, show, editing) => <Plan id={id} show={show} editing={editing} />}
    </ShowPage>
  )
}

const PANELS = ['presses', 'song', 'night', 'levels', 'usage', 'papers'] as const
type Panel = (typeof PANELS)[number]
// the same objects each time: others would draw every row anew
const BY_POINTER = { activationConstraint: { distance: 6 } }
const BY_KEYS = { keyboardCodes: { start: [], cancel: ['Escape'], end: [] } }

const PANEL_NAMES: Record<Panel, string> = {
  presses: 'Presses',
  song: 'Song',
  night: 'Night',
  levels: 'Levels',
  usage: 'Usage',
  papers: 'Papers',
}

function Plan({ id, show, editing }: { id: string; show: Show; editing: KitDocument<Show> }) {
  const { change } = editing
  const [params, setParams] = useSearchParams()
  const order = show.orders.find((o) => o.id === params.get('night')) ?? show.orders[0]
  const { presets, whole, refresh } = useShownPresets(show)
  const { data: device, isFetching } = useDeviceQuery(show.device ?? '', { skip: show.device === null })
  const capacity = show.device === null ? null : (device?.document.capacity ?? null)
  const ready = whole && !(show.device !== null && isFetching)
  // the lines go on saying what was known until there is something newer: else each edit would draw all of them twice
  const { answer: known, fresh } = useWish(
    renderers,
    [show, order.id, presets, capacity, ready],
    () => (ready ? planJob([show, order.id, presets, capacity]) : null),
    { hold: true },
  )
  const plan = fresh ? known : null
  const changes = useMemo(() => bySong(known), [known])
  const longest = useMemo(() => Math.max(60, ...order.items.map((i) => drawn(show, i))) * 1.02, [show, order.items])
  const places = useMemo(() => order.items.map((_, i) => String(i)), [order.items])
  const played = useMemo(() => playedSongs(show, order.id), [show, order.id])
  const panel: Panel = PANELS.find((p) => p === params.get('panel')) ?? 'presses'
  const at = Math.min(Number(params.get('at') ?? -1), order.items.length - 1)
  const part = params.get('part')
  const go = (next: Record<string, string | null>) =>
    setParams(
      (now) => {
        for (const [key, value] of Object.entries(next)) {
          if (value === null) now.delete(key)
          else now.set(key, value)
        }
        return now
      },
      { replace: true },
    )
  const choose = (item: number, of: string | null) => go({ at: String(item), part: of, panel: 'song' })
  const item = at >= 0 ? order.items.at(at) : undefined
  const song = item && show.songs.find((s) => s.id === item.song)
  const putOrder = (next: Partial<RunningOrder>) =>
    change({ ...show, orders: show.orders.map((o) => (o.id === order.id ? { ...o, ...next } : o)) })
  const putSong = (next: Song, key?: string) =>
    change(
      withSong(show, next.id, () => next),
      key === undefined ? undefined : `${next.id} ${key}`,
    )
  const step = (from: number, to: number) => {
    if (to < 0 || to >= order.items.length) return
    putOrder({ items: moved(order.items, from, to) })
    go({ at: String(to) })
    requestAnimationFrame(() => document.getElementById(`song-${to}`)?.focus())
  }
  const addSong = (name: string): string | null => {
    const known = show.songs.find((s) => s.name.toLowerCase() === name.toLowerCase())
    if (order.items.length >= MAX_SONGS || (!known && show.songs.length >= MAX_SONGS)) return `A show holds at most ${MAX_SONGS} songs.`
    const made = known ?? blankSong(newId(), name)
    const items = [...order.items, { song: made.id, cue: String(order.items.length + 1), gap: order.items.length === 0 ? 0 : 30 }]
    change({
      ...show,
      songs: known ? show.songs : [...show.songs, made],
      orders: show.orders.map((o) => (o.id === order.id ? { ...o, items } : o)),
    })
    go({ at: String(items.length - 1), part: null, panel: 'song' })
    return null
  }
  const onKey = (event: KeyboardEvent, index: number, of: Song, focused: SongPart | null) => {
    if (event.ctrlKey || event.metaKey) return
    const parts = inOrder(of)
    const k = focused ? parts.findIndex((p) => p.id === focused.id) : -1
    const focus = (what: string) => requestAnimationFrame(() => document.getElementById(what)?.focus())
    const to = (i: number) => {
      const next = parts.at(i)
      if (i < 0 || !next) return false
      choose(index, next.id)
      focus(`part-${next.id}`)
      return true
    }
    const bar = of.counted === 'beats' ? of.metre.beats : 5
    let done = true
    if (event.key === 'ArrowRight' && event.altKey && focused)
      putSong(moveStart(of, focused.id, focused.at + (event.shiftKey ? LEAST : bar), LEAST), `border ${focused.id}`)
    else if (event.key === 'ArrowLeft' && event.altKey && focused)
      putSong(moveStart(of, focused.id, focused.at - (event.shiftKey ? LEAST : bar), LEAST), `border ${focused.id}`)
    else if (event.key === 'ArrowRight') done = to(k + 1)
    else if (event.key === 'ArrowLeft') {
      if (k > 0) done = to(k - 1)
      else focus(`song-${index}`)
    } else if (event.key === 'ArrowDown' && event.altKey) step(index, index + 1)
    else if (event.key === 'ArrowUp' && event.altKey) step(index, index - 1)
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const other = index + (event.key === 'ArrowDown' ? 1 : -1)
      if (other < 0 || other >= order.items.length) done = false
      else {
        choose(other, null)
        focus(`song-${other}`)
      }
    } else if (event.key === 's' && focused) putSong(withPart(of, focused.id, (p) => ({ ...p, sung: !p.sung })))
    else if (event.key === 'n' && of.parts.length < MAX_PARTS) {
      const made = newId()
      putSong({ ...of, parts: [...of.parts, nextPart(of, made, `Part ${of.parts.length + 1}`)] })
      choose(index, made)
      focus(`part-${made}`)
    } else if (event.key === 'Delete' && focused) {
      putSong(removePart(of, focused.id))
      choose(index, null)
      focus(`song-${index}`)
    } else if (event.key === 'Escape') go({ at: null, part: null, panel: null })
    else done = false
    if (done) event.preventDefault()
  }
  // rows are drawn anew only where they have changed: what they call is the latest all the same
  const latest = useRef<RowHands>({ onChoose: choose, onSong: putSong, onKey })
  useEffect(() => {
    latest.current = { onChoose: choose, onSong: putSong, onKey }
  })
  const hands = useMemo<RowHands>(
    () => ({
      onChoose: (...told) => latest.current.onChoose(...told),
      onSong: (...told) => latest.current.onSong(...told),
      onKey: (...told) => latest.current.onKey(...told),
    }),
    [],
  )
  const sensors = useSensors(useSensor(PointerSensor, BY_POINTER), useSensor(KeyboardSensor, BY_KEYS))
  const total = played.at(-1)?.to ?? null
  const sounds = known?.changes.filter((c) => c.change.does !== 'tap').length ?? 0
  return (
    <div className="set grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)] max-[1000px]:block max-[1000px]:overflow-auto">
      <ShowHead
        id={id}
        to="/set"
        term="set"
        show={show}
        editing={editing}
        told={
          <span className="num">
            {order.items.length} songs{total === null ? '' : `, ${clock(total)}`}
          </span>
        }
      >
        <Link className="btn" to={`/stage/${id}?night=${order.id}`}>
          Open on stage
        </Link>
      </ShowHead>
      <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_312px] max-[1000px]:block">
        <main className="min-h-0 min-w-0 overflow-auto" data-planned={plan ? 'done' : 'working'}>
          <div className={`${ROW} sticky top-0 z-20 items-end border-b border-ink bg-paper px-3.5 pt-1.5 pb-1 text-[11px] text-ink3`}>
            <span>cue</span>
            <OrderPick show={show} order={order} onPick={(night) => go({ night, at: null, part: null })} />
            <span className="text-right max-[900px]:hidden">bpm</span>
            <span className="max-[900px]:hidden">delay, tap</span>
            <span className="num relative h-[14px] max-[900px]:invisible" aria-hidden="true">
              {ticks(longest).map((s) => (
                <span key={s} className={`absolute ${s === 0 ? '' : '-translate-x-1/2'}`} style={{ left: `${(100 * s) / longest}%` }}>
                  {clock(s)}
                </span>
              ))}
            </span>
            <span className="text-right">presses</span>
          </div>
          <DndContext
            sensors={sensors}
            collisionDetection={closestCenter}
            onDragEnd={({ active, over }) => {
              if (over && active.id !== over.id) step(Number(active.id), Number(over.id))
            }}
          >
            <SortableContext items={places} strategy={verticalListSortingStrategy}>
              {order.items.map((row, i) => {
                const of = show.songs.find((s) => s.id === row.song)
                return (
                  of && (
                    <SongRow
                      key={`${row.song} ${i}`}
                      index={i}
                      item={row}
                      song={of}
                      longest={longest}
                      feet={show.feet}
                      changes={changes.get(i) ?? NO_CHANGES}
                      presets={presets}
                      chosen={i === at}
                      part={i === at ? part : null}
                      {...hands}
                    />
                  )
                )
              })}
            </SortableContext>
          </DndContext>
          <div className="flex flex-wrap items-center gap-x-4 border-t border-ink px-3.5 py-2">
            <TextField
              label="Add a song by its name"
              value=""
              maxLength={songFields.name.most}
              className="field w-[220px]"
              onCommit={(text) => {
                return text.trim() === '' ? null : addSong(text.trim())
              }}
            />
            <span className="text-[11.5px] text-ink2">type a name and press Enter to add a song</span>
            <span className="ml-auto text-ink2">
              total over {sounds} changes <b className="num text-[22px] text-ink">{known?.presses ?? '–'}</b>
            </span>
          </div>
          <p className="flex flex-wrap gap-x-5 px-3.5 pb-3 text-[11px] text-ink2" aria-label="What the marks mean">
            <span>upright strokes: one a press</span>
            <span>heavier line: meant to be louder</span>
            <span>opening wedge: a pedal moves</span>
            <span>dotted: you sing</span>
            <span>ring: tap</span>
          </p>
        </main>
        <aside aria-label="Panel" className="flex min-h-0 flex-col border-l border-ink max-[1000px]:border-t max-[1000px]:border-l-0">
          <div className="overflow-x-auto border-b border-rule2 px-3.5">
            <Segments
              label="Panel"
              value={panel}
              options={PANELS.map((p) => [p, PANEL_NAMES[p]] as const)}
              onChange={(next) => go({ panel: next })}
            />
          </div>
          <div className="min-h-0 flex-1 overflow-auto px-3.5 py-2">
            {panel === 'presses' && (
              <LayoutPanel
                id={id}
                show={show}
                order={order.id}
                plan={plan}
                presets={presets}
                capacity={capacity}
                onShow={(next) => change(next)}
                onStored={refresh}
                onSong={(i) => choose(i, null)}
              />
            )}
            {panel === 'song' &&
              (song && item ? (
                <SongPanel
                  key={song.id}
                  song={song}
                  item={item}
                  part={part}
                  presets={presets}
                  changes={changes.get(at) ?? NO_CHANGES}
                  shared={show.orders.filter((o) => o.id !== order.id && o.items.some((i) => i.song === song.id)).length}
                  onPart={(p) => go({ part: p })}
                  onSong={putSong}
                  onItem={(next: OrderItem) => putOrder({ items: order.items.map((o, i) => (i === at ? next : o)) })}
                  onTakeOut={() => {
                    putOrder({ items: order.items.filter((_, i) => i !== at) })
                    go({ at: null, part: null })
                  }}
                  onDelete={() => {
                    change(withoutSong(show, song.id))
                    go({ at: null, part: null })
                  }}
                />
              ) : (
                <p className="text-ink2">Choose a song.</p>
              ))}
            {panel === 'night' && (
              <NightPanel show={show} order={order} onShow={change} onNight={(night) => go({ night, at: null, part: null })} />
            )}
            {panel === 'levels' && <LevelsPanel show={show} plan={plan} presets={presets} />}
            {panel === 'usage' && <UsagePanel plan={plan} presets={presets} capacity={capacity} />}
            {panel === 'papers' && (
              <PapersPanel id={id} show={show} order={order} plan={plan} presets={presets} capacity={capacity} onShow={change} />
            )}
          </div>
        </aside>
      </div>
    </div>
  )
}

type PlanArgs = [show: Show, order: string, presets: readonly ShownPreset[], capacity: DeviceCapacity | null]
const planJob = (args: PlanArgs) => ({ task: 'planNight', args, key: null, rank: 'now' }) as const

const NO_CHANGES = [] as const

function drawn(show: Show, item: OrderItem): number {
  const song = show.songs.find((s) => s.id === item.song)
  return song ? drawnSeconds(song) : 0
}
