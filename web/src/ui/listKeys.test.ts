import { expect, it } from 'vitest'
import { stepped } from './listKeys'

it('walks a list in a ring, from none to its near end', () => {
  expect([stepped(-1, 1, 5), stepped(-1, -1, 5)]).toEqual([0, 4])
  expect([stepped(4, 1, 5), stepped(0, -1, 5), stepped(2, 1, 5)]).toEqual([0, 4, 3])
  // the list has become shorter while the mark stood at its end
  expect(stepped(9, -1, 3)).toBe(1)
})
