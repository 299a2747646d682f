import { mkdir } from 'node:fs/promises'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join, resolve } from 'node:path'
import { demoPresets, demoResponses } from '@fulgor/core/demo'
import { createApp } from './app'
import { AssetStore } from './assets/store'
import { readConfig, type Config } from './config'
import { Database } from './database/database'
import { createPreset, emptyBin, isUnused } from './presets/queries'
import { InspectPool } from './responses/inspectPool'
import { take } from './responses/take'

/** The repository: the working directory of every npm script, or what FULGOR_ROOT says. */
const root = resolve(process.env.FULGOR_ROOT ?? process.cwd())

async function start(): Promise<void> {
  const config = readConfig(process.env, root)
  await mkdir(config.data, { recursive: true })
  const database = await Database.open(config.databaseUrl, config.migrations, {
    authToken: config.databaseToken,
    maxPages: config.maxDatabasePages,
  })
  await emptyBin(database)
  setInterval(() => void emptyBin(database), 86_400_000).unref()
  const hosts = new Set(config.extraHosts)
  const assets = new AssetStore(join(config.data, 'assets'))
  if (config.demo && (await isUnused(database))) {
    for (const { id, preset } of [...demoPresets].reverse()) await createPreset(database, preset, id)
    await take(database, assets, new InspectPool(), [...demoResponses()])
  }
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
