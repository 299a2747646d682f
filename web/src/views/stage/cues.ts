import { pressWords } from '@fulgor/core/sheets'
import type { Plan, ShownPreset } from '@fulgor/core/plan'
import { findSnapshot, partName, type Preset } from '@fulgor/core/preset'
import { inOrder, lengthWords, playedSongs, type Metre, type Move, type Show } from '@fulgor/core/show'

/** One moment of the night, as the stage view shows it. */
export interface Cue {
  readonly cue: string
  readonly song: string
  /** It is the first of its song. */
  readonly first: boolean
  readonly part: string
  readonly sung: boolean
  readonly number: string
  readonly name: string
  /** “+ Mid-hump drive”. */
  readonly stages: string
  readonly preset: string
  readonly snapshot: string
  /** What the foot does to get here; empty: nothing. */
  readonly press: string
  readonly tempo: number | null
  readonly metre: Metre
  /** Bars of the part; null where it is counted by time. */
  readonly bars: number | null
  readonly about: string
  readonly pedals: readonly { readonly control: string; readonly name: string; readonly words: string }[]
}

const pedalOf = (preset: Preset | undefined, move: Move, length: string) => {
  if (move.do !== 'pedal') return []
  const name = preset?.controls?.find((c) => c.id === move.control)?.name ?? 'Pedal'
  return [{ control: move.control, name, words: `${move.to >= move.from ? 'heel to toe' : 'toe to heel'} over ${length}` }]
}

/** All cues of a night: every part in which something sounds. */
export function cuesOf(show: Show, order: string, plan: Plan, presets: readonly ShownPreset[]): Cue[] {
  return playedSongs(show, order).flatMap(({ song, cue }, item) =>
    inOrder(song).flatMap((part, k): Cue[] => {
      const shown = presets.find((p) => p.id === part.sound?.preset)
      const preset = shown?.preset
      const snapshot = preset && part.sound ? findSnapshot(preset, part.sound.snapshot) : undefined
      const changes = plan.changes.filter((c) => c.change.item === item && c.change.part.id === part.id)
      const stages = part.moves.flatMap((m) =>
        m.do === 'stage' && m.at === 0 ? [`${m.on ? '+' : '−'} ${preset ? partName(preset, m.stage) : m.stage}`] : [],
      )
      return [
        {
          cue,
          song: song.name,
          first: k === 0,
          part: part.name,
          sung: part.sung,
          number: preset && snapshot ? String(preset.snapshots.indexOf(snapshot) + 1) : '–',
          name: snapshot?.name ?? (part.sound ? 'gone' : 'nothing'),
          stages: stages.join(' '),
          preset: part.sound?.preset ?? '',
          snapshot: part.sound?.snapshot ?? '',
          press: changes.map(pressWords).filter(Boolean).join(', '),
          tempo: song.tempo,
          metre: song.metre,
          bars: song.counted === 'beats' ? part.length / song.metre.beats : null,
          about: lengthWords(song, part.length),
          pedals: part.moves.flatMap((m) => pedalOf(preset, m, m.do === 'pedal' ? lengthWords(song, m.length) : '')),
        },
      ]
    }),
  )
}
