import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { catalogue } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import { readWav, writeWav } from '@fulgor/core/formats'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { fulgor } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'fulgor-cli-rack-'))
const at = (name: string) => join(folder, name)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

writeFileSync(at('di.wav'), writeWav([synthesiseRiff('open-chords', 'hard', 92, 48_000).slice(0, 96_000)], 48_000, 24))
writeFileSync(at('wall.json'), JSON.stringify(demoPresets.find((d) => d.id === 'demo-tide-wall')?.preset))
const render = (...more: string[]) =>
  fulgor('render', '--preset', at('wall.json'), '--di', at('di.wav'), '--out', at('wall.wav'), '--json', ...more)

describe('command line with lanes', () => {
  it('renders them and tells the taps of stages, strips and sums in the order of the signal', () => {
    const { status, stdout } = render('--taps', '--quality', 'live')
    expect(status).toBe(0)
    const { taps } = JSON.parse(stdout) as { taps: { stage: string; rmsDbfs: number | null }[] }
    expect(taps.map((t) => t.stage)).toEqual([
      'gate',
      'boost',
      'chime',
      'cab1',
      'left',
      'crunch',
      'cab2',
      'right',
      'octave',
      'bass',
      'below',
      'amps',
      'eq',
      'dry',
      'plate1',
      'plate',
      'space',
      'out',
    ])
    // a hard-panned lane comes out of one side: 3 dB less over both
    const of = (stage: string) => taps.find((t) => t.stage === stage)?.rmsDbfs ?? 0
    expect(of('left')).toBeCloseTo(of('cab1') - 3 - 3.01, 0)
    const [left, right] = readWav(readFileSync(at('wall.wav'))).channels
    expect(left.some((x, n) => x !== right[n])).toBe(true)
  })

  it('renders finer on demand, nearly alike', () => {
    const lufs = (quality: string) => (JSON.parse(render('--quality', quality).stdout) as { integratedLufs: number }).integratedLufs
    expect(lufs('highest')).toBeCloseTo(lufs('live'), 0)
  })

  it('names an unknown quality', () => {
    const { status, stdout, stderr } = render('--quality', 'best')
    expect([status, stdout]).toEqual([2, ''])
    expect(stderr.trim()).toContain('--quality: “best” is none of live, high, highest')
  })

  it('lists the whole catalogue with parameters, for a person and as JSON', () => {
    const listed = JSON.parse(fulgor('catalogue', '--json').stdout) as { id: string }[]
    expect(listed.map((m) => m.id)).toEqual(catalogue.map((m) => m.id))
    const { stdout } = fulgor('catalogue')
    for (const model of catalogue) expect(stdout).toContain(model.name)
  })

  it('tells the response of the new linear stages', () => {
    writeFileSync(
      at('stages.json'),
      JSON.stringify([
        { model: 'eq.tilt', params: { tilt: 6 } },
        { model: 'utility.polarity', params: {} },
      ]),
    )
    const { db } = JSON.parse(fulgor('response', '--stages', at('stages.json'), '--points', '30', '--json').stdout) as { db: number[] }
    expect(db[0]).toBeCloseTo(-6, 0)
    expect(db.at(-1)).toBeCloseTo(6, 0)
  })
})
