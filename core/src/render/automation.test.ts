import { describe, expect, it } from 'vitest'
import { catalogue, modelOf, type StageModel } from '@fulgor/core/catalogue'
import { responseLibrary } from '@fulgor/core/cabinet'
import { createStage, effectiveParams, LANE_MODEL } from '@fulgor/core/preset'
import { Biquad, CHUNK, createBlock, design, Machine, type ParamValue } from '@fulgor/core/signal'
import { StageRunner } from './stageRunner'

const rate = 48_000
const context = {
  quality: 'live' as const,
  responses: responseLibrary(rate),
}
const HALF = Math.round((rate * 0.35) / CHUNK)

/**
 * Largest output above 12 kHz, where a 220 Hz tone has nothing of its own, in the steady parts and around the change. Clipping stages
 * have harmonics there, so the change is judged against the steady parts too.
 */
function aboveTwelve(model: StageModel, from: Record<string, ParamValue>, to: Record<string, ParamValue>, on: readonly [boolean, boolean]) {
  const machine = new Machine()
  const runner = new StageRunner('x', model, context, rate, machine)
  const values = (params: Record<string, ParamValue>, is: boolean) => {
    const stage = createStage('x', model.id, params)
    return { x: { on: is, params: effectiveParams(stage, stage.params, 120) } }
  }
  runner.apply(values(from, on[0]), true)
  const filters = [new Biquad(), new Biquad(), new Biquad()]
  for (const f of filters) design.highPass(f.section, 12_000, Math.SQRT1_2, rate)
  const block = createBlock(machine)
  const peaks = { steady: 0, change: 0 }
  for (let chunk = 0; chunk < 2 * HALF; chunk++) {
    if (chunk === HALF) runner.apply(values(to, on[1]), false)
    for (let i = 0; i < CHUNK; i++) block.left[i] = block.right[i] = 0.1 * Math.sin((2 * Math.PI * 220 * (chunk * CHUNK + i)) / rate)
    block.stereo = false
    runner.process(block)
    for (const f of filters) f.process(block)
    const peak = block.left.reduce((most, y) => Math.max(most, Math.abs(y)), 0)
    const since = chunk - HALF
    if (since >= 0 && since < HALF / 2) peaks.change = Math.max(peaks.change, peak)
    else if (chunk > HALF / 2) peaks.steady = Math.max(peaks.steady, peak)
  }
  return peaks
}

/** −60 dBFS, the design's limit for a click. */
const CLICK = 0.001
const models = [...catalogue, modelOf(LANE_MODEL)]

describe('no automated change clicks', () => {
  it.each(models.map((m) => m.id))('%s', (id) => {
    const model = modelOf(id)
    const clicks: string[] = []
    const check = (
      name: string,
      from: Record<string, ParamValue>,
      to: Record<string, ParamValue>,
      on: readonly [boolean, boolean] = [true, true],
    ) => {
      const { steady, change } = aboveTwelve(model, from, to, on)
      if (change > CLICK + 1.6 * steady) clicks.push(`${name}: ${(20 * Math.log10(change)).toFixed(0)} dBFS`)
    }
    for (const [key, spec] of Object.entries(model.params)) {
      if (spec.kind === 'choice') {
        if (spec.change === 'resolve') continue
        check(key, { [key]: spec.options[0].value }, { [key]: spec.options[spec.options.length - 1].value })
      } else {
        check(`${key} up`, { [key]: spec.min }, { [key]: spec.max })
        check(`${key} down`, { [key]: spec.max }, { [key]: spec.min })
      }
    }
    check('off', {}, {}, [true, false])
    check('on', {}, {}, [false, true])
    expect(clicks).toEqual([])
  })
})
