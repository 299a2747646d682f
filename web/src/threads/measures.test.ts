import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { outputMeasures, stageMeasures } from '@fulgor/core/measure'
import { Renderer } from '@fulgor/core/render'
import type { Task } from '../background/tasks'
import type { StagePart } from './measures'
import { SAMPLE_RATE as RATE } from './rate'
import { renderingOf } from './riffSource'

const { chain, ...rest } = demoPresets[0].preset
/** Its output is turned down, so that it is told by the stage in front of it. */
const preset = {
  ...rest,
  chain: chain.map((node) => (node.kind === 'stage' && node.id === 'out' ? { ...node, params: { ...node.params, level: -4 } } : node)),
}
const job = renderingOf(preset, 'storm', 'live')

/** A rendering thread: each has modules of its own. */
async function thread() {
  vi.resetModules()
  const { exchange } = await import('./exchange')
  const sounds = await import('./sounds')
  const { measuringTasks: tasks } = await import('./measures')
  return { exchange, sounds, tasks }
}

const opened: MessagePort[] = []
type Member = Awaited<ReturnType<typeof thread>>
function introduce(one: Member, two: Member): void {
  const { port1, port2 } = new MessageChannel()
  opened.push(port1, port2)
  one.exchange.meet({ introduces: port1, page: 'p' })
  two.exchange.meet({ introduces: port2, page: 'p' })
}

/** What a task tells, and a breath that lets the other thread have its turn. */
function listening() {
  const told: StagePart[] = []
  const task: Task = {
    breathe: () => new Promise((done) => setTimeout(done, 15)),
    tell: (part) => void told.push(part as StagePart),
    stopping: false,
  }
  return { told, task }
}

describe('measuring in a thread', () => {
  beforeEach(() => {
    vi.stubGlobal('addEventListener', () => undefined)
    vi.stubGlobal('crossOriginIsolated', true)
    vi.stubGlobal('navigator', { locks: { request: (_: string, work: () => Promise<unknown>) => work() } })
  })
  afterEach(() => {
    for (const port of opened.splice(0)) port.close()
    vi.unstubAllGlobals()
  })

  it('has the same figures with another thread’s help as alone, and as of the whole sound', async () => {
    const [one, other] = [await thread(), await thread()]
    introduce(one, other)
    const [own, laid] = [vi.spyOn(one.exchange, 'lay'), vi.spyOn(other.exchange, 'lay')]
    const helped = listening()
    const together = await one.tasks.measure(helped.task, job, true)
    const names = laid.mock.calls.map(([name]) => name.split(' ')[0])
    // all stages that make a sound of their own, and the loudness
    expect(names.filter((n) => n === 'measures').length).toBeGreaterThan(4)
    expect(names.filter((n) => n === 'steps')).toHaveLength(1)
    // which are not measured again
    expect(own.mock.calls.filter(([name]) => name.startsWith('measures'))).toEqual([])

    const alone = listening()
    const single = await thread()
    expect(await single.tasks.measure(alone.task, job, true)).toEqual(together)
    expect(alone.told).toEqual(helped.told)

    const dry = await single.sounds.ready(job)
    const taps = [...new Renderer(single.sounds.context(RATE, 'live')).render({ ...job, dryKey: 'dry', dry })]
    const { left, right } = taps[taps.length - 1].sound
    const { thirdOctave, ...levels } = outputMeasures([left, right], RATE)
    for (const [name, value] of Object.entries(levels))
      expect(together.levels[name as keyof typeof levels], name).toBeCloseTo(value ?? NaN, 3)
    thirdOctave.forEach((band, k) => expect(together.bands?.[k].db).toBeCloseTo(band.db ?? NaN, 3))
    expect(alone.told.map((t) => t.stage)).toEqual(taps.map((t) => t.stage))
    const amp = taps.find((t) => t.stage === 'amp')
    expect(alone.told.find((t) => t.stage === 'amp')?.measures).toEqual(stageMeasures([amp?.sound.left ?? new Float32Array()], RATE))
  })

  it('measures what the other thread did not come to, and leaves out what was not asked for', async () => {
    const [one, other] = [await thread(), await thread()]
    introduce(one, other)
    // it is busy, and answers to nothing
    vi.spyOn(other.exchange, 'find').mockReturnValue(undefined)
    const { told, task } = listening()
    const { levels, bands } = await one.tasks.measure(task, job, true)
    expect(levels.integratedLufs).toBeLessThan(0)
    expect(bands).toHaveLength(30)
    expect(told.length).toBeGreaterThan(5)
    const brief = listening()
    expect(await one.tasks.measure(brief.task, job, false)).toEqual({ levels, bands: null })
    expect(brief.told).toEqual([])
  })
})
