import { choice, flag, ID_SCHEMA, matching, number, optional, record, text, whole, type Field, type RecordOf } from '@fulgor/core/document'
import { PICKUPS, STRENGTHS, TUNINGS } from '@fulgor/core/riffs'

/** Takes of a shipped riff: the same notes, struck again. */
export const MAX_RIFF_TAKES = 4

const pickup = choice(PICKUPS.map((p) => p.id))

export const riffField = record({
  /** A shipped riff's id, or the content hash of the player's own file. */
  id: matching('^[a-z0-9-]{1,64}$', 'must name a riff.'),
  strength: choice(STRENGTHS),
  /** Of a shipped riff: another performance of the same notes, from 2 on. */
  take: optional(whole([1, MAX_RIFF_TAKES])),
  /** Of a shipped riff: the pickup that it is played on; the guitar's by itself. */
  pickup: optional(pickup),
  /** Of a shipped riff: how the guitar is tuned; to E by itself. */
  tuning: optional(choice(TUNINGS.map((t) => t.id))),
})

export type RiffChoice = RecordOf<typeof riffField.fields>

export const guitarField = record({
  name: text(80),
  /** Peak of a hard strum at the input, dBFS. */
  hardPeakDbfs: number([-60, 0], { about: 'Peak of a hard strum at the input.' }),
  /** What riffs are played on; the bridge humbucker by itself. */
  pickup: optional(pickup),
})

/** The guitar that a preset is made for: how hot its pickup is. */
export type GuitarProfile = RecordOf<typeof guitarField.fields>

const trimField: Field<string> = {
  read: (value, path, reading) => text(40).read(value, path, reading),
  schema: () => ({ ...ID_SCHEMA, description: 'Stage or lane that levelling turns; the last Output without it.' }),
}

export const levelFields = {
  /** LUFS that every snapshot is levelled to. */
  targetLufs: number([-60, 0], { about: 'Loudness that every snapshot is levelled to.' }),
  riff: riffField,
  guitar: guitarField,
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
