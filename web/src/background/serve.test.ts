import { describe, expect, it } from 'vitest'
import { Runs, threadOf } from './serve'

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
})
