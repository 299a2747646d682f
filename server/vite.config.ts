import { defineConfig } from 'vite'

export default defineConfig({
  root: import.meta.dirname,
  build: {
    ssr: true,
    outDir: 'dist',
    target: 'node20',
    emptyOutDir: true,
    rollupOptions: { input: { main: 'src/main.ts', inspectWorker: 'src/responses/inspectWorker.ts' } },
  },
  ssr: { noExternal: [/^@fulgor\//] },
})
