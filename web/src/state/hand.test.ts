import { expect, it } from 'vitest'
import { GUITARS } from '@fulgor/core/guitar'
import { applyEdit, blankPreset, handOf, type Preset } from '@fulgor/core/preset'
import { opened } from './editor'
import { presentPreset } from './actions'
import { madeOnThis, playOnGuitar, setHand } from './hand'
import { createStore } from './store'
import { storedPreset } from './testing'

function desk(preset: Preset) {
  const { store } = createStore()
  store.dispatch(opened({ stored: storedPreset(preset), pending: null, snapshot: null }))
  return { store, now: () => presentPreset(store.getState()) as Preset }
}

it('turns the preset’s knobs, or the lit snapshot’s where it has its own', () => {
  const { store, now } = desk(applyEdit(blankPreset('x'), { type: 'setHand', snapshot: 's1', hand: { tone: 4 } }))
  store.dispatch(setHand({ volume: 7, tone: 5 }))
  expect(now().hand).toMatchObject({ volume: 7, tone: 10 })
  expect(now().snapshots[0].hand).toEqual({ tone: 5 })
})

it('plays on another guitar without forgetting what the preset was made on, in one step', () => {
  const { store, now } = desk(blankPreset('x'))
  store.dispatch(playOnGuitar({ id: 'plank', profile: GUITARS[3], kit: 'kit-plank' }, 2))
  expect(handOf(now(), null)).toMatchObject({ guitar: 'plank', position: 2 })
  expect(now().guitars.map((g) => [g.id, g.kit])).toEqual([
    ['made-on', undefined],
    ['plank', 'kit-plank'],
  ])
  store.dispatch(playOnGuitar({ id: 'made-on', profile: GUITARS[0] }))
  expect(handOf(now(), null)).toMatchObject({ guitar: 'made-on', position: 0 })
  store.dispatch(playOnGuitar({ id: 'plank', profile: GUITARS[3] }, 2))
  store.dispatch(madeOnThis())
  expect([now().guitars[0].id, now().madeOn]).toEqual(['plank', 2])
})
