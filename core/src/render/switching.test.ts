import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, blankPreset, createStage, resolveValues, type Preset } from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { Engine, switchFault, switchFigures } from '.'
import { clickOf } from './switching'

const rate = 48_000
const context = { quality: 'live' as const, responses: responseLibrary(rate) }
const dry = synthesiseRiff('open-chords', 'hard', 96, rate)
const pit = demoPresets[0].preset

/** A chain of one stage, on in the first snapshot and off in the second. */
const oneStage = (model: string, params: Record<string, number | string>): Preset => ({
  ...blankPreset('x'),
  chain: [createStage('s', model, params)],
  snapshots: [
    { id: 'on', name: 'On', stages: {} },
    { id: 'off', name: 'Off', stages: { s: { on: false } } },
  ],
})

/** What sounds in the half second after the switch, when the playing has stopped with it. */
function tail(preset: Preset): number {
  const engine = new Engine({ chain: preset.chain, values: resolveValues(preset, 'on') }, context, rate)
  const left = Float32Array.from(dry.subarray(0, rate))
  const right = new Float32Array(rate)
  engine.process(left, right, rate)
  engine.setValues(resolveValues(preset, 'off'))
  const quiet = new Float32Array(rate / 2)
  engine.process(quiet, new Float32Array(rate / 2), rate / 2)
  return Math.sqrt(quiet.subarray(4_800).reduce((s, x) => s + x * x, 0) / quiet.length)
}

describe('trails', () => {
  it.each(['delay.digital', 'reverb.hall', 'reverb.plate', 'reverb.spring', 'delay.tape'])(
    '%s: go on over a switch, or not, as the player says',
    (model) => {
      expect(tail(oneStage(model, { mix: 50, trails: 'on' }))).toBeGreaterThan(1e-3)
      expect(tail(oneStage(model, { mix: 50, trails: 'off' }))).toBeLessThan(1e-9)
    },
  )

  it('switched off and on again without trails it begins from silence and sounds as before', () => {
    const preset = oneStage('delay.digital', { mix: 40, trails: 'off' })
    const engine = new Engine({ chain: preset.chain, values: resolveValues(preset, 'on') }, context, rate)
    const piece = (values: string) => {
      engine.setValues(resolveValues(preset, values))
      const left = Float32Array.from(dry.subarray(0, rate))
      engine.process(left, new Float32Array(rate), rate)
      return Math.sqrt(left.reduce((s, x) => s + x * x, 0) / rate)
    }
    const first = piece('on')
    const off = piece('off')
    const again = piece('on')
    expect(off).toBeLessThan(first)
    expect(Math.abs(again - first) / first).toBeLessThan(0.15)
  })
})

describe('switching', () => {
  it('from a snapshot to itself there is no gap, no click', () => {
    const [same] = switchFigures(pit, 'strum', ['strum'], dry, rate, context)
    expect(same.gapDb).toBeLessThan(1e-9)
    expect(same.clickDbfs).toBeNull()
  })

  it('tells a jump by its level: an Output 6 dB up is 6 LU louder', () => {
    const preset = applyEdit(
      { ...pit, snapshots: [pit.snapshots[1], { ...pit.snapshots[1], id: 'loud', name: 'Loud' }] },
      { type: 'setParam', stage: 'out', snapshot: 'loud', param: 'level', value: 6 },
    )
    const [up] = switchFigures(preset, 'strum', ['loud'], dry, rate, context)
    const [stay] = switchFigures(preset, 'strum', ['strum'], dry, rate, context)
    expect(up.jumpLu).toBeCloseTo(6, 0)
    // the riff itself grows and falls: staying is no jump
    expect(stay.jumpLu).toBe(0)
    expect(switchFault(up)).toBeGreaterThan(switchFault(stay) + 4)
    // where it was planned it is no fault
    expect(switchFault(up, 6)).toBeLessThan(switchFault(up))
  })

  it('finds no hole above 3 dB and no click above −60 dBFS between any two snapshots of the demo', () => {
    const faults: string[] = []
    for (const { id } of pit.snapshots) {
      const others = pit.snapshots.filter((s) => s.id !== id).map((s) => s.id)
      for (const f of switchFigures(pit, id, others, dry, rate, context))
        if (f.gapDb > 3 || (f.clickDbfs ?? -120) > -60)
          faults.push(`${f.from} to ${f.to}: gap ${f.gapDb.toFixed(1)} dB, click ${f.clickDbfs}`)
    }
    expect(faults).toEqual([])
  }, 60_000)

  // the design's own rule: a peak above 12 kHz that is half as high again as both snapshots have there
  it.each([
    [0.02, -34],
    [0.016, -35.9],
    [0.014, null],
    [0.01, null],
  ])('tells a click of %s over 0.01 on both sides as %s dBFS', (peak, dbfs) => {
    const [at, frames] = [24_000, 48_000]
    const run = (height: number) => {
      const left = new Float32Array(frames)
      // a burst at 18 kHz, far above the edge of the filter, 5 ms after the switch
      for (let n = 0; n < 960; n++)
        left[at + 240 + n] = height * Math.sin((2 * Math.PI * 18_000 * n) / rate) * Math.sin((Math.PI * n) / 960)
      return { left, right: left.slice() }
    }
    const told = clickOf(run(0.01), run(0.01), run(peak), at, rate)
    if (dbfs === null) expect(told).toBeNull()
    else expect(Math.abs((told ?? 0) - dbfs)).toBeLessThan(1)
  })

  it('wants enough of a riff', () => {
    expect(() => [...switchFigures(pit, 'strum', ['storm'], dry.subarray(0, rate), rate, context)]).toThrow('at least 3.6 s')
  })
})
