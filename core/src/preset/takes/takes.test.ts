import { describe, expect, it } from 'vitest'
import {
  applyEdit,
  blankPreset,
  DEFAULT_SCALE,
  deviceSetting,
  levelFromTakes,
  readPreset,
  type DeviceScale,
  type Preset,
  type Take,
} from '..'

const take = (id: string, setting: number | null): Take => ({
  id,
  file: id.replace(/[^a-f0-9]/g, 'f').padEnd(64, '0'),
  device: 'Board',
  date: '2026-11-20',
  note: '',
  setting,
})

describe('a device’s level control', () => {
  const share: DeviceScale = { name: 'Board', kind: 'share', min: 0, max: 10, stepDb: 1 }
  const steps: DeviceScale = { name: 'Board', kind: 'steps', min: 0, max: 10, stepDb: 1.5 }
  // by hand: −6.02 dB is half the amplitude; 3 dB are two marks of 1.5 dB
  it.each([
    [DEFAULT_SCALE, -3, 2.5, -0.5, 0],
    [share, 8, -6.0206, 4, 0],
    [share, 5, 6.0206, 10, 0],
    [share, 8, 6.0206, 10, 4.08],
    [steps, 4, 3, 6, 0],
    [steps, 1, -6, 0, -4.5],
    [DEFAULT_SCALE, 10, 5, 12, 3],
  ])('%o at %s, %s dB', (scale, setting, change, wanted, missing) => {
    const found = deviceSetting(scale, setting, change)
    expect(found.setting).toBeCloseTo(wanted, 1)
    expect(found.missingDb).toBeCloseTo(missing, 2)
  })
})

describe('levels from takes', () => {
  function threeTakes(): { preset: Preset; lufs: Map<string, number> } {
    let preset = blankPreset('Takes')
    for (const [id, name] of [
      ['lead', 'Lead'],
      ['clean', 'Clean'],
    ] as const)
      preset = applyEdit(preset, { type: 'addSnapshot', snapshot: id, name })
    preset = applyEdit(preset, { type: 'setPlan', snapshot: 'lead', plan: { role: 'lead' } })
    preset = applyEdit(preset, { type: 'addTake', snapshot: 's1', take: take('a', -2) })
    preset = applyEdit(preset, { type: 'addTake', snapshot: 'lead', take: take('b', null) })
    preset = applyEdit(preset, { type: 'addTake', snapshot: 'clean', take: take('e', -9) })
    preset = applyEdit(preset, { type: 'addTake', snapshot: 'clean', take: take('c', -4) })
    const lufs = new Map(
      [
        ['a', -20],
        ['b', -22],
        ['c', -16],
      ].map(([id, l]) => [String(id).padEnd(64, '0'), Number(l)]),
    )
    return { preset, lufs }
  }

  it('bring each to its target, the last take counting', () => {
    const { preset, lufs } = threeTakes()
    const rows = levelFromTakes(preset, DEFAULT_SCALE, lufs, null)
    expect(rows.map((r) => [r.snapshot.id, r.target, r.change, r.setting])).toEqual([
      ['s1', -18, 2, 0],
      ['lead', -15, 7, null],
      ['clean', -18, -2, -6],
    ])
  })

  it('or to a snapshot that stays', () => {
    const { preset, lufs } = threeTakes()
    const rows = levelFromTakes(preset, DEFAULT_SCALE, lufs, 's1')
    expect(rows.map((r) => [r.target, r.change])).toEqual([
      [-20, 0],
      [-17, 5],
      [-20, -4],
    ])
  })

  it('are kept with the preset, and left out of a copy', () => {
    const { preset } = threeTakes()
    const whole = applyEdit(preset, { type: 'setDevice', device: DEFAULT_SCALE })
    expect(readPreset(JSON.parse(JSON.stringify(whole)))).toEqual(whole)
    const copy = applyEdit(whole, { type: 'duplicateSnapshot', source: 'clean', snapshot: 'x', name: 'X' })
    expect(copy.snapshots.at(-1)?.takes).toBeUndefined()
    const changed = applyEdit(whole, { type: 'changeTake', snapshot: 'lead', take: 'b', change: { setting: 3 } })
    expect(changed.snapshots[1].takes?.[0].setting).toBe(3)
    const gone = applyEdit(changed, { type: 'removeTake', snapshot: 'lead', take: 'b' })
    expect('takes' in gone.snapshots[1]).toBe(false)
    const full = Array.from({ length: 10 }, (_, i) => take(`t${i}`, 0)).reduce(
      (p, t) => applyEdit(p, { type: 'addTake', snapshot: 'clean', take: t }),
      whole,
    )
    expect(() => applyEdit(full, { type: 'addTake', snapshot: 'clean', take: take('z', 0) })).toThrow('at most 12')
  })

  it.each([
    [{ date: '20.11.2026' }, 'takes[0].date'],
    [{ file: 'song.wav' }, 'takes[0].file'],
    [{ device: '' }, 'takes[0].device'],
    [{ setting: 'half' }, 'takes[0].setting'],
  ])('bad ones are refused by name: %o', (wrong, path) => {
    const preset = applyEdit(blankPreset('X'), { type: 'addTake', snapshot: 's1', take: { ...take('a', 0), ...(wrong as object) } })
    expect(() => readPreset(preset)).toThrow(path)
  })
})
