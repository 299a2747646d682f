import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'

/**
 * Documents of every kind, whole; what lists and searches need stands in columns of its own. Triggers keep `document_tags`, their counts
 * and the index of `searchText` (table `document_texts`) by them: they stand in the migration.
 */
export const documents = sqliteTable(
  'documents',
  {
    key: integer('key').primaryKey({ autoIncrement: true }),
    kind: text('kind').notNull(),
    id: text('id').notNull(),
    name: text('name').notNull(),
    /** The name as it is sorted. */
    nameKey: text('name_key').notNull(),
    tags: text('tags', { mode: 'json' }).$type<readonly string[]>().notNull(),
    /** What a list tells of this kind besides. */
    listed: text('listed', { mode: 'json' }).$type<Readonly<Record<string, unknown>>>().notNull(),
    /** Counts up with every write; a write must name the one it builds on. */
    revision: integer('revision').notNull(),
    createdAt: integer('created_at').notNull(),
    updatedAt: integer('updated_at').notNull(),
    deletedAt: integer('deleted_at'),
    /** Lower-case name, tags and notes. */
    searchText: text('search_text').notNull(),
    /** Number of the version that is its text now: rows stay short, and lists quick. */
    latest: integer('latest').notNull(),
  },
  (t) => [
    uniqueIndex('documents_id').on(t.kind, t.id),
    index('documents_updated').on(t.kind, t.deletedAt, t.updatedAt, t.id),
    index('documents_name').on(t.kind, t.deletedAt, t.nameKey, t.id),
  ],
)

export const documentVersions = sqliteTable(
  'document_versions',
  {
    key: integer('key')
      .notNull()
      .references(() => documents.key, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    /** `saved` by the player, `auto` by the autosave. */
    kind: text('kind', { enum: ['saved', 'auto'] }).notNull(),
    note: text('note').notNull(),
    /** Which tab wrote it: one tab's autosaves never replace another's. */
    writer: text('writer').notNull(),
    revision: integer('revision').notNull(),
    createdAt: integer('created_at').notNull(),
    document: text('document').notNull(),
  },
  (t) => [primaryKey({ columns: [t.key, t.number] })],
)

/** Tags of what is on the shelf. */
export const documentTags = sqliteTable(
  'document_tags',
  {
    kind: text('kind').notNull(),
    tag: text('tag').notNull(),
    key: integer('key').notNull(),
  },
  (t) => [primaryKey({ columns: [t.kind, t.tag, t.key] }), index('document_tags_key').on(t.key)],
)

/** How many of a kind on the shelf have a tag. */
export const tagCounts = sqliteTable(
  'tag_counts',
  {
    kind: text('kind').notNull(),
    tag: text('tag').notNull(),
    count: integer('count').notNull(),
  },
  (t) => [primaryKey({ columns: [t.kind, t.tag] })],
)

/** What is done once in the life of a data folder. */
export const milestones = sqliteTable('milestones', { name: text('name').primaryKey(), at: integer('at').notNull() })

/** The player's own dry riffs, backings, and takes of a device, stored by the SHA-256 of their content. */
export const assets = sqliteTable('assets', {
  hash: text('hash').primaryKey(),
  name: text('name').notNull(),
  kind: text('kind', { enum: ['riff', 'take', 'backing', 'reference'] }).notNull(),
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
