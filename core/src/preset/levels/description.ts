import { choice, flag, ID_SCHEMA, matching, number, optional, record, text, whole, type Field, type RecordOf } from '@fulgor/core/document'
import { positionIndex } from '@fulgor/core/guitar'
import { partField } from '@fulgor/core/recording'
import { STRENGTHS, TUNINGS } from '@fulgor/core/riffs'

/** Takes of a shipped riff: the same notes, struck again. */
export const MAX_RIFF_TAKES = 4

const madeRecord = record({ guitar: text(40), position: positionIndex })

export const riffField = record({
  /** A shipped riff's id, or the content hash of the player's own file. */
  id: matching('^[a-z0-9-]{1,64}$', 'must name a riff.'),
  strength: choice(STRENGTHS),
  /** Of a shipped riff: another performance of the same notes, from 2 on. */
  take: optional(whole([1, MAX_RIFF_TAKES])),
  /** Of a shipped riff: a position of the guitar for itself. */
  position: optional(positionIndex),
  /** Of a shipped riff: another tuning than the guitar's. */
  tuning: optional(choice(TUNINGS.map((t) => t.id))),
  /** Of the player’s own recording: what of it is looped. */
  part: optional(partField),
  /** Of the player’s own recording: which of the preset's guitars it was recorded on. Without it, it is played as it is. */
  made: optional(madeRecord),
})

export type RiffChoice = RecordOf<typeof riffField.fields>

const trimField: Field<string> = {
  read: (value, path, reading) => text(40).read(value, path, reading),
  schema: () => ({ ...ID_SCHEMA, description: 'Stage or lane that levelling turns; the last Output without it.' }),
}

export const levelFields = {
  /** LUFS that every snapshot is levelled to. */
  targetLufs: number([-60, 0], { about: 'Loudness that every snapshot is levelled to.' }),
  riff: riffField,
  /** The stage or lane that levelling turns: an Output's or lane's level, an amp's master. By itself the last Output. */
  trim: optional(trimField),
}

/** What a snapshot is for. */
export const ROLES = ['rhythm', 'lead', 'clean', 'ambience', 'effect'] as const
export type Role = (typeof ROLES)[number]

/** What one snapshot says of its level. */
export const snapshotLevelFields = {
  role: optional(choice(ROLES)),
  /** LU above the preset's target; by itself what the role has. */
  offset: optional(number([-20, 20], { about: 'LU above the target; by itself 3 for a lead and 0 for the others.' })),
  /** What it is measured and heard on, instead of the preset's riff. */
  riff: optional(riffField),
  /** Levelling leaves it alone. */
  ignored: optional(flag({ about: 'Levelling leaves it alone.' })),
}
