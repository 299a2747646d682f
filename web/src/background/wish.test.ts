import { describe, expect, it } from 'vitest'
import { Crew, type Job } from './crew'
import { Errands } from './errand'
import { threadOf } from './serve'
import { Cancelled, type Task } from './tasks'
import { Wish } from './wish'

const waited = (ms = 5) => new Promise((done) => setTimeout(done, ms))

function setUp() {
  const gates = new Map<string, () => void>()
  const begun: string[] = []
  const tasks = {
    draw: async (task: Task, name: string) => {
      begun.push(name)
      await new Promise<void>((done) => gates.set(name, done))
      await task.breathe()
      if (name.startsWith('bad')) throw new Error(`${name} cannot be drawn`)
      return `picture of ${name}`
    },
  }
  const crew = new Crew<typeof tasks>(() => threadOf(tasks), 1)
  const job = (name: string, how: Partial<Job<typeof tasks, 'draw'>> = {}) => crew.job('draw', [name], { rank: 'now', ...how })
  const open = async (name: string) => {
    gates.get(name)?.()
    await waited()
  }
  return { crew, job, open, begun }
}

describe('a wish', () => {
  it('tells what came of each job, and when all is there', async () => {
    const { crew, job, open } = setUp()
    const wish = new Wish(crew)
    let told = 0
    wish.subscribe(() => told++)
    wish.ask([job('a'), job('bad b')], {}, ['x'])
    await waited()
    expect(wish.now()).toMatchObject({ answers: [undefined, undefined], waiting: 2, ms: null, of: ['x'] })
    await open('bad b')
    expect(wish.now()).toMatchObject({ problems: [undefined, 'bad b cannot be drawn'], waiting: 1 })
    await open('a')
    expect(wish.now()).toMatchObject({ answers: ['picture of a', undefined], waiting: 0 })
    expect(wish.now().ms).toBeGreaterThan(0)
    expect(told).toBe(3)
  })

  it('never shows an answer of before', async () => {
    const { crew, job, open } = setUp()
    const wish = new Wish(crew)
    wish.ask([job('old')])
    await waited()
    wish.ask([job('new')])
    await open('old')
    expect(wish.now().answers).toEqual([undefined])
    await open('new')
    expect(wish.now().answers).toEqual(['picture of new'])
  })

  it('asks once for a movement', async () => {
    const { crew, job, begun } = setUp()
    const wish = new Wish(crew)
    for (const name of ['1', '2', '3']) wish.ask([job(name)], { afterMs: 10 })
    await waited(25)
    expect(begun).toEqual(['3'])
  })

  it('holds what was seen until there is something newer, where that is wished', async () => {
    const { crew, job, open } = setUp()
    const wish = new Wish(crew)
    wish.ask([job('old')], { hold: true }, ['old'])
    await waited()
    await open('old')
    wish.ask([job('new')], { hold: true }, ['new'])
    expect(wish.now()).toMatchObject({ answers: ['picture of old'], of: ['old'] })
    await waited()
    await open('new')
    expect(wish.now()).toMatchObject({ answers: ['picture of new'], of: ['new'] })
  })

  it('follows a movement: what runs is let run and seen, and never after what is newer', async () => {
    const { crew, job, open } = setUp()
    const wish = new Wish(crew)
    const follow = { hold: true, follow: true }
    wish.ask([job('1')], follow)
    await waited()
    wish.ask([job('2')], follow)
    await waited()
    await open('1')
    expect(wish.now().answers).toEqual(['picture of 1'])
    wish.ask([job('3')], follow)
    await waited()
    await open('3')
    await open('2')
    expect(wish.now().answers).toEqual(['picture of 3'])
  })

  it('asks anew only when what it is made for has changed, or after it was given up', async () => {
    const { crew, job, begun } = setUp()
    const wish = new Wish(crew)
    const want = (of: string) => wish.want([of, 1], () => [job(of)])
    want('a')
    want('a')
    want('b')
    await waited()
    expect(begun).toEqual(['b'])
    wish.leave()
    want('b')
    await waited()
    expect(begun).toEqual(['b', 'b'])
  })

  it('wishes for nothing, and shows nothing', async () => {
    const { crew, job, open } = setUp()
    const wish = new Wish(crew)
    wish.ask([job('old')])
    await waited()
    wish.ask([], {}, ['none'])
    await open('old')
    const nothing = wish.now()
    expect(nothing).toEqual({ answers: [], problems: [], waiting: 0, ms: null, of: [] })
    // what stays nothing is no news, or a component that wishes anew at every drawing would never rest
    let told = 0
    wish.subscribe(() => told++)
    wish.ask([], {}, ['still none'])
    expect([wish.now() === nothing, told]).toEqual([true, 0])
  })
})

describe('errands', () => {
  it('go on job by job until a newer one begins', async () => {
    const { crew, job, open, begun } = setUp()
    const errands = new Errands()
    const first = errands.begin()
    const steps = (async () => [await first.run(crew, job('1')), await first.run(crew, job('2'))])()
    await waited()
    await open('1')
    const second = errands.begin()
    await expect(steps).rejects.toBeInstanceOf(Cancelled)
    await expect(first.run(crew, job('late'))).rejects.toBeInstanceOf(Cancelled)
    const answer = second.run(crew, job('3'))
    await waited()
    await open('3')
    await expect(answer).resolves.toBe('picture of 3')
    expect(begun).toEqual(['1', '2', '3'])
  })
})
