// Server by tsx with restart on change, page by Vite with hot reload and the API behind it.
import { ensureInstalled, root, run, start } from './lib/setup.mjs'
import { join } from 'node:path'

ensureInstalled()
run('node', ['scripts/build-kernel.mjs'])
const api = process.env.PORT ?? '4860'
const page = process.env.FULGOR_DEV_PORT ?? '5173'
start('npx', ['tsx', 'watch', '--tsconfig', 'server/tsconfig.json', 'server/src/main.ts'], {
  NODE_ENV: 'development',
  PORT: api,
  FULGOR_WEB: 'off',
  FULGOR_DEMO: '1',
  FULGOR_DATA: process.env.FULGOR_DATA ?? join(root, 'data-demo'),
  FULGOR_HOSTS: `localhost:${page},127.0.0.1:${page}`,
})
start('npx', ['vite', 'web', '--port', page, '--strictPort'], { FULGOR_API: `http://127.0.0.1:${api}` })
