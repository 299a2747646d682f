import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { modelOf } from '@fulgor/core/catalogue'
import { createStage } from '@fulgor/core/preset'
import { stageFeel } from '.'

const context = { quality: 'live' as const, responses: responseLibrary(48_000) }
const KNOBS = ['gain', 'sustain', 'fuzz', 'boost']

/** Rows of the table of gain laws in docs/feel.md: model, channel, knob, gain at −40 dBFS, edges at 1 and 10 % (null: none). */
function published() {
  const text = readFileSync(new URL('../../../docs/feel.md', import.meta.url), 'utf8')
  let name = ''
  return text.split('\n').flatMap((line) => {
    const match = /^((?:amp|drive)\.[\w-]+(?: \w+)?)?\s+(\d+)\s+(−?[\d.]+)\s+(−?\d+|–)\s+(−?\d+|–)\s/.exec(line)
    if (!match) return []
    name = match[1] ?? name
    const number = (figure: string) => (figure === '–' ? null : Number(figure.replace('−', '-')))
    const [model, channel] = name.split(' ')
    return [{ name, model, channel, knob: Number(match[2]), gain: number(match[3]), one: number(match[4]), ten: number(match[5]) }]
  })
}

describe('the table of gain laws in docs/feel.md', () => {
  const rows = published()

  it('holds all amps, channels and drives at six marks', () => {
    expect(rows).toHaveLength(6 * 20)
  })

  it.each(rows.filter((r) => r.knob === 4 || r.knob === 8).map((r) => [r.name, r.knob, r] as const))(
    '%s at %s is as published',
    (_, knob, row) => {
      const key = KNOBS.find((k) => k in modelOf(row.model).params) ?? 'gain'
      const feel = stageFeel(
        createStage('a', row.model, { ...(row.channel ? { channel: row.channel } : {}), [key]: knob }),
        context,
        48_000,
      )
      const gain = feel.outputDb[feel.inputDb.findIndex((x) => x >= -39)] + 39 + 3.01
      expect(gain).toBeCloseTo(row.gain ?? NaN, 0)
      for (const [edge, want] of [
        [feel.edges[0].inputDb, row.one],
        [feel.edges[2].inputDb, row.ten],
      ] as const) {
        if (want === null) expect(edge).toBeNull()
        else expect(Math.abs((edge ?? NaN) - want)).toBeLessThan(1)
      }
    },
  )
})
