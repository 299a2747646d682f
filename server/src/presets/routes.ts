import { Router } from 'express'
import type { Database } from '../database/database'
import { validated } from '../http/validate'
import { BesideDto, CreatePresetDto, ListPresetsDto, PresetIdDto, UpdatePresetDto, VersionDto } from './dto'
import {
  besidePreset,
  createPreset,
  deletePreset,
  getPreset,
  getVersion,
  listPresets,
  listVersions,
  restorePreset,
  updatePreset,
} from './queries'

export function presetRoutes(database: Database): Router {
  const router = Router()
  router.get('/', async (request, response) => {
    response.json(await listPresets(database, await validated(ListPresetsDto, { ...request.query })))
  })
  router.post('/', async (request, response) => {
    const { document } = await validated(CreatePresetDto, request.body)
    response.status(201).json(await createPreset(database, document))
  })
  router.get('/:id', async (request, response) => {
    const { id } = await validated(PresetIdDto, request.params)
    response.json(await getPreset(database, id))
  })
  router.put('/:id', async (request, response) => {
    const { id } = await validated(PresetIdDto, request.params)
    response.json(await updatePreset(database, id, await validated(UpdatePresetDto, request.body)))
  })
  router.delete('/:id', async (request, response) => {
    const { id } = await validated(PresetIdDto, request.params)
    await deletePreset(database, id)
    response.status(204).end()
  })
  router.post('/:id/restore', async (request, response) => {
    const { id } = await validated(PresetIdDto, request.params)
    response.json(await restorePreset(database, id))
  })
  router.get('/:id/beside', async (request, response) => {
    const { id, step } = await validated(BesideDto, { ...request.params, ...request.query })
    response.json(await besidePreset(database, id, step))
  })
  router.get('/:id/versions', async (request, response) => {
    const { id } = await validated(PresetIdDto, request.params)
    response.json(await listVersions(database, id))
  })
  router.get('/:id/versions/:number', async (request, response) => {
    const { id, number } = await validated(VersionDto, request.params)
    response.json(await getVersion(database, id, number))
  })
  return router
}
