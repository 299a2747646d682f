import { describe, expect, it } from 'vitest'
import { Crew, type Job } from './crew'
import { threadOf } from './serve'
import { Cancelled, type Task } from './tasks'

/** Lets everything that waits for nothing have its turn. */
const settled = () => new Promise((done) => setTimeout(done, 5))

/** Work that ends when the test says so. */
class Bench {
  readonly begun: string[] = []
  readonly ended: string[] = []
  private readonly gates = new Map<string, () => void>()
  readonly died: ((reason: string) => void)[] = []

  readonly tasks = {
    work: async (task: Task, name: string) => {
      this.begun.push(name)
      const open = new Promise<void>((done) => this.gates.set(name, done))
      await open
      await task.breathe()
      task.tell(`half of ${name}`)
      this.ended.push(name)
      return `${name}${task.stopping ? ' in part' : ''}`
    },
    fail: (_task: Task, reason: string): Promise<string> => Promise.reject(new Error(reason)),
  }

  crew(size: number) {
    return new Crew<typeof this.tasks>((died) => {
      this.died.push(died)
      return threadOf(this.tasks)
    }, size)
  }

  open(name: string): Promise<unknown> {
    this.gates.get(name)?.()
    return settled()
  }
}

type Tasks = Bench['tasks']
const work = (name: string, how: Partial<Job<Tasks, 'work'>> = {}): Job<Tasks, 'work'> => ({ task: 'work', args: [name], ...how })

describe('a crew', () => {
  it('starts its threads before there is work, each once', async () => {
    const bench = new Bench()
    const crew = bench.crew(2)
    crew.warm()
    crew.warm()
    crew.ask(work('a'))
    await settled()
    expect(bench.died.length).toBe(2)
    expect(bench.begun).toEqual(['a'])
  })

  it('gives each thread one job at a time, and begins in the order of rank', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    crew.ask(work('first', { rank: 'idle' }))
    await settled()
    for (const [name, rank] of [
      ['traces', 'idle'],
      ['beside', 'beside'],
      ['lit', 'lit'],
    ] as const)
      crew.ask(work(name, { rank }))
    await settled()
    expect(bench.begun).toEqual(['first'])
    for (const name of ['first', 'lit', 'beside', 'traces']) await bench.open(name)
    expect(bench.ended).toEqual(['first', 'lit', 'beside', 'traces'])
  })

  it('has what is looked at on its way before whoever asks goes on, and leaves the rest for later', async () => {
    const bench = new Bench()
    const crew = bench.crew(2)
    crew.ask(work('beside', { rank: 'beside' }))
    expect(bench.begun).toEqual([])
    await settled()
    expect(bench.begun).toEqual(['beside'])
    crew.ask(work('lit', { rank: 'lit', home: 1 }))
    crew.ask(work('another', { rank: 'beside' }))
    expect(bench.begun).toEqual(['beside', 'lit'])
    await settled()
    expect(bench.begun).toEqual(['beside', 'lit'])
  })

  it('begins what is urgent at once, beside what runs', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    crew.ask(work('long'))
    await settled()
    crew.ask(work('chart', { rank: 'now' }))
    await settled()
    expect(bench.begun).toEqual(['long', 'chart'])
  })

  it('begins what is urgent beside what is next to the lit, not beside the lit itself', async () => {
    const bench = new Bench()
    const crew = bench.crew(2)
    const told: string[] = []
    const hear = (name: string) => ({ onPart: (part: unknown) => void told.push(`${name}: ${String(part)}`) })
    crew.ask(work('lit', { rank: 'lit', home: 0 }))
    crew.ask(work('beside', { rank: 'beside', home: 1 }))
    await settled()
    for (const name of ['curve', 'base', 'third']) crew.ask(work(name, { rank: 'now', ...hear(name) }))
    await settled()
    // the thread that died takes with it what ran on it
    bench.died[1]('test')
    await settled()
    for (const name of ['curve', 'base', 'third', 'lit']) await bench.open(name)
    expect(bench.begun).toEqual(['lit', 'beside', 'curve', 'base', 'third'])
    expect(told).toEqual([])
  })

  it('starts a second thread only for a second job, and sends a job home', async () => {
    const bench = new Bench()
    const crew = bench.crew(2)
    crew.ask(work('a'))
    await settled()
    expect(bench.died).toHaveLength(1)
    crew.ask(work('b', { home: 1 }))
    await settled()
    expect(bench.died).toHaveLength(2)
    expect(bench.begun).toEqual(['a', 'b'])
  })

  it('leaves a job to its home while that is free, and takes it over while that is busy', async () => {
    const bench = new Bench()
    const crew = bench.crew(2)
    crew.ask(work('home 1 a', { home: 1 }))
    await settled()
    // the first thread is free, yet the second one knows the sound already
    expect(bench.died).toHaveLength(2)
    crew.ask(work('home 1 b', { home: 1 }))
    await settled()
    expect(bench.begun).toEqual(['home 1 a', 'home 1 b'])
  })

  it('deals out what is asked for together so that each goes home', async () => {
    const bench = new Bench()
    const crew = bench.crew(2)
    for (const [name, home] of [
      ['lit', 0],
      ['next at 0', 0],
      ['first at 1', 1],
    ] as const)
      crew.ask(work(name, { home, rank: name === 'lit' ? 'lit' : 'beside' }))
    await settled()
    expect(bench.begun).toEqual(['lit', 'first at 1'])
  })

  it('does equal jobs once, and ends the work only when nobody waits any more', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    const [one, two] = [crew.ask(work('same')), crew.ask(work('same'))]
    await settled()
    expect(bench.begun).toEqual(['same'])
    one.leave()
    await expect(one.answer).rejects.toBeInstanceOf(Cancelled)
    await bench.open('same')
    await expect(two.answer).resolves.toBe('same')
  })

  it('stops at the next breath what was given up, and begins the next', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    const given = crew.ask(work('given up'))
    const waiting = crew.ask(work('never begun'))
    const wanted = crew.run(work('wanted'))
    await settled()
    given.leave()
    waiting.leave()
    await bench.open('given up')
    await bench.open('wanted')
    await expect(wanted).resolves.toBe('wanted')
    expect(bench.ended).toEqual(['wanted'])
    expect(bench.begun).not.toContain('never begun')
  })

  it('asks anew for what was given up while it still ran', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    const first = crew.ask(work('again'))
    await settled()
    first.leave()
    const second = crew.run(work('again'))
    await bench.open('again')
    await bench.open('again')
    await expect(second).resolves.toBe('again')
  })

  it('lets only the newest of a line wait', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    const ask = (name: string) => crew.ask(work(name, { line: 'picture' })).answer
    const first = ask('1')
    await settled()
    const [second, third] = [ask('2'), ask('3')]
    await expect(second).rejects.toBeInstanceOf(Cancelled)
    await bench.open('1')
    await bench.open('3')
    await expect(Promise.all([first, third])).resolves.toEqual(['1', '3'])
    expect(bench.begun).toEqual(['1', '3'])
  })

  it('keeps an answer for those who ask later, where that is wished, and no failure', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    const first = crew.run(work('kept', { keep: 1 }))
    await settled()
    await bench.open('kept')
    await first
    await expect(crew.run(work('kept', { keep: 1 }))).resolves.toBe('kept')
    expect(bench.begun).toEqual(['kept'])
    for (let round = 0; round < 2; round++)
      await expect(crew.run({ task: 'fail', args: ['no such file'], keep: 1 })).rejects.toThrow('no such file')
  })

  it('hands on what is ready early, and comes to an early end with what there is', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    const parts: unknown[] = []
    const asked = crew.ask(work('import', { onPart: (part) => parts.push(part) }))
    await settled()
    asked.stop()
    await bench.open('import')
    await expect(asked.answer).resolves.toBe('import in part')
    expect(parts).toEqual(['half of import'])
  })

  it('fails what a thread ran when it dies, and goes on with another one', async () => {
    const bench = new Bench()
    const crew = bench.crew(1)
    const lost = crew.run(work('lost'))
    const next = crew.run(work('next'))
    await settled()
    bench.died[0]('out of memory')
    await expect(lost).rejects.toThrow('The work in the background ended: out of memory')
    await settled()
    await bench.open('next')
    await expect(next).resolves.toBe('next')
    expect(bench.died).toHaveLength(2)
  })
})
