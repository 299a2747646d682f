import type { Metre, Show, Song, SongPart } from './description'

/** s of one beat of the metre: tempo counts quarters (common practice, no source). */
export const beatS = (tempo: number, { unit }: Metre): number => (60 / tempo) * (4 / unit)

/** s that a count of beats or s lasts in a song; null for beats without a tempo. */
export function secondsOf({ counted, tempo, metre }: Song, count: number): number | null {
  if (counted === 'time') return count
  return tempo === null ? null : count * beatS(tempo, metre)
}

/** Where a song ends, in its own counting; 0 without parts. */
export const songEnd = ({ parts }: Song): number => Math.max(0, ...parts.map((p) => p.at + p.length))

/** s that a song lasts; null where it has no tempo. */
export const songSeconds = (song: Song): number | null => secondsOf(song, songEnd(song))

export const inOrder = (song: Song): readonly SongPart[] => [...song.parts].sort((a, b) => a.at - b.at)

/** Counts nearer than this are the same. */
const SAME = 1e-6

/** What is wrong with a song's parts: told, not refused. */
export function songProblems(song: Song): string[] {
  const parts = inOrder(song)
  const problems = parts.flatMap((part, i) => {
    const next = parts.at(i + 1)
    return next && next.at < part.at + part.length - SAME
      ? [`“${part.name}” still goes on where “${next.name}” begins; from there on ${next.name} counts.`]
      : []
  })
  if (song.tempo === null && song.counted === 'beats') problems.push('It has no tempo: how long it takes is not known.')
  if (parts.length === 0) problems.push('It has no parts yet.')
  return problems
}

/** “17.3”: bar and beat from 1, the beat with a decimal where it is none. */
export function barBeat({ beats }: Metre, at: number): string {
  const bar = Math.floor(at / beats + 1e-9)
  const beat = Math.round((at - bar * beats + 1) * 100) / 100
  return `${bar + 1}.${beat}`
}

/** “2:38”. */
export function clock(seconds: number): string {
  const whole = Math.round(seconds)
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60), whole % 60]
  const two = (n: number) => String(n).padStart(2, '0')
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`
}

/**
 * A place in a song as players write it. Counted by beats: “17” is bar 17, “17.3” its third beat, “+4” four bars from the start.
 * Counted by time: “1:30”, “90”, “90 s”.
 * @returns beats or s from the start, or null
 */
export function parsePlace({ counted, metre }: Pick<Song, 'counted' | 'metre'>, typed: string): number | null {
  const clean = typed.trim().toLowerCase().replace(',', '.')
  if (counted === 'time') return parseTime(clean)
  const found = /^(\d+)(?:\.(\d+(?:\.\d+)?))?$/.exec(clean.replace(/^bar /, ''))
  if (!found) return null
  const bar = Number(found[1])
  const beat = found[2] === undefined ? 1 : Number(found[2])
  if (bar < 1 || beat < 1 || beat >= metre.beats + 1) return null
  return (bar - 1) * metre.beats + beat - 1
}

/**
 * A length as players write it: “8” or “8 bars”, “6 beats”, “1:30” or “30 s”.
 * @returns beats or s, or null
 */
export function parseLength({ counted, metre }: Pick<Song, 'counted' | 'metre'>, typed: string): number | null {
  const clean = typed.trim().toLowerCase().replace(',', '.')
  if (counted === 'time') return above0(parseTime(clean))
  const found = /^(\d+(?:\.\d+)?) ?(bars?|beats?)?$/.exec(clean)
  if (!found) return null
  return above0(Number(found[1]) * (found[2]?.startsWith('beat') ? 1 : metre.beats))
}

function parseTime(clean: string): number | null {
  const found = /^(?:(\d+):([0-5]?\d(?:\.\d+)?)|(\d+(?:\.\d+)?) ?s?)$/.exec(clean)
  if (!found) return null
  return found[3] === undefined ? 60 * Number(found[1]) + Number(found[2]) : Number(found[3])
}

const above0 = (value: number | null): number | null => (value !== null && value > 0 ? value : null)

/** “8 bars”, “2 bars 3 beats”, “0:30”. */
export function lengthWords({ counted, metre }: Pick<Song, 'counted' | 'metre'>, length: number): string {
  if (counted === 'time') return clock(length)
  const bars = Math.floor(length / metre.beats + 1e-9)
  const beats = Math.round((length - bars * metre.beats) * 100) / 100
  const words = [
    ...(bars > 0 ? [`${bars} ${bars === 1 ? 'bar' : 'bars'}`] : []),
    ...(beats > 0 ? [`${beats} ${beats === 1 ? 'beat' : 'beats'}`] : []),
  ]
  return words.join(' ')
}

/** A song of a night with when it begins and ends, s from the start; null from where a song has no tempo. */
export interface Played {
  readonly song: Song
  readonly cue: string
  readonly gap: number
  readonly from: number | null
  readonly to: number | null
}

/** A night's songs in their order. @throws RangeError for an order that is not there */
export function playedSongs(show: Show, order: string): Played[] {
  const found = show.orders.find((o) => o.id === order)
  if (!found) throw new RangeError(`There is no running order “${order}”.`)
  let now: number | null = 0
  return found.items.flatMap(({ song: id, cue, gap }) => {
    const song = show.songs.find((s) => s.id === id)
    if (!song) return []
    const from: number | null = now === null ? null : now + gap
    const seconds = songSeconds(song)
    now = from === null || seconds === null ? null : from + seconds
    return [{ song, cue, gap, from, to: now }]
  })
}
