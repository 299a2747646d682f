import { describe, expect, it } from 'vitest'
import { findModel, modelOf } from '@fulgor/core/catalogue'
import { createStage } from '@fulgor/core/preset'
import { CHUNK, createBlock, Machine } from '@fulgor/core/signal'
import { StageRunner } from './stageRunner'

const rate = 48_000

describe('a chain that plays for hours', () => {
  const lengths = [700, 900, 1_300, 2_048]
  const context = { quality: 'live' as const, responses: (id: string) => new Float64Array(lengths[Number(id)]).fill(0.01) }
  const changes: readonly (readonly [string, string, readonly string[]])[] = [
    ['amp.ironwork', 'valves', ['large', 'large-mid', 'chime', 'small']],
    ['amp.ironwork', 'channel', ['clean', 'rhythm', 'lead']],
    ['cabinet', 'response', ['0', '1', '2', '3']],
  ]

  it.each(changes)('keeps its memory however often %s changes its %s, and sounds as it did', (model, key, options) => {
    expect(findModel(model)?.params).toHaveProperty(key)
    const machine = new Machine()
    const runner = new StageRunner('x', modelOf(model), context, rate, machine)
    const block = createBlock(machine)
    const play = (option: string, chunks: number, immediate = false): number => {
      runner.apply({ x: { on: true, params: createStage('x', model, { [key]: option }).params } }, immediate)
      let energy = 0
      for (let chunk = 0; chunk < chunks; chunk++) {
        for (let i = 0; i < CHUNK; i++) block.left[i] = 0.1 * Math.sin(((chunk * CHUNK + i) * 2 * Math.PI) / 96)
        block.stereo = false
        runner.process(block)
        if (chunk >= chunks - 30) energy += block.left.reduce((sum, y) => sum + y * y, 0)
      }
      return energy
    }
    const before = options.map((option, k) => play(option, 400, k === 0))
    // a crossfade takes some 15 chunks; steps of one and three meet every order of first and second instance
    const change = (times: number) => {
      for (let turn = 0; turn < times; turn++) play(options[(turn * (turn % 2 === 0 ? 1 : 3)) % options.length], 18)
    }
    change(60)
    const settled = machine.kernel.memory.buffer.byteLength
    change(600)
    expect(machine.kernel.memory.buffer.byteLength).toBe(settled)
    options.forEach((option, k) => expect(10 * Math.log10(play(option, 400) / before[k])).toBeCloseTo(0, 1))
  })
})
