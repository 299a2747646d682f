import { beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import type { Store } from './store'
import { fakeStorage, outputFigures, storedPreset } from './testing'

const kept = fakeStorage()

let store: Store
let editor: typeof import('./editor')
let actions: typeof import('./actions')
let levelling: typeof import('./levelling')
let measures: typeof import('./measures')
let player: typeof import('./player')
let notices: typeof import('./notices')
beforeAll(async () => {
  store = (await import('./store')).store
  editor = await import('./editor')
  actions = await import('./actions')
  levelling = await import('./levelling')
  measures = await import('./measures')
  player = await import('./player')
  notices = await import('./notices')
})

const pit = demoPresets[0].preset
const present = () => {
  const preset = actions.presentPreset(store.getState())
  if (!preset) throw new Error('nothing is open')
  return preset
}

beforeEach(() => {
  kept.clear()
  store.dispatch(editor.opened({ stored: storedPreset(pit), pending: null, snapshot: 'storm' }))
  store.dispatch(measures.measuringCleared())
  for (const notice of store.getState().notices) store.dispatch(notices.dismissed(notice.id))
})

describe('editor', () => {
  it('opens on the amp, in the wanted snapshot, as saved', () => {
    expect(store.getState().editor).toMatchObject({ stage: 'amp', snapshot: 'storm', revision: 4, sync: { status: 'saved' } })
  })

  it('opens edits that an earlier visit could not send as one undoable step', () => {
    const mine = { ...pit, tempo: 77 }
    store.dispatch(editor.opened({ stored: storedPreset(pit), pending: mine, snapshot: null }))
    expect(present().tempo).toBe(77)
    expect(store.getState().editor.sync.status).toBe('waiting')
    store.dispatch(editor.undone())
    expect(present().tempo).toBe(96)
  })

  it('waits for the server after an edit, undoes, redoes', () => {
    store.dispatch(actions.edit({ type: 'setTempo', tempo: 120 }))
    expect([present().tempo, store.getState().editor.sync.status]).toEqual([120, 'waiting'])
    store.dispatch(editor.undone())
    expect(present()).toBe(pit)
    store.dispatch(editor.redone())
    expect(present().tempo).toBe(120)
  })

  it('keeps what is chosen on what is still there', () => {
    store.dispatch(editor.stageChosen({ stage: 'eq' }))
    store.dispatch(actions.edit({ type: 'removeStage', stage: 'eq' }))
    expect(store.getState().editor.stage).toBe('gate')
    store.dispatch(actions.edit({ type: 'removeSnapshot', snapshot: 'storm' }))
    expect(store.getState().editor.snapshot).toBe('overture')
  })

  it('says why an edit cannot be made, and changes nothing', () => {
    const before = present()
    store.dispatch(actions.edit({ type: 'moveStage', stage: 'ghost', lane: null, index: 0 }))
    expect(present()).toBe(before)
    expect(store.getState().notices.at(-1)).toMatchObject({ kind: 'warning', text: 'There is no stage “ghost” in this preset.' })
  })

  it('edits land where they are heard: in the lit snapshot, or in what it shares', () => {
    const lands = (key: string) => actions.landsIn(store.getState(), 'amp', key)
    // opened, nothing chosen yet
    expect([lands('gain'), lands('bass')]).toEqual(['storm', null])
    store.dispatch(editor.snapshotChosen('storm'))
    expect([lands('gain'), lands('bass')]).toEqual(['storm', 'storm'])
    store.dispatch(editor.reachChosen('shared'))
    // its own gain stays its own: an edit of the base would not be heard
    expect([lands('gain'), lands('bass')]).toEqual(['storm', null])
    store.dispatch(editor.snapshotChosen('overture'))
    expect([lands('gain'), lands('bass')]).toEqual(['overture', 'overture'])
  })

  it('settles a conflict by taking theirs, which can be undone, or by going on with mine', () => {
    const theirs = { ...pit, name: 'Theirs' }
    store.dispatch(actions.edit({ type: 'rename', name: 'Mine' }))
    store.dispatch(editor.conflictFound({ revision: 9, document: theirs }))
    store.dispatch(editor.conflictSettled({ take: 'theirs' }))
    expect([present().name, store.getState().editor.revision]).toEqual(['Theirs', 9])
    store.dispatch(editor.undone())
    expect(present().name).toBe('Mine')
    store.dispatch(editor.conflictFound({ revision: 12, document: theirs }))
    store.dispatch(editor.conflictSettled({ take: 'mine' }))
    expect([present().name, store.getState().editor.revision, store.getState().editor.sync.status]).toEqual(['Mine', 12, 'waiting'])
  })

  it('takes in what another tab stored, undoably', () => {
    store.dispatch(editor.refreshed({ ...storedPreset({ ...pit, tempo: 101 }), revision: 5 }))
    expect([present().tempo, store.getState().editor.revision]).toEqual([101, 5])
    store.dispatch(editor.undone())
    expect(present().tempo).toBe(96)
  })
})

describe('snapshots and levelling', () => {
  it('adds and duplicates up to eight', () => {
    const id = store.dispatch(actions.addSnapshot('storm'))
    expect(present().snapshots.find((s) => s.id === id)?.name).toBe('Storm lead copy')
    expect(store.dispatch(actions.addSnapshot(null))).not.toBeNull()
    expect(store.dispatch(actions.addSnapshot(null))).toBeNull()
    expect(present().snapshots).toHaveLength(8)
    expect(store.getState().notices.at(-1)?.text).toContain('at most 8')
  })

  it('sets every output to the target from what was measured, in one step', () => {
    for (const [i, s] of pit.snapshots.entries()) store.dispatch(measures.outputsMeasured({ [s.id]: outputFigures(-20 + i) }))
    store.dispatch(levelling.levelSnapshots())
    const level = (id: string) => present().snapshots.find((s) => s.id === id)?.stages.out?.params?.level
    expect([level('overture'), level('strum'), level('lullaby')]).toEqual([2, 1, -1])
    // what meets the target already needs no value of its own
    expect(level('storm')).toBeUndefined()
    store.dispatch(editor.undone())
    expect(present()).toBe(pit)
  })

  it('waits for figures that are missing, then levels all, and leaves out what is silent, with a word', async () => {
    const level = () => present().snapshots[1].stages.out?.params?.level
    const texts = () =>
      store
        .getState()
        .notices.map((n) => n.text)
        .join(' | ')
    for (const s of pit.snapshots.slice(1)) store.dispatch(measures.outputsMeasured({ [s.id]: outputFigures(-30) }))
    store.dispatch(levelling.levelSnapshots())
    expect(level()).toBeUndefined()
    expect(texts()).toContain('Levelling as soon as Overture clean is measured')
    store.dispatch(measures.outputsMeasured({ overture: outputFigures(null) }))
    await vi.waitFor(() => expect(level()).toBe(12))
    expect(texts()).toContain('Overture clean (silent)')
    expect(texts()).toContain('Levelled 5 snapshots to the target.')
  })

  it('does nothing when the sheet changes while it waits', async () => {
    store.dispatch(levelling.levelSnapshots())
    store.dispatch(actions.edit({ type: 'setTempo', tempo: 97 }))
    await vi.waitFor(() => expect(store.getState().notices.at(-1)?.text).toContain('the sheet changed while it was measured'))
    expect(present().snapshots[1].stages.out).toBe(pit.snapshots[1].stages.out)
  })

  it('respects the range of the trim', () => {
    store.dispatch(measures.outputsMeasured({ strum: outputFigures(-60) }))
    store.dispatch(levelling.levelSnapshots('strum'))
    expect(present().snapshots[1].stages.out?.params?.level).toBe(24)
    expect(store.getState().notices.at(-1)?.text).toContain('the trim ends at 24 dB')
  })

  it('asks for an Output stage where there is none', () => {
    store.dispatch(actions.edit({ type: 'removeStage', stage: 'out' }))
    store.dispatch(levelling.levelSnapshots())
    expect(store.getState().notices.at(-1)?.text).toContain('needs an Output stage')
  })
})

describe('measures', () => {
  it('grow stale with an edit and fresh snapshot by snapshot', () => {
    store.dispatch(measures.outputsMeasured({ storm: outputFigures(-18) }))
    store.dispatch(measures.timed({ activeMs: 12, allMs: 20 }))
    store.dispatch(measures.measuringStarted(['storm', 'strum']))
    const { snapshots, lastAllMs } = store.getState().measures
    expect([snapshots.storm.fresh, snapshots.storm.output?.integratedLufs, lastAllMs]).toEqual([false, -18, null])
    expect(Object.keys(snapshots)).toEqual(['storm', 'strum'])
  })

  it('remember the comparison of a stage on and off, and an error', () => {
    store.dispatch(measures.bypassMeasured({ key: 'k', db: -2.5, ownDb: 1, at: 'own' }))
    expect(store.getState().measures.bypass).toEqual({ key: 'k', db: -2.5, ownDb: 1, at: 'own' })
    store.dispatch(measures.measuringFailed('No riff.'))
    expect(store.getState().measures.error).toBe('No riff.')
  })
})

describe('player', () => {
  it('keeps quality and the live input’s settings in the browser', () => {
    store.dispatch(player.qualityChosen('high'))
    store.dispatch(player.liveChanged({ trim: 6.5, hardPeakDbfs: -13.5 }))
    const settings = JSON.parse(kept.get('fulgor.player') ?? '{}') as { quality: string; live: { trim: number } }
    expect([settings.quality, settings.live.trim]).toEqual(['high', 6.5])
    store.dispatch(player.qualityChosen('live'))
  })

  it('stops playing and recording when something fails, and forgets the failure on the next start', () => {
    store.dispatch(player.playingChanged(true))
    store.dispatch(player.recordingChanged(true))
    store.dispatch(player.playerFailed('No sound.'))
    expect(store.getState().player).toMatchObject({ playing: false, recording: false, error: 'No sound.' })
    store.dispatch(player.playingChanged(true))
    expect(store.getState().player.error).toBeNull()
    store.dispatch(player.playingChanged(false))
  })
})

describe('notices', () => {
  it('stand once each, at most four', () => {
    for (const text of ['a', 'b', 'b', 'c', 'd', 'e']) store.dispatch(notices.notified({ kind: 'note', text }))
    expect(store.getState().notices.map((n) => n.text)).toEqual(['b', 'c', 'd', 'e'])
  })
})

describe('true peaks', () => {
  it('are the same object until one of them moves', () => {
    const peaks = () => measures.truePeaks(store.getState())
    store.dispatch(measures.measuringStarted(['storm', 'lullaby']))
    store.dispatch(measures.outputsMeasured({ storm: outputFigures(-18, { truePeakDbtp: -3 }) }))
    const before = peaks()
    expect(before).toEqual({ storm: -3, lullaby: null })
    store.dispatch(measures.stagesMeasured({ snapshot: 'storm', stages: { amp: {} as never } }))
    expect(peaks()).toBe(before)
    store.dispatch(measures.outputsMeasured({ lullaby: outputFigures(-18, { truePeakDbtp: 1.2 }) }))
    expect(peaks()).toEqual({ storm: -3, lullaby: 1.2 })
  })
})
