// What every script needs before it can work: packages, kernels, a current build.
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { writeNotices } from './notices.mjs'

export const root = join(dirname(fileURLToPath(import.meta.url)), '../..')

/** Runs a command to its end; a failure ends this script with the same status. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (error) throw error
  if (status !== 0) process.exit(status ?? 1)
}

/** Starts a command that goes on; it ends with this script. */
export function start(command, args, env = {}, options = {}) {
  const child = spawn(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env }, ...options })
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal))
  child.on('exit', (code, signal) => process.exit(signal ? 0 : (code ?? 1)))
  return child
}

const stamps = join(root, 'node_modules/.fulgor')
const stamped = (name, value) => existsSync(join(stamps, name)) && readFileSync(join(stamps, name), 'utf8') === value

function stamp(name, value) {
  mkdirSync(stamps, { recursive: true })
  writeFileSync(join(stamps, name), value)
}

/** Installs packages unless those of this lockfile are there. */
export function ensureInstalled() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex')
  if (stamped('lock', lock)) return
  console.log('Installing packages …')
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'])
  stamp('lock', lock)
}

function* files(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'test-results'].includes(entry.name)) continue
    const path = join(folder, entry.name)
    if (entry.isDirectory()) yield* files(path)
    else yield path
  }
}

/** Builds web and server unless the build is newer than every source. */
export function ensureBuilt() {
  const hash = createHash('sha256').update(readFileSync(join(root, 'package-lock.json')))
  for (const folder of ['core', 'server', 'web'])
    for (const path of [...files(join(root, folder))].sort())
      hash
        .update(path.slice(root.length))
        .update(String(statSync(path).size))
        .update(readFileSync(path))
  const sources = hash.digest('hex')
  if (stamped('build', sources) && existsSync(join(root, 'web/dist/index.html')) && existsSync(join(root, 'server/dist/main.js'))) return
  // made anew by the new build
  rmSync(join(root, 'server/dist/demo-mix.json'), { force: true })
  console.log('Building …')
  const env = { ...process.env, NODE_ENV: 'production' }
  run('node', ['scripts/build-kernel.mjs'])
  run('npx', ['vite', 'build', 'web', '--logLevel', 'warn'], { env })
  run('npx', ['vite', 'build', 'server', '--logLevel', 'warn'], { env })
  writeNotices(root, join(root, 'web/dist/third-party.txt'))
  stamp('build', sources)
}
