import { mkdir, readFile, rename, writeFile } from 'node:fs/promises'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join, resolve } from 'node:path'
import { demoBacking, demoDevices, demoGuitars, demoPlaces, demoPresets, demoReference, demoResponses, demoShows } from '@fulgor/core/demo'
import { createApp } from './app'
import { layBacking, layReference, tellOfRiffs } from './assets/recordings'
import { AssetStore } from './assets/store'
import { forgetRecordings, sweep } from './assets/sweep'
import { readConfig, type Config } from './config'
import { Database } from './database/database'
import { deviceKind, guitarKind, placeKind, presetKind, showKind } from '@fulgor/core/api'
import { DocumentStore, emptyBin } from './documents/store'
import { hasReached, reached } from './database/milestones'
import { InspectPool } from './responses/inspectPool'
import { take } from './responses/take'

/** The repository: the working directory of every npm script, or what FULGOR_ROOT says. */
const root = resolve(process.env.FULGOR_ROOT ?? process.cwd())

/** How often what was written is brought into the database file itself. */
const CHECKPOINT_MS = 60_000

async function start(): Promise<void> {
  const config = readConfig(process.env, root)
  await mkdir(config.data, { recursive: true })
  const database = await Database.open(config.databaseUrl, config.migrations, {
    authToken: config.databaseToken,
    maxPages: config.maxDatabasePages,
  })
  await emptyBin(database)
  // what fails today, with a full disk or a busy file, is done tomorrow
  setInterval(() => void emptyBin(database).catch(console.error), 86_400_000).unref()
  setInterval(() => void database.checkpoint(), CHECKPOINT_MS).unref()
  const hosts = new Set(config.extraHosts)
  const assets = new AssetStore(join(config.data, 'assets'))
  await forgetRecordings(database)
  await sweep(database, assets)
  await tellOfRiffs(database)
  if (config.demo) await loadDemo(database, assets)
  const app = createApp({ database, assets, hosts, web: config.web })
  const server = createServer(app)
  const port = await listen(server, config)
  for (const name of ['127.0.0.1', 'localhost', '[::1]', config.host]) hosts.add(`${name}:${port}`)
  const stop = () => {
    server.close(() => void database.close().then(() => process.exit(0)))
    server.closeIdleConnections()
    setTimeout(() => server.closeAllConnections(), 3_000).unref()
  }
  process.once('SIGINT', stop)
  process.once('SIGTERM', stop)
  console.log(`Fulgor is ready: http://${config.host === '0.0.0.0' ? 'localhost' : config.host}:${port}/`)
}

/** The demo's mix takes seconds to be made: it is kept beside the built server, where that may be written to. */
async function keptMix(): Promise<ReturnType<typeof demoReference>> {
  if (!import.meta.dirname.endsWith('dist')) return demoReference()
  const path = join(import.meta.dirname, 'demo-mix.json')
  const kept = await readFile(path, 'utf8').catch(() => null)
  if (kept !== null) {
    const { bytes, ...told } = JSON.parse(kept) as Omit<ReturnType<typeof demoReference>, 'bytes'> & { bytes: string }
    return { ...told, bytes: new Uint8Array(Buffer.from(bytes, 'base64')) }
  }
  const mix = demoReference()
  const draft = `${path}.${process.pid}`
  const text = JSON.stringify({ ...mix, bytes: Buffer.from(mix.bytes).toString('base64') })
  await writeFile(draft, text)
    .then(() => rename(draft, path))
    .catch(() => undefined)
  return mix
}

/** Puts the demo on a shelf that was never used. A start that was cut short is taken up where it ended. */
async function loadDemo(database: Database, assets: AssetStore): Promise<void> {
  if (await hasReached(database, 'demo')) return
  const presets = new DocumentStore(database, presetKind)
  if (!(await hasReached(database, 'demo begun'))) {
    if (!(await presets.isUnused())) return
    await reached(database, 'demo begun')
  }
  const reference = await layReference(database, assets, await keptMix())
  for (const { id, preset } of [...demoPresets].reverse())
    if (!(await presets.has(id))) await presets.create(id === 'demo-tide-lead' ? { ...preset, reference } : preset, id)
  const guitars = new DocumentStore(database, guitarKind)
  for (const { id, document } of [...demoGuitars].reverse()) if (!(await guitars.has(id))) await guitars.create(document, id)
  const devices = new DocumentStore(database, deviceKind)
  for (const { id, document } of demoDevices) if (!(await devices.has(id))) await devices.create(document, id)
  const places = new DocumentStore(database, placeKind)
  for (const { id, document } of demoPlaces(await layBacking(database, assets, demoBacking())).reverse())
    if (!(await places.has(id))) await places.create(document, id)
  const shows = new DocumentStore(database, showKind)
  for (const { id, document } of [...demoShows].reverse()) if (!(await shows.has(id))) await shows.create(document, id)
  await take(database, assets, new InspectPool(), [...demoResponses()])
  await reached(database, 'demo')
}

function listen(server: Server, config: Config): Promise<number> {
  return new Promise((done, fail) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE')
        fail(new Error(`Port ${config.port} on ${config.host} is in use; stop what runs there or set PORT to another one.`))
      else if (error.code === 'EACCES') fail(new Error(`Port ${config.port} may not be opened by this user; set PORT to one above 1023.`))
      else fail(error)
    })
    server.listen(config.port, config.host, () => done((server.address() as AddressInfo).port))
  })
}

start().catch((error: unknown) => {
  console.error(`Fulgor did not start: ${error instanceof Error ? error.message : String(error)}`)
  process.exit(1)
})
