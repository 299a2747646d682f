import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { readdirSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { defineConfig, type Plugin } from 'vite'
import { subsetFonts } from './fonts'

/** Lists the built files for the keeper, which holds them for days without the server. */
const listFiles = (): Plugin => ({
  name: 'list-files',
  writeBundle({ dir = '' }) {
    const files = readdirSync(join(dir, 'assets')).filter((file) => !file.startsWith('bench-'))
    writeFileSync(join(dir, 'files.json'), JSON.stringify(['/icon.svg', ...files.map((file) => `/assets/${file}`)]))
  },
})

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwindcss(), subsetFonts(), listFiles()],
  // what the PDF writer could draw besides is never asked for: it is not shipped
  resolve: {
    alias: Object.fromEntries(
      ['html2canvas', 'canvg', 'dompurify'].map((name) => [name, resolve(import.meta.dirname, 'src/ui/nothing.ts')]),
    ),
  },
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    assetsInlineLimit: 0,
    rolldownOptions: {
      input: {
        main: resolve(import.meta.dirname, 'index.html'),
        bench: resolve(import.meta.dirname, 'bench.html'),
        keeper: resolve(import.meta.dirname, 'src/offline/keeper.sw.ts'),
      },
      // its address is what it may answer for
      output: { entryFileNames: ({ name }) => (name === 'keeper' ? 'keeper.js' : 'assets/[name]-[hash].js') },
    },
  },
  server: {
    headers: { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' },
    proxy: { '/api': { target: process.env.FULGOR_API ?? 'http://127.0.0.1:4860', changeOrigin: false } },
  },
})
