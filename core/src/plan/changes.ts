import { inOrder, playedSongs, secondsOf, type Answer, type Move, type Show, type Song, type SongPart } from '@fulgor/core/show'

/** What is to sound: a snapshot, and stages that are not as it stores them. */
export interface Wanted extends Answer {
  /** Stages that the show switches by themselves since the snapshot was loaded, by id. */
  readonly on: Readonly<Record<string, boolean>>
}

/** A moment of a night at which the feet have something to do. */
export interface Change {
  /** Place in the running order. */
  readonly item: number
  readonly song: Song
  readonly part: SongPart
  /** In the song's own counting. */
  readonly at: number
  /** s from the start of the night; null where no tempo tells. */
  readonly atS: number | null
  readonly does: 'sound' | 'stage' | 'tap'
  readonly wanted: Wanted
  /** s since the change before; null: as long as one likes, or not known. */
  readonly windowS: number | null
  /** It is the first of its song. */
  readonly between: boolean
  /** Whether some of that time is not sung. */
  readonly quiet: boolean
  /** The moment lies inside a sung part: where a part begins there is a breath. */
  readonly sungOver: boolean
  /** ms of a beat of the metre there; null without a tempo. */
  readonly beatMs: number | null
  /** Sources that pedals are moved by at that moment, of the wanted preset. */
  readonly pedals: readonly string[]
}

interface Stretch {
  readonly item: number
  readonly from: number
  readonly to: number
  readonly sung: boolean
}

/** Parts as they count where they overlap: the later one from its start on. */
function effective(song: Song): { part: SongPart; from: number; to: number }[] {
  const parts = inOrder(song)
  return parts.flatMap((part, i) => {
    const end = part.at + part.length
    const next = parts.at(i + 1)
    const to = next ? Math.min(end, next.at) : end
    return to > part.at ? [{ part, from: part.at, to }] : []
  })
}

const between = (a: number, { at, length }: { at: number; length: number }): boolean => a >= at - 1e-9 && a <= at + length + 1e-9

/** Sources whose pedals move at a place of a part, from its start. */
export const movingAt = (part: SongPart, at: number): string[] => [
  ...new Set(part.moves.flatMap((m) => (m.do === 'pedal' && between(at, m) ? [m.control] : []))),
]

/**
 * Every change of a night in its order: sounds, single stages and taps. A part that plays nothing leaves what sounds as it is.
 * @throws RangeError for an order that is not there
 */
export function changesOf(show: Show, order: string): Change[] {
  const changes: Change[] = []
  let now: Wanted | null = null
  let lastS: number | null = null
  let stretches: Stretch[] = []
  playedSongs(show, order).forEach(({ song, from: songFrom }, item) => {
    // between two songs there is time, and nobody sings
    let first = true
    const beat = song.counted === 'beats' ? secondsOf(song, 1) : song.tempo === null ? null : 60 / song.tempo
    effective(song).forEach(({ part, from, to }) => {
      stretches.push({ item, from, to, sung: part.sung })
      const seconds = (at: number) => {
        const s = secondsOf(song, at)
        return s === null || songFrom === null ? null : songFrom + s
      }
      const add = (does: Change['does'], at: number, wanted: Wanted, sungOver: boolean, pedals: readonly string[]) => {
        const atS = seconds(at)
        const passed = stretches.filter((s) => s.item === item && s.from < at - 1e-9)
        const quiet: boolean = first || (passed.length === 0 ? !part.sung : passed.some((s) => !s.sung))
        changes.push({
          item,
          song,
          part,
          at,
          atS,
          does,
          wanted,
          windowS: first || atS === null || lastS === null ? null : atS - lastS,
          between: first,
          quiet,
          sungOver,
          beatMs: beat === null ? null : 1000 * beat,
          pedals,
        })
        lastS = atS
        first = false
        now = wanted
        // what lies behind is over; what is left of this part begins here
        stretches = [{ item, from: at, to, sung: part.sung }]
      }
      const { sound } = part
      const first0 = part.moves.flatMap((m) => (m.do === 'stage' && m.at === 0 ? [[m.stage, m.on] as const] : []))
      // a part says all that sounds from its start on: a sound of its own begins without what was switched before
      const wantedHere = sound ? { ...sound, on: Object.fromEntries(first0) } : null
      if (wantedHere && !(now && sameWanted(now, wantedHere))) {
        add('sound', from, wantedHere, false, movingAt(part, 0))
      }
      for (const move of [...part.moves].sort((a, b) => a.at - b.at)) {
        if (move.do === 'pedal' || !now || from + move.at > to) continue
        if (move.do === 'stage' && move.at === 0 && sound) continue
        const wanted: Wanted = move.do === 'stage' ? { ...now, on: { ...now.on, [move.stage]: move.on } } : now
        add(move.do === 'tap' ? 'tap' : 'stage', from + move.at, wanted, move.at > 0 && part.sung, movingAt(part, move.at))
      }
    })
  })
  return changes
}

function sameWanted(a: Wanted, b: Wanted): boolean {
  const stages = new Set([...Object.keys(a.on), ...Object.keys(b.on)])
  return a.preset === b.preset && a.snapshot === b.snapshot && [...stages].every((id) => a.on[id] === b.on[id])
}

/** Two pedals at once: both feet, and none is left for a switch. */
export function pedalClashes(part: SongPart): { at: number; controls: readonly string[] }[] {
  const pedals = part.moves.filter((m): m is Extract<Move, { do: 'pedal' }> => m.do === 'pedal')
  return pedals.flatMap((m) => {
    const controls = movingAt(part, m.at)
    return controls.length > 1 ? [{ at: m.at, controls }] : []
  })
}
