// Changes one thing at a time and runs the tests that stand for it: `npm run mutate [WORD]` prints which change no test noticed.
import { spawnSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ensureInstalled, root } from './lib/setup.mjs'
import { MUTATIONS } from './mutations/list.mjs'

ensureInstalled()
const wanted = process.argv[2] ?? ''
const chosen = MUTATIONS.filter((mutation) => mutation.join(' ').includes(wanted))
const dirty = spawnSync('git', ['diff', '--name-only'], { cwd: root, encoding: 'utf8' }).stdout.split('\n')
const survived = []
for (const [name, file, from, to, tests] of chosen) {
  if (dirty.includes(file)) throw new Error(`${file} has changes that are not committed; the run writes into it.`)
  const path = join(root, file)
  const text = readFileSync(path, 'utf8')
  if (text.split(from).length !== 2) throw new Error(`${name}: “${from}” must stand in ${file} just once.`)
  // kernels are built before the tests see them
  const write = (source) => {
    writeFileSync(path, source)
    if (file.startsWith('core/kernel/')) spawnSync('node', ['scripts/build-kernel.mjs'], { cwd: root })
  }
  const restore = () => write(text)
  const stopped = () => {
    restore()
    process.exit(130)
  }
  process.once('SIGINT', stopped)
  process.once('SIGTERM', stopped)
  try {
    write(text.replace(from, () => to))
    const { status } = spawnSync('npx', ['vitest', 'run', '--bail', '1', '--reporter', 'dot', ...tests.split(' ')], {
      cwd: root,
      timeout: 300_000,
    })
    if (status === 0) survived.push(name)
    console.log(`${status === 0 ? 'SURVIVED' : 'noticed '}  ${name}`)
  } finally {
    restore()
    process.off('SIGINT', stopped)
    process.off('SIGTERM', stopped)
  }
}
console.log(`\n${chosen.length - survived.length} of ${chosen.length} noticed`)
process.exit(survived.length > 0 ? 1 : 0)
