import { index, integer, primaryKey, real, sqliteTable, text } from 'drizzle-orm/sqlite-core'

/** Presets as whole documents; what lists and searches need stands in columns of its own. */
export const presets = sqliteTable(
  'presets',
  {
    id: text('id').primaryKey(),
    name: text('name').notNull(),
    tags: text('tags', { mode: 'json' }).$type<readonly string[]>().notNull(),
    /** Lower-case name, tags and notes. */
    searchText: text('search_text').notNull(),
    tempo: real('tempo').notNull(),
    stageCount: integer('stage_count').notNull(),
    snapshotCount: integer('snapshot_count').notNull(),
    document: text('document').notNull(),
    /** Counts up with every write; a write must name the one it builds on. */
    revision: integer('revision').notNull(),
    createdAt: integer('created_at').notNull(),
    updatedAt: integer('updated_at').notNull(),
    deletedAt: integer('deleted_at'),
  },
  (t) => [index('presets_updated').on(t.deletedAt, t.updatedAt)],
)

export const versions = sqliteTable(
  'versions',
  {
    presetId: text('preset_id')
      .notNull()
      .references(() => presets.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    /** `saved` by the player, `auto` by the autosave. */
    kind: text('kind', { enum: ['saved', 'auto'] }).notNull(),
    note: text('note').notNull(),
    /** Which tab wrote it: one tab's autosaves never replace another's. */
    writer: text('writer').notNull(),
    document: text('document').notNull(),
    revision: integer('revision').notNull(),
    createdAt: integer('created_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.presetId, t.number] })],
)

/** The player's own dry riffs, and takes of a device, stored by the SHA-256 of their content. */
export const assets = sqliteTable('assets', {
  hash: text('hash').primaryKey(),
  name: text('name').notNull(),
  kind: text('kind', { enum: ['riff', 'take'] }).notNull(),
  bytes: integer('bytes').notNull(),
  sampleRate: integer('sample_rate').notNull(),
  channels: integer('channels').notNull(),
  frames: integer('frames').notNull(),
  createdAt: integer('created_at').notNull(),
})

/** The player's own impulse responses: what was read of each file, for lists and ranking. The files lie with the assets. */
export const responses = sqliteTable(
  'responses',
  {
    hash: text('hash').primaryKey(),
    name: text('name').notNull(),
    /** Folder that it came in. */
    path: text('path').notNull(),
    tags: text('tags', { mode: 'json' }).$type<readonly string[]>().notNull(),
    favourite: integer('favourite', { mode: 'boolean' }).notNull().default(false),
    bytes: integer('bytes').notNull(),
    sampleRate: integer('sample_rate').notNull(),
    channels: integer('channels').notNull(),
    bits: integer('bits').notNull(),
    frames: integer('frames').notNull(),
    durationS: real('duration_s').notNull(),
    peakDbfs: real('peak_dbfs').notNull(),
    dc: real('dc').notNull(),
    onsetSamples: integer('onset_samples').notNull(),
    polarity: text('polarity', { enum: ['positive', 'negative'] }).notNull(),
    lengthMs: real('length_ms').notNull(),
    clipped: integer('clipped').notNull(),
    loudnessDb: real('loudness_db').notNull(),
    centroidHz: real('centroid_hz').notNull(),
    bands: text('bands', { mode: 'json' }).$type<readonly number[]>().notNull(),
    fingerprint: text('fingerprint').notNull(),
    createdAt: integer('created_at').notNull(),
    deletedAt: integer('deleted_at'),
  },
  (t) => [index('responses_fingerprint').on(t.fingerprint), index('responses_listed').on(t.deletedAt, t.path, t.name)],
)
