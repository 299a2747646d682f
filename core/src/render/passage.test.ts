import { describe, expect, it, vi } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { createStage, type ResolvedStage } from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { CHUNK, createBlock, listen, Machine, type Processor } from '@fulgor/core/signal'
import { Series } from './chain'
import { runThrough } from './offline'
import { Passage } from './passage'
import { StageRunner } from './stageRunner'

const rate = 48_000
const context = { quality: 'live' as const, responses: responseLibrary(rate) }
const riff = synthesiseRiff('open-chords', 'hard', 110, rate)

type Values = Readonly<Record<string, ResolvedStage>>

/** One stage played through changes of its values, each for so many chunks; `repeats` by a row that repeats it, else asked every chunk. */
function played(
  id: string,
  changes: readonly (readonly [ResolvedStage, chunks: number, level?: number])[],
  repeats: boolean,
): Float32Array {
  const machine = new Machine()
  const runner = new StageRunner('x', modelOf(id), context, rate, machine)
  const row = repeats ? new Series([runner], machine) : runner
  const [block, dry] = [createBlock(machine), createBlock(machine)]
  listen(block, dry)
  const out: number[] = []
  let at = 0
  changes.forEach(([values, chunks, level = 1], k) => {
    row.apply({ x: values } satisfies Values, k === 0)
    for (let chunk = 0; chunk < chunks; chunk++, at += CHUNK) {
      block.stereo = false
      for (let i = 0; i < CHUNK; i++) block.left[i] = dry.left[i] = level * riff[(at + i) % riff.length]
      row.process(block)
      out.push(...block.left, ...(block.stereo ? block.right : []))
    }
  })
  return Float32Array.from(out)
}

/** Every number a good part of its way up, other choices as they are. */
const moved = (id: string, { params, on }: ResolvedStage): ResolvedStage => ({
  on,
  params: Object.fromEntries(
    Object.entries(params).map(([key, value]) => {
      const spec = modelOf(id).params[key]
      return [key, spec.kind === 'number' ? Number(value) + 0.4 * (spec.max - Number(value)) : value]
    }),
  ),
})

describe('a passage', () => {
  it.each(catalogue.map(({ id }) => id))('%s sounds the same to the last bit whether it is repeated or asked', (id) => {
    const { on, params } = createStage('x', id)
    const at: ResolvedStage = { on, params }
    const trails = 'trails' in params ? { ...at, params: { ...params, trails: 'on' } } : at
    const changes = [
      [at, 120],
      [moved(id, at), 160],
      [{ ...at, on: false }, 90],
      [trails, 120],
      [{ ...trails, on: false }, 120],
      // long enough to fall asleep, and awake again
      [at, 3_600, 0],
      [at, 60],
    ] as const
    const asked = played(id, changes, false)
    const repeated = played(id, changes, true)
    expect(repeated.length).toBe(asked.length)
    expect(repeated.findIndex((y, n) => y !== asked[n])).toBe(-1)
  })

  // those compute in plain TypeScript, or hear between the chunks
  const asked = new Set(['delay.reverse', 'filter.envelope', 'modulation.tremolo'])
  it.each(catalogue.map(({ id }) => id))('%s is repeated once it rests, unless it has to be asked', (id) => {
    const machine = new Machine()
    const runner = new StageRunner('x', modelOf(id), context, rate, machine)
    const process = vi.spyOn(runner, 'process')
    const row = new Series([runner], machine)
    const { on, params } = createStage('x', id)
    row.apply({ x: { on, params } }, true)
    const block = createBlock(machine)
    for (let chunk = 0; chunk < 500; chunk++) {
      block.stereo = false
      block.left.fill(0.1)
      row.process(block)
      if (chunk === 400) process.mockClear()
    }
    expect(process).toHaveBeenCalledTimes(asked.has(id) ? 99 : 0)
  })

  /** Stages in a row, how often each is asked itself, and the row's values with a level of all but the cabinet. */
  function rowOf(...ids: readonly string[]) {
    const machine = new Machine()
    const runners = ids.map((id) => new StageRunner(id, modelOf(id), context, rate, machine))
    const asked = runners.map((runner) => vi.spyOn(runner, 'process'))
    const row = new Series(runners, machine)
    const values = (db: number): Values =>
      Object.fromEntries(
        ids.map((id) => [id, { on: true, params: { ...createStage(id, id).params, ...(id === 'cabinet' ? {} : { level: db }) } }]),
      )
    row.apply(values(0), true)
    const block = createBlock(machine)
    const play = (chunks: number, before: (chunk: number) => void = () => undefined): number[] => {
      for (const spy of asked) spy.mockClear()
      for (let chunk = 0; chunk < chunks; chunk++) {
        before(chunk)
        block.stereo = false
        block.left.fill(0.1)
        row.process(block)
      }
      return asked.map((spy) => spy.mock.calls.length)
    }
    return { runners, values, play }
  }

  it('takes over what is steady and lets go of what is changed', () => {
    const { runners, values, play } = rowOf('gate', 'eq.parametric', 'cabinet')
    play(50)
    expect(play(40)).toEqual([0, 0, 0])
    // one of them glides: it is asked, its neighbours only while the row is laid anew
    runners[1].apply(values(-6), false)
    const [gate, eq, cabinet] = play(10)
    expect(eq).toBe(10)
    expect(Math.max(gate, cabinet)).toBeLessThanOrEqual(2)
    play(200)
    expect(play(40)).toEqual([0, 0, 0])
  })

  it('lets neighbours be repeated in peace while a source moves one of them over and over', () => {
    const { runners, values, play } = rowOf('gate', 'trim', 'cabinet')
    play(100)
    // a step so small that the stage has come to rest before the next one
    const move = (chunk: number) => {
      if (chunk % 2 === 0) runners[1].apply(values(0), false)
    }
    play(10, move)
    expect(play(400, move)).toEqual([0, 400, 0])
  })

  it('lets a side-chain hear what belongs to each chunk, a whole piece at once too', () => {
    const machine = new Machine()
    const runner = new StageRunner('x', modelOf('gate'), context, rate, machine)
    runner.apply(
      { x: { on: true, params: { ...createStage('x', 'gate').params, key: 'dry', threshold: -40, range: 80, hold: 10, release: 20 } } },
      true,
    )
    const tone = Float32Array.from({ length: rate }, (_, n) => 0.3 * Math.sin(n / 10))
    // the guitar is struck in the first half alone
    const dry = tone.map((x, n) => (n < rate / 2 ? x : 0))
    const { left } = runThrough(runner, machine, { left: tone, right: tone, stereo: false }, dry)
    const peak = (from: number, to: number) => left.subarray(from, to).reduce((most, y) => Math.max(most, Math.abs(y)), 0)
    expect(peak(rate / 4, rate / 2)).toBeGreaterThan(0.29)
    expect(peak((3 * rate) / 4, rate)).toBeLessThan(0.001)
  })

  it('mutes the stage whose kernel fails, and the others go on', () => {
    const machine = new Machine()
    const failed = vi.fn()
    const runners = ['gate', 'cabinet', 'eq.parametric'].map(
      (id) => new StageRunner(id, modelOf(id), { ...context, failed }, rate, machine),
    )
    const row = new Series(runners, machine)
    row.apply(Object.fromEntries(runners.map(({ id }) => [id, { on: true, params: createStage(id, id).params }])), true)
    const block = createBlock(machine)
    const play = () => {
      block.stereo = false
      block.left.forEach((_, i) => (block.left[i] = 0.3 * Math.sin(i / 5)))
      row.process(block)
      return block.left.some((y) => Math.abs(y) > 1e-6)
    }
    for (let chunk = 0; chunk < 40; chunk++) play()
    expect(play()).toBe(true)
    breakStage(runners[1], machine)
    expect(play()).toBe(false)
    expect(failed).toHaveBeenCalledTimes(1)
    expect(failed.mock.calls[0][0]).toBe('cabinet')
    for (let chunk = 0; chunk < 20; chunk++) expect(play()).toBe(false)
    expect(failed).toHaveBeenCalledTimes(1)
    // other values bring it back
    runners[1].apply({ cabinet: { on: true, params: { ...createStage('c', 'cabinet').params, level: -1 } } }, false)
    for (let chunk = 0; chunk < 40; chunk++) play()
    expect(play()).toBe(true)
  })

  it('is none where a stage asks for more than a row can repeat', () => {
    const machine = new Machine()
    const asks: Processor = {
      latency: 0,
      steady: true,
      still: true,
      prepare: () => undefined,
      set: () => undefined,
      tick: () => undefined,
      process: ({ leftAt }) => void machine.kernel.peak(leftAt),
      reset: () => undefined,
    }
    const runner = new StageRunner('x', { ...modelOf('trim'), build: () => asks }, context, rate, machine)
    const passage = new Passage(
      [runner],
      machine.make((kernel) => kernel.alloc(8_192)),
      machine,
    )
    runner.apply({ x: { on: true, params: createStage('x', 'trim').params } }, true)
    const block = createBlock(machine)
    for (let chunk = 0; chunk < 5; chunk++) runner.process(block)
    passage.process(block)
    expect(passage.isOver).toBe(true)
    expect(machine.isNoting).toBe(false)
    // nor where it fails and nobody is to be told
    asks.process = () => {
      throw new RangeError('fails')
    }
    const failing = new Passage(
      [runner],
      machine.make((kernel) => kernel.alloc(8_192)),
      machine,
    )
    expect(() => failing.process(block)).toThrow('fails')
    expect(machine.isNoting).toBe(false)
  })
})

/** Has the stage's next chunk read far outside of the memory. */
function breakStage(runner: StageRunner, machine: Machine): void {
  const { left } = (runner as unknown as { current: { left: { at: number } } }).current
  new Int32Array(machine.kernel.memory.buffer, left.at, 8).fill(0x7fff_fff0)
}
