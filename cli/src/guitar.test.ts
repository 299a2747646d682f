import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { writeWav } from '@fulgor/core/formats'
import { asDocument, GUITARS, strokesOn, voiceOf } from '@fulgor/core/guitar'
import { blankPreset } from '@fulgor/core/preset'
import { fulgor } from './testing'

const RATE = 48_000
const folder = mkdtempSync(join(tmpdir(), 'fulgor-cli-guitar-'))
const at = (name: string) => join(folder, name)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** Two seconds of rest with 50 Hz hum of 4e-4, then three strums each. */
function recording(): Float32Array {
  const x = Float32Array.from({ length: 12 * RATE }, (_, n) => 4e-4 * Math.sin((2 * Math.PI * 50 * n) / RATE) + 1e-5 * Math.sin(n * n))
  ;(['soft', 'normal', 'hard'] as const).forEach((strength, k) => {
    const strum = strokesOn(voiceOf(GUITARS[0], GUITARS[0].positions[0]), strength, RATE).subarray(0, RATE / 2)
    for (let i = 0; i < 3; i++) strum.forEach((v, n) => (x[Math.round((2.5 + 3 * k + i) * RATE) + n] += v))
  })
  return x
}
writeFileSync(at('di.wav'), writeWav([recording()], RATE, 24))
writeFileSync(at('stereo.wav'), writeWav([recording(), recording().reverse()], RATE, 24))
writeFileSync(at('preset.json'), JSON.stringify(blankPreset('x')))
writeFileSync(at('guitar.json'), JSON.stringify(asDocument({ ...GUITARS[3], name: 'Mine' })))

describe('guitar measure', () => {
  it('tells levels, hum, brightness and where strums are', () => {
    const { status, json } = fulgor('guitar', 'measure', at('di.wav'), '--json')
    expect(status).toBe(0)
    const m = json() as unknown as {
      mainsHz: number
      humDbfs: number
      hardPeakDbfs: number
      segments: { kind: string }[]
      warnings: string[]
    }
    // a sine of amplitude a has a²/2
    expect(Math.abs(m.humDbfs - 10 * Math.log10(8e-8))).toBeLessThan(0.5)
    expect(m.mainsHz).toBe(50)
    expect(Math.abs(m.hardPeakDbfs + 7)).toBeLessThan(1)
    expect(m.segments.filter((s) => s.kind === 'soft')).toHaveLength(3)
    expect(fulgor('guitar', 'measure', at('di.wav')).stdout).toContain('50 Hz mains')
  })

  it.each([
    [['guitar', 'measure', at('stereo.wav')], 'two different signals'],
    [['guitar', 'measure', at('none.wav')], 'there is no such file'],
    [['guitar', 'measure', at('di.wav'), '--channel', 'up'], '--channel: must be left or right'],
    [['guitar', 'measure', at('di.wav'), '--guitar', at('preset.json')], 'format'],
  ])('%s is refused with exit status 2', (args, says) => {
    const { status, stderr, stdout } = fulgor(...args)
    expect([status, stdout]).toEqual([2, ''])
    expect(stderr).toContain(says)
    expect(fulgor('guitar', 'measure', at('stereo.wav'), '--channel', 'left').status).toBe(0)
  })
})

describe('render on a guitar', () => {
  const render = (...more: string[]) =>
    fulgor('render', '--preset', at('preset.json'), '--out', at('out.wav'), '--quality', 'live', '--taps', '--json', ...more)
  interface Answer {
    taps: { stage: string; rmsDbfs: number; centroidHz: number }[]
  }
  it('softer and darker with the volume down, on a guitar of a document', () => {
    const full = render('--guitar', at('guitar.json'), '--position', '2').json() as unknown as Answer
    const down = render('--guitar', at('guitar.json'), '--position', 'bridge', '--volume', '7', '--tone', '10')
    expect(down.status).toBe(0)
    const [knobs] = (down.json() as unknown as Answer).taps
    expect([full.taps[0].stage, knobs.stage]).toEqual(['amp', '@guitar'])
    const plain = render('--guitar', at('guitar.json'), '--position', '2', '--volume', '10', '--tone', '9.9').json() as unknown as Answer
    expect(knobs.rmsDbfs).toBeLessThan(plain.taps[0].rmsDbfs - 8)
    expect(knobs.centroidHz).toBeLessThan(plain.taps[0].centroidHz)
  })

  it.each([
    [['--guitar', 'Nobody'], 'Nobody: there is no such file'],
    [['--position', '9'], '--position: “9” is none of “Hot humbucker”'],
    [['--volume', '11'], '--volume: must be a number from 0 to 10'],
  ])('%s is refused', (args, says) => {
    const { status, stderr } = render(...args)
    expect(status).toBe(2)
    expect(stderr).toContain(says)
  })
})
