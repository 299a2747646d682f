import { beforeEach, describe, expect, it, vi } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { Crew } from '../background/crew'
import { threadOf } from '../background/serve'
import type { Task } from '../background/tasks'
import { edit } from '../state/actions'
import { closed, opened, snapshotChosen, stageChosen, versionSaved } from '../state/editor'
import { bypassMeasured, outputsMeasured, savedMeasured } from '../state/measures'
import { auditionChosen, dryChanged, judgingChanged, monoChanged, playingChanged, qualityChosen, sideChosen } from '../state/player'
import { createStore } from '../state/store'
import { fakeStorage, outputFigures, storedPreset } from '../state/testing'
import type { CabinetTasks } from '../threads/cabinet.worker'
import { Feed } from './feed'
import { bypassKey, savedKey } from './measuring'
import type { RenderTasks } from '../threads/render.worker'
import type { ToWorklet } from './worklet/messages'

fakeStorage()
const pit = demoPresets[0].preset
const soon = () => new Promise((done) => setTimeout(done, 10))

/** A feed whose threads and whose audio thread are the test's. */
async function setUp(snapshot = 'storm') {
  const { store, listen } = createStore()
  const failing = { riff: false, taps: false }
  const blends: string[] = []
  const renders = {
    responses: (_task: Task, _rate: number) => ({ 'shipped.open-12': new Float64Array([1]) }),
    riff: (_task: Task, source: { kind: string }) => {
      if (failing.riff) throw new Error('The riff is not on this machine.')
      return new Float32Array(source.kind === 'shipped' ? 8 : 4)
    },
  }
  const cabinets = {
    taps: (_task: Task, id: string) => {
      blends.push(id)
      if (failing.taps) throw new Error('The server did not give an impulse response.')
      return { left: new Float64Array([1]), right: null }
    },
  }
  const renderers = new Crew<typeof renders>(() => threadOf(renders), 1) as unknown as Crew<RenderTasks>
  const cabinetMaker = new Crew<typeof cabinets>(() => threadOf(cabinets), 1) as unknown as Crew<CabinetTasks>
  const heard: ToWorklet[] = []
  const feed = new Feed(store, { renderers, cabinetMaker }, () => undefined)
  listen({ predicate: () => true, effect: () => feed.follow() })
  store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot }))
  await feed.begin((message) => heard.push(message))
  await vi.waitFor(() => expect(heard.map((m) => m.type)).toContain('plan'))
  await soon()
  const of = <T extends ToWorklet['type']>(type: T) => heard.filter((m): m is Extract<ToWorklet, { type: T }> => m.type === type)
  return { store, feed, heard, of, failing, blends }
}

describe('what the audio thread is told', () => {
  let desk: Awaited<ReturnType<typeof setUp>>
  beforeEach(async () => {
    desk = await setUp()
  })
  const plans = () => desk.of('plan')
  const last = () => plans()[plans().length - 1]

  it('comes with the responses first, then the plan, the riff and what else stands', () => {
    expect(desk.heard[0].type).toBe('responses')
    expect(new Set(desk.heard.map((m) => m.type))).toEqual(new Set(['responses', 'plan', 'positions', 'riff', 'play', 'source']))
    expect(last()).toMatchObject({ gain: 1, quality: 'live' })
    expect(desk.of('riff')).toHaveLength(1)
  })

  it('is told once: what changes nothing that sounds sends nothing', async () => {
    const before = desk.heard.length
    desk.store.dispatch(edit({ type: 'setNotes', notes: 'for the second act' }))
    desk.store.dispatch(edit({ type: 'setParam', stage: 'amp', snapshot: 'storm', param: 'gain', value: 2 }))
    await soon()
    // notes make another document, yet a plan costs the audio thread nothing when nothing in it changed
    expect(desk.heard.slice(before).every((m) => m.type === 'plan')).toBe(true)
    expect(last().plan.values.amp.params.gain).toBe(2)
    const count = desk.heard.length
    desk.store.dispatch(outputsMeasured({ storm: outputFigures(-18) }))
    expect(desk.heard.length).toBe(count)
  })

  it('follows the lit snapshot', () => {
    desk.store.dispatch(snapshotChosen(pit.snapshots[0].id))
    expect(plans().length).toBeGreaterThan(1)
  })

  it('plays the saved version level-matched while B is held', () => {
    desk.store.dispatch(edit({ type: 'setParam', stage: 'amp', snapshot: 'storm', param: 'gain', value: 2 }))
    desk.store.dispatch(outputsMeasured({ storm: outputFigures(-18) }))
    desk.store.dispatch(savedMeasured({ key: savedKey(2, 'storm'), lufs: -24 }))
    desk.store.dispatch(sideChosen('B'))
    expect(last().gain).toBeCloseTo(Math.pow(10, 6 / 20))
    expect(last().plan.values.amp.params.gain).not.toBe(2)
    // figures of another version are not taken for it
    desk.store.dispatch(versionSaved({ number: 3, createdAt: 9, document: pit }))
    expect(last().gain).toBe(1)
  })

  it('switches the chosen stage over at equal loudness, or plays what it adds', () => {
    const stage = pit.chain[0].id
    desk.store.dispatch(stageChosen({ stage }))
    const on = last().plan.values[stage].on
    const key = bypassKey(desk.store.getState()) ?? ''
    desk.store.dispatch(bypassMeasured({ key, db: -3, ownDb: -9, at: 'end' }))
    desk.store.dispatch(judgingChanged('switched'))
    expect(last().plan.values[stage].on).toBe(!on)
    expect(last().gain).toBeCloseTo(Math.pow(10, -3 / 20))
    // in front of what clips the stage's own place is turned, and the end is left as it is
    desk.store.dispatch(bypassMeasured({ key, db: -3, ownDb: -9, at: 'own' }))
    expect(last().gain).toBe(1)
    expect(last().plan.values[stage].passDb).toBe(-9)
    desk.store.dispatch(judgingChanged('difference'))
    expect(last().plan.values[stage].on).toBe(true)
    expect(last().against?.[stage].on).toBe(false)
  })

  it('judges dry without what comes after the amp, and without pedals that are moved', () => {
    expect(last().plan.control).not.toBeNull()
    desk.store.dispatch(dryChanged(true))
    expect(last().plan.control).toBeNull()
    const off = Object.entries(last().plan.values).filter(([, v]) => !v.on)
    expect(off.length).toBeGreaterThan(0)
  })

  it('waits for a blend that is still computed, and sends it once', async () => {
    const cabinet = pit.chain.find((s) => 'model' in s && s.model.startsWith('cabinet'))?.id ?? ''
    const count = plans().length
    desk.store.dispatch(auditionChosen({ stage: cabinet, response: 'blend:mine', gainDb: 0 }))
    expect(plans()).toHaveLength(count)
    await vi.waitFor(() => expect(plans().length).toBeGreaterThan(count))
    expect(Object.keys(last().responses ?? {})).toContain('blend:mine')
    desk.store.dispatch(edit({ type: 'setParam', stage: 'amp', snapshot: 'storm', param: 'gain', value: 3 }))
    expect(Object.keys(last().responses ?? {})).not.toContain('blend:mine')
    expect(desk.blends.filter((id) => id === 'blend:mine')).toHaveLength(1)
  })

  it('tells a blend that cannot be computed, and does not ask for it without end', async () => {
    desk.failing.taps = true
    const cabinet = pit.chain.find((s) => 'model' in s && s.model.startsWith('cabinet'))?.id ?? ''
    desk.store.dispatch(auditionChosen({ stage: cabinet, response: 'blend:lost', gainDb: 0 }))
    await vi.waitFor(() => expect(desk.store.getState().player.error).toContain('did not give'))
    for (let i = 0; i < 5; i++) desk.store.dispatch(monoChanged(i % 2 === 0))
    await soon()
    expect(desk.blends.filter((id) => id === 'blend:lost')).toHaveLength(1)
  })

  it('tells a riff that is not there, and asks for it again with a change some seconds later', async () => {
    desk.failing.riff = true
    desk.store.dispatch(edit({ type: 'setTempo', tempo: 140 }))
    await vi.waitFor(() => expect(desk.store.getState().player.error).toBe('The riff is not on this machine.'))
    desk.failing.riff = false
    desk.store.dispatch(monoChanged(true))
    await soon()
    expect(desk.of('riff')).toHaveLength(1)
    vi.spyOn(performance, 'now').mockReturnValue(performance.now() + 3_100)
    desk.store.dispatch(monoChanged(false))
    vi.restoreAllMocks()
    await vi.waitFor(() => expect(desk.of('riff')).toHaveLength(2))
  })

  it('tells play, loop and mono, the quality with the plan, and stops with the preset', () => {
    desk.store.dispatch(playingChanged(true))
    desk.store.dispatch(monoChanged(true))
    expect(desk.of('play').slice(-1)[0]).toEqual({ type: 'play', on: true, loop: true, mono: true })
    desk.store.dispatch(qualityChosen('highest'))
    expect(last().quality).toBe('highest')
    desk.store.dispatch(closed())
    expect(desk.store.getState().player.playing).toBe(false)
  })

  it('begins anew for another audio thread', async () => {
    desk.feed.end()
    const count = desk.heard.length
    desk.store.dispatch(monoChanged(true))
    expect(desk.heard.length).toBe(count)
    const again: ToWorklet[] = []
    await desk.feed.begin((message) => again.push(message))
    await vi.waitFor(() =>
      expect(new Set(again.map((m) => m.type))).toEqual(new Set(['responses', 'plan', 'positions', 'riff', 'play', 'source'])),
    )
  })
})
