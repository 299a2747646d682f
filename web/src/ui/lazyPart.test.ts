import { expect, it } from 'vitest'
import { untilLoaded } from './lazyPart'

it('asks again for code that did not come, after a pause each time', async () => {
  let asked = 0
  let paused = 0
  const load = () => (++asked < 3 ? Promise.reject(new TypeError('Failed to fetch')) : Promise.resolve('chart'))
  await expect(
    untilLoaded(load, () => {
      paused++
      return Promise.resolve()
    }),
  ).resolves.toBe('chart')
  expect([asked, paused]).toEqual([3, 2])
})
