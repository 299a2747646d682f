import type { Answer, Show, Song, SongPart } from './description'
import { inOrder } from './times'

/** Pure edits of a show: each gives a new one that shares what did not change. */

export const withSong = (show: Show, id: string, change: (song: Song) => Song): Show => ({
  ...show,
  songs: show.songs.map((s) => (s.id === id ? change(s) : s)),
})

export const withPart = (song: Song, id: string, change: (part: SongPart) => SongPart): Song => ({
  ...song,
  parts: song.parts.map((p) => (p.id === id ? change(p) : p)),
})

/** Takes a song out of the show and of every night. */
export const withoutSong = (show: Show, id: string): Show => ({
  ...show,
  songs: show.songs.filter((s) => s.id !== id),
  orders: show.orders.map((o) => ({ ...o, items: o.items.filter((i) => i.song !== id) })),
})

/** Moves one of a row to another place; places are held inside the row. */
export function moved<T>(row: readonly T[], from: number, to: number): readonly T[] {
  const rest = row.filter((_, i) => i !== from)
  const at = Math.max(0, Math.min(rest.length, to))
  return from in row ? [...rest.slice(0, at), row[from], ...rest.slice(at)] : row
}

/**
 * Moves where a part begins: the part before it, where it ends there, grows or shrinks with it.
 * @param at in the song's counting; held so that both keep at least `least`
 */
export function moveStart(song: Song, id: string, at: number, least: number): Song {
  const parts = inOrder(song)
  const k = parts.findIndex((p) => p.id === id)
  if (k < 0) return song
  const part = parts[k]
  const before = parts.at(k - 1)
  const joined = k > 0 && before && Math.abs(before.at + before.length - part.at) < 1e-6 ? before : null
  const from = joined ? joined.at + least : k > 0 && before ? before.at + before.length : 0
  const to = part.at + part.length - least
  const next = Math.max(from, Math.min(to, at))
  if (!(to >= from) || next === part.at) return song
  return withPart(joined ? withPart(song, joined.id, (p) => ({ ...p, length: next - p.at })) : song, id, (p) => ({
    ...p,
    at: next,
    length: p.at + p.length - next,
  }))
}

/** Gives a part another length; all that comes after it follows. */
export function resize(song: Song, id: string, length: number): Song {
  const part = song.parts.find((p) => p.id === id)
  if (!part || !(length > 0)) return song
  const by = length - part.length
  return {
    ...song,
    parts: song.parts.map((p) =>
      p.id === id ? { ...p, length } : p.at >= part.at + part.length - 1e-6 ? { ...p, at: Math.max(0, p.at + by) } : p,
    ),
  }
}

/** Takes a part out; what comes after it moves up. */
export function removePart(song: Song, id: string): Song {
  const part = song.parts.find((p) => p.id === id)
  if (!part) return song
  return {
    ...song,
    parts: song.parts.flatMap((p) => (p.id === id ? [] : [p.at >= part.at + part.length - 1e-6 ? { ...p, at: p.at - part.length } : p])),
  }
}

/** Swaps a part with its neighbour in time. @param by −1 or 1 */
export function stepPart(song: Song, id: string, by: -1 | 1): Song {
  const parts = inOrder(song)
  const k = parts.findIndex((p) => p.id === id)
  const [a, b] = by > 0 ? [parts.at(k), parts.at(k + 1)] : k > 0 ? [parts.at(k - 1), parts.at(k)] : [undefined, undefined]
  if (k < 0 || !a || !b) return song
  const swapped = withPart(song, b.id, (p) => ({ ...p, at: a.at }))
  return withPart(swapped, a.id, (p) => ({ ...p, at: a.at + (b.at + b.length - a.at) - p.length }))
}

/** Cuts a part in two at a place inside it. */
export function splitPart(song: Song, id: string, at: number, newId: string): Song {
  const part = song.parts.find((p) => p.id === id)
  if (!part || !(at > part.at && at < part.at + part.length)) return song
  const second: SongPart = { ...part, id: newId, at, length: part.at + part.length - at, moves: [] }
  return { ...song, parts: [...song.parts.map((p) => (p.id === id ? { ...p, length: at - p.at } : p)), second] }
}

/** Ids of presets that a show plays, in the order in which its songs first need them. */
export function presetsOf(show: Show): string[] {
  const sounds = [...show.songs.flatMap((s) => s.parts.map((p) => p.sound)), ...show.sounds.map((s) => s.answer)]
  return [...new Set(sounds.flatMap((s: Answer | null) => (s === null ? [] : [s.preset])))]
}

/** Ids of all things of the Kit and the shelf that a show names. */
export const showUses = (show: Show): string[] => [
  ...new Set(
    [show.device, ...show.songs.map((s) => s.guitar), ...show.sounds.flatMap((s) => [s.guitar?.kit ?? null, s.place, s.reference])].flatMap(
      (id) => (id === null ? [] : [id]),
    ),
  ),
]
