import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { fileURLToPath } from 'node:url'
import { writeWav } from '@fulgor/core/formats'

/** Peak of the guitar that the browser's fake input plays, dBFS. */
export const GUITAR_PEAK_DBFS = -20

/** Two decaying strokes a second at 110 Hz as the file of Chromium's fake microphone. @returns its path */
export function writeFakeGuitar(): string {
  const path = fileURLToPath(new URL('../test-results/guitar.wav', import.meta.url))
  const rate = 48_000
  const peak = Math.pow(10, GUITAR_PEAK_DBFS / 20)
  const sound = Float32Array.from({ length: rate * 2 }, (_, n) => {
    const t = (n % (rate / 2)) / rate
    return peak * Math.exp(-4 * t) * Math.sin(2 * Math.PI * 110 * t + Math.PI / 2)
  })
  mkdirSync(dirname(path), { recursive: true })
  writeFileSync(path, writeWav([sound], rate, 16))
  return path
}
