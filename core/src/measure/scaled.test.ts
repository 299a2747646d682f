import { describe, expect, it } from 'vitest'
import { measuredOutput, outputMeasures, scaledBands, scaledOutput, thirdOctavesOf, type OutputMeasures } from '.'

const RATE = 48_000
let seed = 5
const noise = () => (seed = (seed * 16_807) % 2_147_483_647) / 1_073_741_823.5 - 1
/** Loud, then 60 dB softer: what a gain moves over the absolute gate changes the loudness by more than the gain. */
const signal = [0, 1].map(() => Float32Array.from({ length: 6 * RATE }, (_, n) => 0.4 * noise() * (n < 3 * RATE ? 1 : 1e-3)))

const apart = (a: OutputMeasures, b: OutputMeasures): number => {
  const flat = ({ thirdOctave, ...levels }: OutputMeasures) => [...Object.values(levels), ...thirdOctave.map((band) => band.db)]
  const [one, two] = [flat(a), flat(b)]
  // silence in one is silence in the other
  one.forEach((x, k) => expect(x === null).toBe(two[k] === null))
  return Math.max(...one.map((x, k) => Math.abs((x ?? 0) - (two[k] ?? 0))))
}

describe('an output times a gain', () => {
  it.each([-50, -20, -6, 0, 3, 12])('measures as if it were measured anew, %s dB', (db) => {
    const gain = Math.pow(10, db / 20)
    const anew = outputMeasures(
      signal.map((x) => x.map((v) => v * gain)),
      RATE,
    )
    const thirdOctave = scaledBands(thirdOctavesOf(signal, RATE), gain)
    expect(apart({ ...scaledOutput(measuredOutput(signal, RATE), gain), thirdOctave }, anew)).toBeLessThan(0.001)
  })

  it('is silent where it would be', () => {
    const { rmsDbfs, integratedLufs, crestDb, centroidHz } = scaledOutput(measuredOutput(signal, RATE), 1e-9)
    expect([rmsDbfs, integratedLufs, crestDb, centroidHz]).toEqual([null, null, null, null])
    expect(scaledBands(thirdOctavesOf(signal, RATE), 1e-9).every((band) => band.db === null)).toBe(true)
  })
})
