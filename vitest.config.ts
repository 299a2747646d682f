import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['core/src/**/*.test.ts', 'server/src/**/*.test.ts', 'cli/src/**/*.test.ts', 'web/src/**/*.test.ts'],
    pool: 'threads',
    isolate: false,
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
})
