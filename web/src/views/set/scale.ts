import { songEnd, songSeconds, type Song } from '@fulgor/core/show'

/** Shortest part that a drag or a key leaves: a beat, or a second. */
export const LEAST = 1
/** bpm at which a song without a tempo is drawn. */
const DRAWN_AT = 120

/** s that a song takes up on the page. */
export function drawnSeconds(song: Song): number {
  return songSeconds(song) ?? songSeconds({ ...song, tempo: DRAWN_AT }) ?? 0
}

/** s of one count of the song as it is drawn. */
export function drawnUnit(song: Song): number {
  const end = songEnd(song)
  return end > 0 ? drawnSeconds(song) / end : 1
}

/** Marks of the axis, s: at most eight of them. */
export function ticks(longest: number): number[] {
  const step = [30, 60, 120, 300, 600, 1_200, 3_600].find((s) => longest / s <= 8) ?? 7_200
  return Array.from({ length: Math.floor(longest / step) + 1 }, (_, i) => i * step)
}
