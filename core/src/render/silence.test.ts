import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { blankPreset, createStage, resolveValues } from '@fulgor/core/preset'
import { Clipping, createBlock, Machine } from '@fulgor/core/signal'
import { Engine } from '.'

const rate = 48_000
const context = { quality: 'live' as const, responses: responseLibrary(rate) }

describe('silence', () => {
  it.each(catalogue.filter((m) => m.id !== 'lane').map((m) => m.id))('%s falls asleep, and wakes to the same sound', (id) => {
    const chain = [createStage('x', id)]
    const engine = new Engine({ chain, values: resolveValues({ ...blankPreset('s'), chain }, null) }, context, rate)
    const heard = (seconds: number, amplitude: number) => {
      const left = Float32Array.from({ length: seconds * rate }, (_, n) => amplitude * Math.sin(2 * Math.PI * 220 * (n / rate)))
      const right = new Float32Array(left.length)
      engine.process(left, right, left.length)
      return Math.max(...[left, right].map((side) => side.slice(-rate / 4).reduce((most, y) => Math.max(most, Math.abs(y)), 0)))
    }
    const before = heard(1, 0.2)
    // a long tail has to die first
    let seconds = 0
    while (heard(1, 0) !== 0 && seconds < 40) seconds++
    expect(seconds).toBeLessThan(40)
    // what swings by itself is elsewhere in its turn
    const swings = ['modulation', 'pitch', 'delay', 'reverb'].includes(modelOf(id).family)
    expect(Math.abs(20 * Math.log10(heard(1, 0.2) / before))).toBeLessThan(swings ? 6 : 0.5)
  })

  // a decaying filter ends among numbers below 2.2e-308, which cost ten times as much (IEEE 754 subnormals)
  it('leaves no number in a clipping program that is too small to be cheap', () => {
    const machine = new Machine()
    const clipping = new Clipping('live', rate, machine)
    clipping.stage({ gain: 30, bias: 0.3, couplingHz: 40, millerHz: 9_000 })
    clipping.stage({ gain: 30, bias: -0.3, hardness: 0.4, couplingHz: 40, millerHz: 9_000 })
    const block = createBlock(machine)
    const data = block.left
    for (let chunk = 0; chunk < 4 * (rate / 64); chunk++) {
      // what a guard on the input leaves
      data.fill(chunk < 100 ? 0.3 * Math.sin(chunk) : chunk % 2 === 0 ? 1e-18 : -1e-18)
      clipping.process(block.leftAt)
    }
    expect(clipping.memory.filter((x) => x !== 0 && Math.abs(x) < 2.3e-308)).toHaveLength(0)
  })
})
