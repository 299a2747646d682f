import { join, resolve } from 'node:path'

/** Settings from the environment, each with a default that suits one player on one machine. */
export interface Config {
  readonly host: string
  readonly port: number
  readonly data: string
  readonly databaseUrl: string
  readonly databaseToken: string | undefined
  readonly migrations: string
  readonly web: string | undefined
  readonly demo: boolean
  readonly extraHosts: readonly string[]
  readonly maxDatabasePages: number | undefined
}

/** @throws Error with one sentence when a variable makes no sense */
export function readConfig(env: NodeJS.ProcessEnv, root: string): Config {
  const port = env.PORT === undefined ? 4860 : Number(env.PORT)
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Error(`PORT must be a whole number from 0 to 65535, not “${env.PORT}”.`)
  const data = resolve(env.FULGOR_DATA ?? join(root, 'data'))
  return {
    host: env.HOST ?? '127.0.0.1',
    port,
    data,
    databaseUrl: env.FULGOR_DATABASE_URL ?? `file:${join(data, 'fulgor.sqlite')}`,
    databaseToken: env.FULGOR_DATABASE_TOKEN,
    migrations: join(root, 'server/drizzle'),
    web: env.FULGOR_WEB === 'off' ? undefined : join(root, 'web/dist'),
    demo: env.FULGOR_DEMO === '1',
    extraHosts: (env.FULGOR_HOSTS ?? '').split(',').filter(Boolean),
    maxDatabasePages: env.FULGOR_MAX_DATABASE_PAGES ? Number(env.FULGOR_MAX_DATABASE_PAGES) : undefined,
  }
}
