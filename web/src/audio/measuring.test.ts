import { beforeEach, describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { findStage, type Preset } from '@fulgor/core/preset'
import { Crew } from '../background/crew'
import { threadOf } from '../background/serve'
import type { Task } from '../background/tasks'
import { edit } from '../state/actions'
import { opened, snapshotChosen, stageChosen, versionSaved, closed } from '../state/editor'
import { qualityChosen } from '../state/player'
import { outputsMeasured, stagesMeasured, wholeOutput } from '../state/measures'
import { createStore } from '../state/store'
import { fakeStorage, outputFigures, storedPreset } from '../state/testing'
import { bypassMatch, matchDb } from './feed'
import { startMeasuring } from './measuring'
import type { SnapshotFigures } from '../threads/measures'
import type { RenderTasks } from '../threads/render.worker'
import type { Rendering } from '../threads/sounds'

fakeStorage()

const pit = demoPresets[0].preset
const waited = (ms: number) => new Promise((done) => setTimeout(done, ms))
const gain = (preset: Preset): number => Number(preset.chain.flatMap((s) => ('params' in s && s.id === 'amp' ? [s.params.gain] : []))[0])

/** A store that is measured by threads of the test: an output is as loud as the amp's gain says. */
function setUp(aloneFirst = false) {
  const asked: { task: string; snapshot: string; stages: boolean | null; quality: string }[] = []
  const gates: (() => void)[] = []
  let held: boolean | string = false
  const note = async (task: Task, name: string, job: Rendering, stages: boolean | null) => {
    asked.push({ task: name, snapshot: job.snapshot, stages, quality: job.quality })
    if (held === true || held === job.snapshot) await new Promise<void>((done) => gates.push(done))
    await task.breathe()
    return -20 - gain(job.preset)
  }
  const tasks = {
    measure: async (task: Task, job: Rendering, stages: boolean): Promise<SnapshotFigures> => {
      const lufs = await note(task, 'measure', job, stages)
      if (job.preset.name === 'broken') throw new Error('This preset cannot be rendered.')
      if (stages) for (const stage of ['drive', 'amp', 'cab']) task.tell({ stage, measures: { rmsDbfs: lufs } })
      return { ...outputFigures(lufs), bands: stages ? [{ hz: 1000, db: lufs }] : null }
    },
    loudness: (task: Task, job: Rendering) => note(task, 'loudness', job, null),
    loudnessAt: async (task: Task, job: Rendering, stage: string) => {
      const end = await note(task, 'loudnessAt', job, null)
      return { end, own: findStage(job.preset, stage)?.on ? -20 : -23 }
    },
  }
  const crew = new Crew<typeof tasks>(() => threadOf(tasks), 2) as unknown as Crew<RenderTasks>
  const { store, listen } = createStore()
  startMeasuring(listen, crew, aloneFirst)
  const measures = () => store.getState().measures
  return {
    store,
    listen,
    asked,
    measures,
    /** Waits until nothing has been asked for longer than a movement takes. */
    quiet: async () => {
      for (let before = -1; before !== asked.length;) {
        before = asked.length
        await waited(220)
      }
    },
    /** Lets nothing come to its end, or nothing of one snapshot. */
    hold: (on: boolean | string) => {
      held = on
      if (on === false) for (const open of gates.splice(0)) open()
    },
  }
}

describe('measuring', () => {
  let desk: ReturnType<typeof setUp>
  beforeEach(() => {
    desk = setUp()
  })
  const setGain = (value: number) => desk.store.dispatch(edit({ type: 'setParam', stage: 'amp', snapshot: null, param: 'gain', value }))

  it('measures the lit snapshot first and with its stages, all the others, the saved version, and the traces last', async () => {
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    expect(Object.values(desk.measures().snapshots).every((s) => !s.fresh)).toBe(true)
    await desk.quiet()
    const whole = desk.asked.filter(({ task }) => task === 'measure')
    expect(whole[0]).toMatchObject({ snapshot: 'storm', stages: true })
    const ids = pit.snapshots.map((s) => s.id)
    expect(new Set(whole.slice(0, ids.length).map((a) => a.snapshot))).toEqual(new Set(ids))
    expect(whole.slice(1, ids.length).every((a) => a.stages === false)).toBe(true)
    expect(whole.slice(ids.length).map((a) => [a.snapshot, a.stages])).toEqual(ids.filter((id) => id !== 'storm').map((id) => [id, true]))
    expect(Object.values(desk.measures().snapshots).every((s) => s.fresh)).toBe(true)
    expect(desk.measures().snapshots.storm.stages.amp).toMatchObject({ rmsDbfs: -20 - gain(pit) })
    expect(desk.measures().lastAllMs).toBeGreaterThanOrEqual(desk.measures().lastActiveMs ?? Infinity)
  })

  it('tells what is measured behind several stages at once, since every telling is drawn', async () => {
    const told: string[][] = []
    desk.listen({ actionCreator: stagesMeasured, effect: ({ payload }) => void told.push(Object.keys(payload.stages)) })
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    expect(told).toEqual(pit.snapshots.map(() => ['drive', 'amp', 'cab']))
  })

  it('tells the lit snapshot by itself, the others together, and none a second time with its traces', async () => {
    const told: string[][] = []
    desk.listen({ actionCreator: outputsMeasured, effect: ({ payload }) => void told.push(Object.keys(payload)) })
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    expect(told[0]).toEqual(['storm'])
    expect(told).toHaveLength(2)
    expect(new Set(told[1])).toEqual(new Set(pit.snapshots.map((s) => s.id).filter((id) => id !== 'storm')))
  })

  it('has the bands of the lit snapshot with its figures, and those of the others with their traces', async () => {
    const told: Record<string, boolean> = {}
    desk.listen({
      actionCreator: outputsMeasured,
      effect: ({ payload }) => Object.entries(payload).forEach(([id, { bands }]) => (told[id] = bands !== null)),
    })
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    expect(told).toEqual(Object.fromEntries(pit.snapshots.map(({ id }) => [id, id === 'storm'])))
    const lufs = -20 - gain(pit)
    expect(Object.values(desk.measures().snapshots).map((s) => s.bands)).toEqual(pit.snapshots.map(() => [{ hz: 1000, db: lufs }]))
    expect(wholeOutput(desk.measures().snapshots.storm)).toMatchObject({ integratedLufs: lufs, thirdOctave: [{ db: lufs }] })
    setGain(1)
    expect(wholeOutput(desk.measures().snapshots.storm)).toBeNull()
  })

  it('leaves the lit snapshot alone first where it is told to', async () => {
    const alone = setUp(true)
    alone.hold('storm')
    alone.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await waited(60)
    expect(alone.asked.map((a) => a.snapshot)).toEqual(['storm'])
    alone.hold(false)
    await alone.quiet()
    expect(Object.values(alone.measures().snapshots).every((s) => s.fresh)).toBe(true)
    // the others are measured where it cannot be
    alone.store.dispatch(edit({ type: 'rename', name: 'broken' }))
    await alone.quiet()
    expect(alone.asked.filter((a) => a.task === 'measure').length).toBeGreaterThan(2 * pit.snapshots.length)
  })

  it('tells the others within a quarter of a second where one of them takes long', async () => {
    const told: string[] = []
    desk.listen({ actionCreator: outputsMeasured, effect: ({ payload }) => void told.push(...Object.keys(payload)) })
    desk.hold('finale')
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await waited(400)
    // two threads, one of which is held
    expect(told).not.toContain('finale')
    expect(told.length).toBeGreaterThan(1)
    desk.hold(false)
    await desk.quiet()
    expect(told).toHaveLength(pit.snapshots.length)
  })

  it('tells figures of before at once, and measures a movement once', async () => {
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    desk.asked.length = 0
    for (const value of [1, 2, 3, 4]) {
      setGain(value)
      expect(desk.measures().snapshots.storm.fresh).toBe(false)
      await waited(20)
    }
    // the first edit stands alone and is begun at once, what follows within 160 ms is one movement
    await desk.quiet()
    expect(desk.asked.filter((a) => a.snapshot === 'storm' && a.task === 'measure').length).toBeLessThanOrEqual(2)
    expect(desk.measures().snapshots.storm.output?.integratedLufs).toBe(-24)
  })

  it('begins a single edit before whoever made it goes on, and one that follows fast once the hand rests', async () => {
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    desk.asked.length = 0
    setGain(1)
    expect(desk.asked).toMatchObject([{ task: 'measure', snapshot: 'storm', stages: true }])
    await waited(20)
    desk.asked.length = 0
    setGain(2)
    expect(desk.asked).toEqual([])
    await desk.quiet()
    expect(desk.asked.length).toBeGreaterThan(0)
  })

  it('stops what became stale: no figure of the edit before arrives', async () => {
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    desk.hold(true)
    setGain(1)
    await waited(40)
    setGain(9)
    await waited(200)
    desk.hold(false)
    await desk.quiet()
    expect(Object.values(desk.measures().snapshots).map((s) => s.output?.integratedLufs)).toContain(-29)
    expect(Object.values(desk.measures().snapshots).map((s) => s.output?.integratedLufs)).not.toContain(-21)
  })

  it('measures anew in another quality', async () => {
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    desk.asked.length = 0
    desk.store.dispatch(qualityChosen('high'))
    await desk.quiet()
    expect(desk.asked.filter((a) => a.quality === 'high' && a.task === 'measure').length).toBeGreaterThanOrEqual(pit.snapshots.length)
  })

  it('compares with the saved version on the riff that is heard now, anew for another snapshot and another version', async () => {
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    setGain(gain(pit) - 2)
    await desk.quiet()
    expect(matchDb(desk.store.getState())).toBeCloseTo(2)
    desk.store.dispatch(snapshotChosen(pit.snapshots[0].id))
    expect(matchDb(desk.store.getState())).toBeNull()
    await desk.quiet()
    expect(matchDb(desk.store.getState())).toBeCloseTo(2)
    const document = desk.store.getState().editor.history?.present ?? pit
    desk.store.dispatch(versionSaved({ number: 3, createdAt: 9, document }))
    await desk.quiet()
    expect(matchDb(desk.store.getState())).toBeCloseTo(0)
  })

  it('knows how much louder the chosen stage makes it, so that holding B compares at equal loudness', async () => {
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    const other = pit.chain.find((s) => s.id !== 'amp')?.id ?? ''
    desk.store.dispatch(stageChosen({ stage: other }))
    expect(bypassMatch(desk.store.getState())).toBeNull()
    await desk.quiet()
    expect(bypassMatch(desk.store.getState())).toMatchObject({ db: 0, ownDb: 3, at: 'own' })
  })

  it('tells what failed, and measures again after the next edit', async () => {
    desk.store.dispatch(opened({ stored: storedPreset({ ...pit, name: 'broken' }), pending: null, snapshot: 'storm' }))
    await desk.quiet()
    expect(desk.measures().error).toBe('This preset cannot be rendered.')
    desk.store.dispatch(edit({ type: 'rename', name: 'whole again' }))
    await desk.quiet()
    expect(desk.measures().error).toBeNull()
    expect(desk.measures().snapshots.storm.fresh).toBe(true)
  })

  it('ends when the preset is closed', async () => {
    desk.hold(true)
    desk.store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
    await waited(40)
    desk.store.dispatch(closed())
    desk.hold(false)
    await waited(60)
    expect(desk.asked.length).toBeLessThanOrEqual(2)
  })
})
