import { expect, it } from 'vitest'
import { modelOf } from '@fulgor/core/catalogue'
import { evenOut, targetValue } from '..'

const level = modelOf('output').params.level

it('gives back along the travel what was measured, so that its sum is even', () => {
  const lufs = Array.from({ length: 21 }, (_, i) => -20 + 6 * Math.sin((i / 20) * 3))
  const made = evenOut(lufs, -2, [-60, 24])
  if (!made) throw new Error('it is not even')
  lufs.forEach((l, i) => expect(Math.abs(l + Number(targetValue(level, made, i / 20)) - (lufs[0] - 2))).toBeLessThan(0.1))
})

it('leaves alone what is even, what is silent, and stays in the range', () => {
  expect(evenOut([-18, -18.2, -18.1], 0, [-60, 24])).toBeNull()
  expect(evenOut([-18, null, -12], 0, [-60, 24])).toBeNull()
  expect(evenOut([-18, -60], 10, [-60, 24])?.to).toBe(24)
})
