import { spawnSync } from 'node:child_process'
import { resolve } from 'node:path'

const root = resolve(import.meta.dirname, '../..')

/** Runs the command line in a process of its own, as a player does; for tests. */
export function fulgor(...args: string[]) {
  const { status, stdout, stderr } = spawnSync('node', ['--import', 'tsx', 'cli/src/main.ts', ...args], {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, TSX_TSCONFIG_PATH: 'cli/tsconfig.json' },
  })
  return { status, stdout, stderr, json: () => JSON.parse(stdout) as Record<string, never> }
}
