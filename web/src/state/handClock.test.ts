import { expect, test } from 'vitest'
import { HandClock } from './handClock'

function clockAt() {
  const time = { now: 1000 }
  return { time, clock: new HandClock(() => time.now) }
}

test('it stands still while a pointer is pressed, and goes on from there', () => {
  const { time, clock } = clockAt()
  const first = clock.now()
  time.now += 50
  clock.press(1)
  time.now += 5000
  expect(clock.now() - first).toBe(50)
  clock.release(1)
  expect(clock.now() - first).toBe(50)
  time.now += 30
  expect(clock.now() - first).toBe(80)
})

test('a second finger holds it as the first does; a page that is left lets go of all', () => {
  const { time, clock } = clockAt()
  const first = clock.now()
  clock.press(1)
  clock.press(2)
  time.now += 10
  clock.release(1)
  time.now += 10
  expect(clock.now() - first).toBe(0)
  clock.releaseAll()
  time.now += 10
  expect(clock.now() - first).toBe(10)
  clock.release(2)
  expect(clock.now() - first).toBe(10)
})

test('it hears the pointers of its page', () => {
  const heard = new Map<string, (event: PointerEvent) => void>()
  const { time, clock } = clockAt()
  clock.watch({ addEventListener: (type: string, listener: unknown) => void heard.set(type, listener as (event: PointerEvent) => void) })
  const first = clock.now()
  const tell = (type: string) => heard.get(type)?.({ pointerId: 3 } as PointerEvent)
  tell('pointerdown')
  time.now += 900
  expect(clock.now()).toBe(first)
  tell('pointercancel')
  time.now += 5
  expect(clock.now()).toBe(first + 5)
})
