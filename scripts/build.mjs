import { ensureBuilt, ensureInstalled } from './lib/setup.mjs'

ensureInstalled()
ensureBuilt()
