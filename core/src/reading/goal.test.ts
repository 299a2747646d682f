import { describe, expect, it } from 'vitest'
import { modelOf } from '@fulgor/core/catalogue'
import { blankPreset, createStage } from '@fulgor/core/preset'
import { feelOf } from '@fulgor/core/render'
import { gainParams, gainSearch, GOALS, type Found } from '.'

const gain = modelOf('amp.lantern').params.gain
if (gain.kind !== 'number') throw new Error('gain is a number')

function search(percent: number, thd: (value: number) => number): Found {
  const steps = gainSearch(gain as never, percent)
  let step = steps.next(0)
  while (!step.done) step = steps.next(thd(step.value))
  return step.value
}

describe('gain for a goal', () => {
  it('is the most that does not pass the share: of value² %, 9 at 3', () => {
    const { value, percent, limited } = search(9, (v) => v * v)
    expect(value).toBeGreaterThan(2.9)
    expect(value).toBeLessThanOrEqual(3)
    expect(percent).toBeLessThanOrEqual(9)
    expect(limited).toBe(false)
  })

  it('ends at the ends: always dirtier, and never as dirty', () => {
    expect(search(1, () => 5)).toEqual({ value: 0, percent: 5, limited: true })
    expect(search(50, () => 1)).toEqual({ value: 10, percent: 1, limited: true })
  })

  it('finds the corner of a hard clip: a sine clipped at its peak has none, 1 % at 0.35 dB over it', () => {
    // x clipped at c: third harmonic over fundamental by Fourier, here from the waveform itself at the level found
    const clip = (value: number) => feelOf((x) => x.map((s) => Math.max(-0.5, Math.min(0.5, s * value))), 48_000, [-6.02]).thd[0]
    const { value, percent } = search(1, clip)
    expect(percent).toBeLessThanOrEqual(1)
    // the peak is 0.5 at a gain of 1; 1 % of harmonics come soon behind it
    expect(value).toBeGreaterThanOrEqual(1)
    expect(value).toBeLessThan(1.15)
  })

  it('offers what is on and distorts, and speaks of strokes', () => {
    const preset = {
      ...blankPreset('x'),
      chain: [{ ...createStage('d', 'drive.mid-hump'), on: false }, createStage('b', 'drive.clean-boost'), createStage('a', 'amp.lantern')],
    }
    expect(gainParams(preset, preset.snapshots[0].id).map((g) => `${g.stage.id} ${g.param}`)).toEqual(['a gain', 'a master'])
    expect(GOALS.map((g) => g.stroke)).toEqual(['hard', 'normal'])
  })
})
