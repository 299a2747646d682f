import { describe, expect, it } from 'vitest'
import { Gestures, pressDelay, type Habits } from '.'

const habits = (change: Partial<Habits>): Habits => ({
  hold: false,
  double: false,
  momentary: false,
  holdMs: 400,
  doubleMs: 300,
  ...change,
})

/** What a foot makes of a switch: `v 100` comes down at 100 ms, `^ 180` leaves it; what falls due in between is called as its owner would. */
function played(change: Partial<Habits>, ...moves: readonly string[]): string[] {
  const gestures = new Gestures(habits(change))
  const heard: string[] = []
  const tell = (at: number, events: readonly { gesture: string; on: boolean }[]) =>
    heard.push(...events.map((e) => `${e.gesture} ${e.on ? 'on' : 'off'} ${at}`))
  const dueBefore = (end: number) => {
    for (let due = gestures.dueAt(); due !== null && due < end; due = gestures.dueAt()) tell(due, gestures.due(due))
  }
  for (const move of moves) {
    const [way, time] = move.split(' ')
    const at = Number(time)
    dueBefore(at)
    tell(at, way === 'v' ? gestures.down(at) : gestures.up(at))
  }
  dueBefore(Infinity)
  return heard
}

describe('a switch', () => {
  it('that knows only a press acts as the foot comes down', () => {
    expect(played({}, 'v 100', '^ 900')).toEqual(['press on 100', 'press off 900'])
    expect(played({}, 'v 100', '^ 150', 'v 200', '^ 250')).toHaveLength(4)
  })

  it('that can be held acts on release, or holds', () => {
    expect(played({ hold: true }, 'v 100', '^ 250')).toEqual(['press on 250', 'press off 250'])
    expect(played({ hold: true }, 'v 100', '^ 900')).toEqual(['hold on 500', 'hold off 900'])
    expect(played({ hold: true }, 'v 100', '^ 499')[0]).toBe('press on 499')
    // its owner was late, yet it counts as held
    const late = new Gestures(habits({ hold: true }))
    late.down(0)
    expect(late.up(450).map((e) => e.gesture)).toEqual(['hold', 'hold'])
  })

  it('that can be pressed twice waits for the second press', () => {
    expect(played({ double: true }, 'v 100', '^ 150')).toEqual(['press on 400', 'press off 400'])
    expect(played({ double: true }, 'v 100', '^ 150', 'v 300', '^ 350')).toEqual(['double on 300', 'double off 350'])
    expect(played({ double: true }, 'v 100', '^ 150', 'v 500', '^ 550').map((e) => e.split(' ')[0])).toEqual([
      'press',
      'press',
      'press',
      'press',
    ])
    // a foot that stays down is no second press
    expect(played({ double: true }, 'v 100', '^ 900')).toEqual(['press on 400', 'press off 900'])
    // three quick ones: a double and a single
    expect(
      played({ double: true }, 'v 0', '^ 50', 'v 100', '^ 150', 'v 200', '^ 250').map((e) => e.split(' ').slice(0, 2).join(' ')),
    ).toEqual(['double on', 'double off', 'press on', 'press off'])
  })

  it('that knows all three tells them apart', () => {
    const all = { hold: true, double: true }
    expect(played(all, 'v 100', '^ 150')).toEqual(['press on 400', 'press off 400'])
    expect(played(all, 'v 100', '^ 450')).toEqual(['press on 450', 'press off 450'])
    expect(played(all, 'v 100', '^ 800')).toEqual(['hold on 500', 'hold off 800'])
    expect(played(all, 'v 100', '^ 150', 'v 250', '^ 900')).toEqual(['double on 250', 'double off 900'])
  })

  it('that acts while it is down cannot wait', () => {
    expect(played({ momentary: true, hold: true }, 'v 100', '^ 900')).toEqual([
      'press on 100',
      'hold on 500',
      'press off 900',
      'hold off 900',
    ])
    expect(played({ momentary: true, double: true }, 'v 100', '^ 150')).toEqual(['press on 100', 'press off 150'])
    expect(played({ momentary: true, double: true }, 'v 100', '^ 150', 'v 200', '^ 250')).toEqual([
      'press on 100',
      'press off 150',
      'double on 200',
      'double off 250',
    ])
  })

  it('begins and ends everything just once, whatever the foot does', () => {
    let seed = 7
    const random = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below
    for (let run = 0; run < 200; run++) {
      const change = { hold: run % 2 === 0, double: run % 3 === 0, momentary: run % 5 === 0 }
      let at = 0
      const moves = Array.from({ length: 12 }, (_, i) => `${i % 2 === 0 ? 'v' : '^'} ${(at += 20 + random(500))}`)
      const on = new Set<string>()
      for (const event of played(change, ...moves)) {
        const [gesture, way] = event.split(' ')
        expect(on.has(gesture), `${event} of ${moves.join(', ')}`).toBe(way === 'off')
        if (way === 'on') on.add(gesture)
        else on.delete(gesture)
      }
      expect(on.size).toBe(0)
    }
  })

  it('says how late its press is', () => {
    expect(pressDelay(habits({}), 300)).toBe(0)
    expect(pressDelay(habits({ hold: true }), 300)).toBe('release')
    expect(pressDelay(habits({ hold: true, double: true }), 300)).toBe(300)
    expect(pressDelay(habits({ hold: true, momentary: true }), 300)).toBe(0)
  })
})
