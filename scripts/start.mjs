// Serves the player's own data.
import { ensureBuilt, ensureInstalled, start } from './lib/setup.mjs'

ensureInstalled()
ensureBuilt()
start('node', ['server/dist/main.js'], { NODE_ENV: process.env.NODE_ENV ?? 'production' })
