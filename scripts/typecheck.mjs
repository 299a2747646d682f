import { run } from './lib/setup.mjs'

for (const project of ['core', 'server', 'cli', 'web', 'web/src/audio/worklet', 'web/src/offline', 'tsconfig.tests.json'])
  run('npx', ['tsc', '-p', project])
