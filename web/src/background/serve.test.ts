import { describe, expect, it } from 'vitest'
import { Runs, threadOf } from './serve'
import type { Task } from './tasks'

const arrived = () => new Promise((done) => setTimeout(done, 5))

describe('what runs in a thread', () => {
  it('rests when all has ended that ran then, well or badly, whatever has begun since', async () => {
    const runs = new Runs()
    const ends = new Map<string, { well: () => void; badly: (error: Error) => void }>()
    const work = (_task: unknown, name: string) => new Promise<void>((well, badly) => void ends.set(name, { well, badly }))
    const thread = threadOf({ work }, runs)
    const run = (ticket: number, name: string) => thread.run(ticket, 'work', [name], null).catch(() => undefined)
    const [first, second] = [run(1, 'a'), run(2, 'b')]
    let rested = false
    const rest = runs.rest().then(() => (rested = true))
    void run(3, 'c')
    ends.get('a')?.badly(new Error('no'))
    await first
    await arrived()
    expect(rested).toBe(false)
    ends.get('b')?.well()
    await second
    await rest
    expect(rested).toBe(true)
    // only the third one still runs
    ends.get('c')?.well()
    await arrived()
    await runs.rest()
  })

  it('rests at once where nothing runs', async () => {
    await new Runs().rest()
  })

  it('answers only when the last part was heard, which travels another way than the answer', async () => {
    const heard: number[] = []
    const slowly = (part: unknown) =>
      new Promise<void>((done) =>
        setTimeout(() => {
          heard.push(part as number)
          done()
        }, 20),
      )
    const thread = threadOf({
      work: (task: Task) => {
        for (let k = 0; k < 3; k++) task.tell(k)
        return 'all'
      },
    })
    expect(await thread.run(1, 'work', [], slowly)).toBe('all')
    expect(heard).toEqual([0, 1, 2])
  })

  it('answers though a part could not be heard', async () => {
    const thread = threadOf({
      work: (task: Task) => {
        task.tell(1)
        return 'all'
      },
    })
    expect(await thread.run(1, 'work', [], () => Promise.reject(new Error('gone')))).toBe('all')
  })
})
