import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { readWav, writeWav } from '@fulgor/core/formats'
import { readFileSync } from 'node:fs'
import { fulgor } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'fulgor-cli-reference-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string) => join(folder, name)
const RATE = 48_000

describe('reference inspect', () => {
  it('tells tempo, tuning, doubling and echo of a riff that was made with them', () => {
    expect(fulgor('riff', 'palm-muted', '--bpm', '112', '--tuning', 'half-down', '--take', '2', '--out', at('riff.wav')).status).toBe(0)
    const [dry] = readWav(readFileSync(at('riff.wav'))).channels
    // an echo of a dotted eighth, 10 dB down; the right side 9 ms later
    const lag = Math.round((0.75 * 60 * RATE) / 112)
    const wet = dry.map((v, n) => Math.tanh(6 * v) * 0.2 + (n >= lag ? 0.2 * Math.tanh(6 * dry[n - lag]) * Math.pow(10, -0.5) : 0))
    const late = wet.map((_, n) => (n >= 432 ? wet[n - 432] : 0))
    writeFileSync(at('wide.wav'), writeWav([wet, late], RATE, 24))
    const { status, json } = fulgor('reference', 'inspect', at('wide.wav'), '--view', 'left', '--json')
    expect(status).toBe(0)
    const told = json() as unknown as Record<string, { value: Record<string, number> & number; words: string }>
    expect([0.5, 1, 2].some((m) => Math.abs(told.tempo.value - m * 112) < 0.5)).toBe(true)
    expect(Math.abs(told.tuning.value.cents)).toBeLessThan(4)
    expect(told.tuning.words).toContain('half a step down')
    expect(told.sides.value).toMatchObject({ kind: 'delayed' })
    expect(told.sides.value.lagMs).toBeCloseTo(9, 1)
    expect(told.echo.value.lagMs).toBeCloseTo(401.8, 0)
    const { stdout } = fulgor('reference', 'inspect', at('wide.wav'), '--view', 'left')
    expect(stdout).toMatch(/Echo +402 ms +\d+ +Dotted eighth/)
  })

  it('refuses silence, what is too short, a view that is none and what is no sound, in one line', () => {
    writeFileSync(at('silent.wav'), writeWav([new Float32Array(2 * RATE)], RATE, 16))
    writeFileSync(at('short.wav'), writeWav([new Float32Array(2_000).fill(0.1)], RATE, 16))
    writeFileSync(at('talk.txt'), 'no sound')
    for (const [args, words] of [
      [[at('silent.wav')], 'is silent'],
      [[at('short.wav')], 'lasts 0.0 s'],
      [[at('silent.wav'), '--view', 'up'], '--view: must be mid, side, left, right'],
      [[at('silent.wav'), '--from', '9'], '--from: must be a number from 0 to 2'],
      [[at('talk.txt')], 'no WAV, AIFF or FLAC'],
    ] as const) {
      const { status, stderr } = fulgor('reference', 'inspect', ...args)
      expect([status, stderr.trim().split('\n').length]).toEqual([2, 1])
      expect(stderr).toContain(words)
    }
  })
})
