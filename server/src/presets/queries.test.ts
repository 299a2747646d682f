import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { blankPreset } from '@fulgor/core/preset'
import { Database } from '../database/database'
import { ListPresetsDto } from './dto'
import { createPreset, deletePreset, emptyBin, listPresets } from './queries'

const DAY = 86_400_000

describe('the bin', () => {
  let folder: string
  let database: Database
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'fulgor-bin-'))
    database = await Database.open(`file:${join(folder, 'fulgor.db')}`, join(process.cwd(), 'server/drizzle'))
  })
  afterAll(async () => {
    await database.close()
    await rm(folder, { recursive: true, force: true })
  })

  it('keeps a preset for thirty days, with its versions, and not longer', async () => {
    await createPreset(database, blankPreset('Old'), 'old')
    await createPreset(database, blankPreset('Here'), 'here')
    await deletePreset(database, 'old')
    const there = async (deleted: 'true' | 'false') =>
      (await listPresets(database, Object.assign(new ListPresetsDto(), { deleted }))).presets.map((p) => p.id)
    await emptyBin(database, Date.now() + 29.9 * DAY)
    expect(await there('true')).toEqual(['old'])
    await emptyBin(database, Date.now() + 30.1 * DAY)
    expect(await there('true')).toEqual([])
    expect(await there('false')).toEqual(['here'])
    expect(await database.db.query.versions.findMany({ columns: { presetId: true } })).toEqual([{ presetId: 'here' }])
  })
})
