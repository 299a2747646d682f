// Installs, builds, loads the demo into its own data folder and serves it. `-- --fresh` starts the demo's data anew.
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuilt, ensureInstalled, root, start } from './lib/setup.mjs'

const data = process.env.FULGOR_DATA ?? join(root, 'data-demo')
ensureInstalled()
ensureBuilt()
if (process.argv.includes('--fresh')) rmSync(data, { recursive: true, force: true })
start('node', ['server/dist/main.js'], { NODE_ENV: 'production', FULGOR_DEMO: '1', FULGOR_DATA: data })
