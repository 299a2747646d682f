import { footWords } from '@fulgor/core/board'
import type { Plan, PlannedChange, ShownPreset } from '@fulgor/core/plan'
import { capacityOf, findSnapshot, partName, type DeviceCapacity } from '@fulgor/core/preset'
import {
  barBeat,
  clock,
  inOrder,
  lengthWords,
  playedSongs,
  songSeconds,
  type Move,
  type Show,
  type Song,
  type SongPart,
} from '@fulgor/core/show'

/** One line of a song on paper. */
export interface GigPart {
  /** What the foot does: “3”, “hold 4”, “8, 1”; empty: nothing. */
  readonly press: string
  readonly number: string
  readonly sound: string
  readonly part: string
  /** How long it is. */
  readonly bars: string
  readonly sung: boolean
  /** Pedals, taps, and what goes wrong. */
  readonly also: readonly string[]
}

export interface GigSong {
  readonly cue: string
  readonly name: string
  /** “96 bpm · 4/4 · E minor · 2:35”. */
  readonly about: string
  readonly guitar: string
  readonly parts: readonly GigPart[]
}

/** What stands on the sheet on the music stand. */
export interface GigSheet {
  readonly title: string
  readonly about: string
  readonly songs: readonly GigSong[]
}

/** What the sheets need to know of a night. */
export interface Night {
  readonly show: Show
  readonly order: string
  readonly plan: Plan
  readonly presets: readonly ShownPreset[]
  readonly capacity?: DeviceCapacity
  /** Names of guitars in the Kit, by id. */
  readonly guitars: Readonly<Record<string, string>>
}

const dayWords = (night: { day: string | null; time: string | null; venue: string }): string =>
  [night.day, night.time, night.venue].filter((w) => w !== null && w !== '').join(', ')

export const orderOf = ({ show, order }: Pick<Night, 'show' | 'order'>) => {
  const found = show.orders.find((o) => o.id === order)
  if (!found) throw new RangeError(`There is no running order “${order}”.`)
  return found
}

/** What the foot does, one after another: “3”, “hold 4”, “8, 1”. What was pressed before says on which bank or page it is. */
export const pressWords = ({ steps }: Pick<PlannedChange, 'steps'>): string => steps.map((s) => footWords(s.gesture, s.place)).join(', ')

export function songAbout(song: Song): string {
  const seconds = songSeconds(song)
  return [
    song.tempo === null ? '' : `${Math.round(10 * song.tempo) / 10} bpm`,
    `${song.metre.beats}/${song.metre.unit}`,
    song.key,
    song.tuning,
    seconds === null ? '' : clock(seconds),
  ]
    .filter((w) => w !== '')
    .join(' · ')
}

function moveWords(song: Song, move: Move, presets: readonly ShownPreset[], part: SongPart): string {
  const preset = presets.find((p) => p.id === part.sound?.preset)?.preset
  const when = move.at === 0 ? '' : ` after ${lengthWords(song, move.at)}`
  if (move.do === 'tap') return `tap${when}`
  if (move.do === 'stage') return `${preset ? partName(preset, move.stage) : 'stage'} ${move.on ? 'on' : 'off'}${when}`
  const name = preset?.controls?.find((c) => c.id === move.control)?.name ?? 'pedal'
  return `${name} ${move.to >= move.from ? 'heel to toe' : 'toe to heel'} over ${lengthWords(song, move.length)}${when}`
}

/** @throws RangeError for an order that is not there */
export function gigSheet(night: Night): GigSheet {
  const { show, order, plan, presets, guitars } = night
  const own = orderOf(night)
  const songs = playedSongs(show, order).map(({ song, cue }, item): GigSong => {
    const changes = plan.changes.filter((c) => c.change.item === item)
    return {
      cue,
      name: song.name,
      about: songAbout(song),
      guitar: song.guitar === null ? '' : (guitars[song.guitar] ?? ''),
      parts: inOrder(song).map((part) => {
        const here = changes.filter((c) => c.change.part.id === part.id)
        const shown = presets.find((p) => p.id === part.sound?.preset)
        const index = shown?.preset.snapshots.findIndex((s) => s.id === part.sound?.snapshot) ?? -1
        return {
          press: here.map(pressWords).filter(Boolean).join(', '),
          number: index < 0 ? '' : String(index + 1),
          sound: part.sound === null ? '' : (shown && findSnapshot(shown.preset, part.sound.snapshot)?.name) || 'gone',
          part: part.name,
          bars: lengthWords(song, part.length),
          sung: part.sung,
          also: [
            ...part.moves.map((m) => moveWords(song, m, presets, part)),
            ...here.flatMap((c) => c.troubles.filter((t) => t.kind === 'unreachable' || t.kind === 'gone').map((t) => `! ${t.words}`)),
          ],
        }
      }),
    }
  })
  return { title: `${show.name}, ${own.name}`, about: dayWords(own), songs }
}

/** The running order as a table, one row a part, with a head. */
export function gigRows(night: Night): string[][] {
  const head = ['cue', 'song', 'tempo', 'metre', 'key', 'part', 'from', 'length', 'sound', 'press', 'sung', 'also']
  const { show, order } = night
  const sheet = gigSheet(night)
  const rows = playedSongs(show, order).flatMap(({ song, cue }, i) =>
    inOrder(song).map((part, k) => {
      const line = sheet.songs[i].parts[k]
      return [
        cue,
        song.name,
        song.tempo === null ? '' : String(song.tempo),
        `${song.metre.beats}/${song.metre.unit}`,
        song.key,
        part.name,
        song.counted === 'beats' ? barBeat(song.metre, part.at) : clock(part.at),
        lengthWords(song, part.length),
        [line.number, line.sound].join(' ').trim(),
        line.press,
        part.sung ? 'yes' : '',
        line.also.join('; '),
      ]
    }),
  )
  return [head, ...rows]
}

/** A list with headings, for a sheet. */
export interface SheetList {
  readonly title: string
  readonly about: string
  readonly groups: readonly { readonly name: string; readonly lines: readonly string[] }[]
}

/** How loud the night leaves, as it was measured; null where it was not. */
export interface NightLevels {
  readonly softestLufs: number
  readonly loudestLufs: number
  readonly peakDbtp: number
}

/** What the sound engineer is handed. */
export function deskSheet(night: Night, levels: NightLevels | null): SheetList {
  const { show, presets, guitars } = night
  const own = orderOf(night)
  const used = [...new Set(playedSongs(show, night.order).flatMap(({ song }) => (song.guitar === null ? [] : [song.guitar])))]
  const { outputs, inEar, notes } = show.desk
  const one = (db: number) => db.toFixed(1).replace('-', '−')
  return {
    title: `${show.name}, ${own.name}: for the sound engineer`,
    about: dayWords(own),
    groups: [
      {
        name: 'Outputs',
        lines: [
          outputs === 'mono' ? 'One line, mono' : 'Two lines, left and right',
          ...(levels
            ? [
                `Sounds from ${one(levels.softestLufs)} to ${one(levels.loudestLufs)} LUFS, as rendered on the dry riffs`,
                `Peak ${one(levels.peakDbtp)} dBTP at the device’s output at full scale: leave headroom above it`,
              ]
            : ['Level: not measured yet']),
          `${presets.length} ${presets.length === 1 ? 'preset' : 'presets'}; gain changes between sounds come from the player: please do not ride them`,
          ...(notes === '' ? [] : notes.split('\n')),
        ],
      },
      { name: 'Guitars', lines: used.map((id) => guitars[id] ?? 'a guitar') },
      { name: 'In the ears', lines: inEar === '' ? ['nothing wished'] : inEar.split('\n') },
      {
        name: 'Mains and lines',
        lines: [
          'Balanced line or DI box; phantom power off on this line unless the box needs it.',
          'Hum: lift the signal’s ground at the DI box, never the protective earth of a mains plug.',
          'Same mains circuit for the rack and the stage where the venue allows it; a residual-current device in the supply.',
          'The venue’s rules, local codes and its licensed technician come first.',
        ],
      },
    ],
  }
}

/** What is looked at before it begins: the player’s own, then what Fulgor asks. */
export function checkList(night: Night): SheetList {
  const { show, presets, capacity } = night
  const own = orderOf(night)
  const pedals = capacity?.pedals ?? Math.max(0, ...presets.map((p) => capacityOf(p.preset.device).pedals))
  const device = presets.at(0)?.preset.device?.name ?? 'the device'
  return {
    title: `${show.name}, ${own.name}: before it begins`,
    about: dayWords(own),
    groups: [
      { name: 'Own', lines: show.checks.map((c) => c.words) },
      {
        name: 'Device',
        lines: [
          `${device}: ${presets.map((p) => p.preset.name).join(', ')} loaded, saved and in this order`,
          'Firmware as at the rehearsal; no update on the day',
          'Input gain as it was measured; the guitar’s volume fully up while it is checked',
          'Output type: line or instrument, as the desk expects it',
          'Cabinet on for the house, off only where a real one stands',
          'Global EQ flat, or as it was written down here',
          'Tempo and tap: the first song’s',
        ],
      },
      {
        name: 'Cables and feet',
        lines: [
          'Guitar cable and a spare one, line to the desk, power',
          `${pedals} ${pedals === 1 ? 'pedal' : 'pedals'} plugged in, calibrated heel and toe`,
          'Switches show what the sheet says',
          'Stage view opened once, so that it works without the net',
        ],
      },
    ],
  }
}
