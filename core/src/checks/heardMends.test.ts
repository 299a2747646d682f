import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { applyEdit, type Preset } from '@fulgor/core/preset'
import { readingSignals, readSnapshot, type Reading } from '@fulgor/core/reading'
import { Renderer } from '@fulgor/core/render'
import { pickupOf, playRiff, noiseOf } from '@fulgor/core/riffs'
import { checkPreset, checkSound, overCeiling, sparing, type Finding } from '.'
import { randomPreset } from './testing'

const RATE = 48_000
/** Of {@link randomPreset}; a whole run takes 200, some minutes. */
const PRESETS = Number(process.env.FULGOR_HEARD_MENDS ?? 6)

const renderer = new Renderer({ quality: 'live', responses: responseLibrary(RATE) })
const pickup = pickupOf('bridge')
const dry = (strength: 'soft' | 'normal' | 'hard') => ({
  key: strength,
  samples: playRiff('open-chords', RATE, { strength, bpm: 120 }).slice(0, 1.5 * RATE),
})
const signals = readingSignals(dry('normal'), { soft: dry('soft'), hard: dry('hard') }, { pickup, noise: noiseOf(pickup) }, RATE)
let made = 0
const newId = () => `new${++made}`

function read(preset: Preset): Finding[] {
  const readings: Record<string, Reading> = {}
  for (const { id } of preset.snapshots) {
    const reading = readSnapshot({ preset, snapshot: id, ...signals, sampleRate: RATE }, (of, snapshot, from) =>
      renderer.render({ preset: of, snapshot, dryKey: from.key, dry: from.samples, sampleRate: RATE }),
    )
    let next = reading.next()
    while (!next.done) next = reading.next()
    readings[id] = next.value
  }
  const peaks = Object.fromEntries(Object.entries(readings).map(([id, r]) => [id, r.output.truePeakDbtp]))
  return [...overCeiling(preset, peaks), ...checkSound({ preset, readings }, newId), ...checkPreset(preset, newId)]
}

const wrong = (findings: readonly Finding[]) => new Set(findings.filter((f) => f.severity === 'warning').map((f) => f.rule))

describe('mends of what is heard', () => {
  it(`of ${PRESETS} presets at random, rendered anew: none makes something else go wrong`, { timeout: PRESETS * 60_000 }, () => {
    const raised: string[] = []
    let tried = 0
    for (let number = 0; number < PRESETS; number++) {
      const preset = randomPreset(number)
      const found = read(preset)
      const before = wrong(found)
      const byValues = new Set(checkPreset(preset, newId).map((f) => f.rule))
      for (const { rule, mends } of sparing(preset, found, newId)) {
        if (byValues.has(rule)) continue
        for (const { label, edits } of mends) {
          tried++
          const after = read(applyEdit(preset, { type: 'all', edits }))
          for (const other of wrong(after)) if (!before.has(other)) raised.push(`${preset.name}, ${rule}, ${label}: ${other}`)
        }
      }
    }
    expect(raised).toEqual([])
    expect(tried).toBeGreaterThan(PRESETS / 2)
  })
})
