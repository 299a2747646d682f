import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { readWav } from '@fulgor/core/formats'
import { fulgor } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'fulgor-cli-feel-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

function expectRefused({ status, stderr }: ReturnType<typeof fulgor>, reason: string): void {
  expect(status).toBe(2)
  expect(stderr).toContain(reason)
}

describe('riff', () => {
  it('lists what there is and writes what is asked for', () => {
    const lists = JSON.parse(fulgor('riff', '--list', '--json').stdout) as { riffs: { id: string }[]; tunings: { id: string }[] }
    expect(lists.riffs.length).toBeGreaterThanOrEqual(8)
    expect(lists.tunings.map((t) => t.id)).toContain('drop-a')
    const out = join(folder, 'f.wav')
    expect(fulgor('riff', 'funk', '--strength', 'normal', '--pickup', 'neck', '--bpm', '120', '--out', out).status).toBe(0)
    const { channels, sampleRate } = readWav(readFileSync(out))
    // 16 beats at 120 bpm
    expect(channels[0].length / sampleRate).toBeCloseTo(8, 3)
  })

  it('names what is wrong, with status 2', () => {
    expectRefused(fulgor('riff', 'nothing', '--out', 'x.wav'), 'there is no “nothing”')
    expectRefused(fulgor('riff', 'funk'), '--out')
  })
})

describe('feel', () => {
  it('tells edges, curves and dynamics, and that more gain distorts earlier', () => {
    const tell = (gain: string) =>
      JSON.parse(fulgor('feel', 'amp.breakwater', '--set', `gain=${gain}`, '--json').stdout) as {
        edges: { thdPercent: number; inputDbfs: number | null }[]
        curve: unknown[]
        dynamicsLu: number
      }
    const [low, high] = [tell('3'), tell('8')]
    expect(low.edges.map((e) => e.thdPercent)).toEqual([1, 3, 10])
    expect(high.edges[2].inputDbfs ?? 0).toBeLessThan(low.edges[2].inputDbfs ?? 0)
    expect(high.dynamicsLu).toBeLessThan(low.dynamicsLu)
    expect(low.curve).toHaveLength(25)
  })

  it('refuses what a model does not have', () => {
    expectRefused(fulgor('feel', 'amp.breakwater', '--set', 'colour=3'), 'must be one of gain')
  })
})
