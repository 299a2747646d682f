import { expect, it } from 'vitest'
import { blankPreset, createHistory, PRESET_VERSION, undo, type History } from '@fulgor/core/preset'
import { broughtOver } from './undoStore'

/** As the program before guitars with positions has kept it. */
const old = (name: string) => {
  const { guitars: _g, hand: _h, madeOn: _m, ...preset } = blankPreset(name)
  return {
    ...preset,
    version: 3,
    guitar: { name: 'Mild single coil', hardPeakDbfs: -19, pickup: 'middle-neck' },
  } as unknown as History['present']
}

it('what an older program has kept can be undone in today’s format', () => {
  const kept: History = { ...createHistory(old('two')), past: [old('one')] }
  const now = broughtOver(kept)
  expect(now.present.version).toBe(PRESET_VERSION)
  const before = undo(now).present
  expect([before.name, before.guitars[0].positions[0].hard.peakDbfs, before.hand.position]).toEqual(['one', -19, 0])
})

it('what today’s program has kept is the same object', () => {
  const history = createHistory(blankPreset('x'))
  expect(broughtOver(history)).toBe(history)
})
