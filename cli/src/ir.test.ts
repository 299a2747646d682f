import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync, existsSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { createBench, createChannel } from '@fulgor/core/catalogue'
import { readWav, writeWav } from '@fulgor/core/formats'
import { applyEdit, blankPreset } from '@fulgor/core/preset'

const root = resolve(import.meta.dirname, '../..')
const folder = mkdtempSync(join(tmpdir(), 'fulgor-ir-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const fulgor = (...args: string[]) =>
  spawnSync('node', ['--import', 'tsx', 'cli/src/main.ts', ...args], {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, TSX_TSCONFIG_PATH: 'cli/tsconfig.json' },
  })
const file = (name: string) => join(folder, name)
const taps = (at: number, gain = 1) =>
  Float32Array.from({ length: 2_048 }, (_, n) => (n < at ? 0 : gain * 0.7 * Math.exp(-(n - at) / 90) * Math.sin((n - at) * 0.21)))
writeFileSync(file('a.wav'), writeWav([taps(20)], 48_000, 24))
writeFileSync(file('b.wav'), writeWav([taps(27, -0.6)], 48_000, 24))
writeFileSync(file('short.wav'), readFileSync(file('a.wav')).subarray(0, 20))

describe('fulgor ir', () => {
  it('inspects a file', () => {
    const answer = JSON.parse(fulgor('ir', 'inspect', file('a.wav'), '--json').stdout) as Record<string, unknown>
    // the first tap of the sine is zero
    expect(answer).toMatchObject({
      frames: 2_048,
      channels: 1,
      sampleRate: 48_000,
      bits: 24,
      onsetSamples: 21,
      polarity: 'positive',
      clipped: 0,
    })
    expect(answer.durationS).toBeCloseTo(2_048 / 48_000, 9)
    expect(fulgor('ir', 'inspect', file('a.wav')).stdout).toContain('2048 samples, mono, 48000 Hz, 24 bits')
  })

  it('reads FLAC with the same samples', () => {
    // a FLAC file made by the format's own reference encoder would need it installed: this one is 64 samples of a ramp, stored verbatim
    const flac = verbatimFlac(Array.from({ length: 64 }, (_, n) => (n < 4 ? 0 : Math.round(9_000 * Math.exp(-n / 9) * Math.sin(n)))))
    writeFileSync(file('v.flac'), flac)
    const answer = JSON.parse(fulgor('ir', 'inspect', file('v.flac'), '--json').stdout) as Record<string, unknown>
    expect(answer).toMatchObject({ frames: 64, channels: 1, sampleRate: 48_000, bits: 16 })
  })

  it('blends, aligned: a copy that is 7 samples late and inverted is found and laid on the first', () => {
    const out = file('blend.wav')
    const answer = JSON.parse(
      fulgor('ir', 'blend', file('a.wav'), file('b.wav'), '--gain', '0,-3', '--align', '--out', out, '--json').stdout,
    ) as {
      frames: number
      channels: { lateUs: number; polarity: string; levelDb: number }[]
      before: { lostDb: number }
      after: { lostDb: number }
    }
    expect(answer.frames).toBe(2_048)
    expect(answer.channels[1].lateUs).toBeCloseTo((7 / 48_000) * 1e6, 0)
    expect(answer.channels[1]).toMatchObject({ polarity: 'inverted', levelDb: -3 })
    expect(answer.before.lostDb).toBeGreaterThan(1)
    expect(answer.after.lostDb).toBeLessThan(0.01)
    const wav = readWav(readFileSync(out))
    expect([wav.sampleRate, wav.bits, wav.float, wav.channels[0].length]).toEqual([48_000, 32, true, 2_048])
  })

  it.each<[string, string[], string]>([
    ['a missing file', ['ir', 'inspect', file('none.wav')], 'none.wav: there is no such file'],
    ['a broken file', ['ir', 'inspect', file('short.wav')], 'short.wav: '],
    ['one file alone', ['ir', 'blend', file('a.wav'), '--out', file('no.wav')], 'takes 2 to 8 files'],
    ['a level out of range', ['ir', 'blend', file('a.wav'), file('b.wav'), '--gain', '0,99', '--out', file('no.wav')], '--gain'],
    ['a length', ['ir', 'blend', file('a.wav'), file('b.wav'), '--frames', '100', '--out', file('no.wav')], '--frames'],
    ['no output', ['ir', 'blend', file('a.wav'), file('b.wav')], '--out'],
  ])('refuses %s with status 2 and writes nothing', (_, args, message) => {
    const { status, stderr } = fulgor(...args)
    expect(status).toBe(2)
    expect(stderr).toContain(message)
    expect(existsSync(file('no.wav'))).toBe(false)
  })

  it('says so when a preset needs a file that is not here, and renders nothing', () => {
    const blank = blankPreset('x')
    const source = { kind: 'file' as const, file: 'c'.repeat(64), name: 'Ours', side: 'sum' as const }
    const preset = applyEdit(blank, {
      type: 'setBench',
      stage: 'cab',
      snapshot: null,
      bench: { ...createBench(), channels: [createChannel('c', source)] },
      touched: '',
    })
    writeFileSync(file('preset.json'), JSON.stringify(preset))
    const { status, stderr } = fulgor('render', '--preset', file('preset.json'), '--di', file('a.wav'), '--out', file('no.wav'))
    expect(status).toBe(2)
    expect(stderr).toContain('c'.repeat(64))
    expect(existsSync(file('no.wav'))).toBe(false)
  })

  it('shows its help', () => {
    expect(
      execFileSync('node', ['--import', 'tsx', 'cli/src/main.ts', 'ir', 'blend', '--help'], {
        cwd: root,
        encoding: 'utf8',
        env: { ...process.env, TSX_TSCONFIG_PATH: 'cli/tsconfig.json' },
      }),
    ).toContain('--align')
  })
})

/** One frame with a verbatim subframe (RFC 9639, 2024). */
function verbatimFlac(samples: readonly number[]): Uint8Array {
  const bits: number[] = []
  const put = (value: number, width: number) => {
    for (let i = width - 1; i >= 0; i--) bits.push(Math.floor(value / 2 ** i) & 1)
  }
  const bytesOf = () => Uint8Array.from({ length: bits.length / 8 }, (_, i) => bits.slice(i * 8, i * 8 + 8).reduce((b, x) => b * 2 + x, 0))
  const crc = (data: Uint8Array, width: 8 | 16, polynomial: number) => {
    let c = 0
    for (const byte of data) {
      c ^= byte << (width - 8)
      for (let i = 0; i < 8; i++) c = ((c << 1) ^ (c & (1 << (width - 1)) ? polynomial : 0)) & (2 ** width - 1)
    }
    return c
  }
  for (const c of 'fLaC') put(c.charCodeAt(0), 8)
  put(1, 1)
  put(0, 7)
  put(34, 24)
  put(samples.length, 16)
  put(samples.length, 16)
  put(0, 24)
  put(0, 24)
  put(48_000, 20)
  put(0, 3)
  put(15, 5)
  put(samples.length, 36)
  for (let i = 0; i < 16; i++) put(0, 8)
  const start = bits.length / 8
  put(0b11111111111110, 14)
  put(0, 2)
  put(0b0110, 4)
  put(0b1010, 4)
  put(0, 4)
  put(0b100, 3)
  put(0, 1)
  put(0, 8)
  put(samples.length - 1, 8)
  put(crc(bytesOf().slice(start), 8, 0x07), 8)
  put(0b00000010, 8)
  for (const s of samples) put(s < 0 ? s + 65_536 : s, 16)
  put(crc(bytesOf().slice(start), 16, 0x8005), 16)
  return bytesOf()
}
