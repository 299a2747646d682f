import { afterEach, describe, expect, it, vi } from 'vitest'
import { Exchange } from './exchange'

/** Locks as a browser has them: one at a time under a name. */
function locks() {
  const ends = new Map<string, Promise<unknown>>()
  return {
    request: (name: string, work: () => Promise<unknown>) => {
      const mine = (ends.get(name) ?? Promise.resolve()).then(work, work)
      ends.set(name, mine)
      return mine
    },
  }
}

const opened: MessagePort[] = []
function twoThreads(canShare = true): [Exchange, Exchange] {
  const { port1, port2 } = new MessageChannel()
  opened.push(port1, port2)
  const [one, two] = [new Exchange(canShare), new Exchange(canShare)]
  one.meet({ introduces: port1, page: 'p' })
  two.meet({ introduces: port2, page: 'p' })
  return [one, two]
}
const arrived = () => new Promise((done) => setTimeout(done, 20))

afterEach(() => {
  for (const port of opened.splice(0)) port.close()
  vi.unstubAllGlobals()
})

describe('the exchange', () => {
  it('hands on what is laid down, in the same memory', async () => {
    const [one, two] = twoThreads()
    const samples = one.floats(8)
    one.lay('a', { samples })
    await arrived()
    samples[3] = 0.5
    expect((two.find('a')?.samples as Float32Array)[3]).toBe(0.5)
    expect(two.find('b')).toBeUndefined()
    expect(one.find('a')).toBeUndefined()
  })

  it('has one other thread work something out of what was laid down, which finds it there', async () => {
    const { port1, port2 } = new MessageChannel()
    opened.push(port1, port2)
    const asked: [what: string, key: string, found: unknown][] = []
    const one = new Exchange(true)
    const two = new Exchange(true, undefined, undefined, (what, key) => {
      asked.push([what, key, two.find(key)?.samples])
      two.lay(`${what} of ${key}`, { sum: 3 })
    })
    one.meet({ introduces: port1, page: 'p' })
    two.meet({ introduces: port2, page: 'p' })
    const samples = one.floats(2)
    one.lay('a', { samples })
    one.ask('sum', 'a')
    await arrived()
    expect(asked).toEqual([['sum', 'a', samples]])
    expect(one.find('sum of a')).toEqual({ sum: 3 })
    // nobody hears it where a thread is alone
    expect(() => new Exchange(true).ask('sum', 'a')).not.toThrow()
  })

  it('makes once what both ask for at the same time', async () => {
    vi.stubGlobal('navigator', { locks: locks() })
    const [one, two] = twoThreads()
    const make = vi.fn(async () => {
      await arrived()
      return { samples: one.seen(Float64Array.of(1, 2, 3)) }
    })
    const [a, b] = await Promise.all([one.once('riff', make), two.once('riff', make)])
    expect(make).toHaveBeenCalledTimes(1)
    expect([...b.samples]).toEqual([1, 2, 3])
    expect(b.samples.buffer).toBeInstanceOf(SharedArrayBuffer)
    expect([...a.samples]).toEqual([...b.samples])
  })

  it('lets who waited make it when the other one fails', async () => {
    vi.stubGlobal('navigator', { locks: locks() })
    const [one, two] = twoThreads()
    const fails = one.once('riff', () => Promise.reject(new Error('no such riff')))
    const works = two.once('riff', () => ({ samples: two.floats(1) }))
    await expect(fails).rejects.toThrow('no such riff')
    expect((await works).samples.length).toBe(1)
  })

  it('lets everyone make all by itself where memory cannot be shared', async () => {
    const [one, two] = twoThreads(false)
    expect(one.alone).toBe(true)
    expect(one.floats(4).buffer).toBeInstanceOf(ArrayBuffer)
    const make = vi.fn(() => ({ samples: new Float32Array(2) }))
    await Promise.all([one.once('riff', make), two.once('riff', make)])
    expect(make).toHaveBeenCalledTimes(2)
  })

  describe('rooms that are withdrawn', () => {
    /** Two threads, each with a run that ends when it is told to. */
    function busyThreads() {
      const { port1, port2 } = new MessageChannel()
      opened.push(port1, port2)
      const ends: (() => void)[] = []
      const runs = [0, 1].map((k) => new Promise<void>((done) => (ends[k] = done)))
      const forgotten: string[] = []
      const [one, two] = runs.map(
        (run) =>
          new Exchange(
            true,
            () => run,
            (key) => void forgotten.push(key),
          ),
      )
      one.meet({ introduces: port1, page: 'p' })
      two.meet({ introduces: port2, page: 'p' })
      return { one, two, ends, forgotten }
    }

    it.each([
      [0, 1],
      [1, 0],
    ])('are used again when both threads have done what they did (%s first)', async (first, second) => {
      const { one, two, ends, forgotten } = busyThreads()
      const room = one.floats(8)
      room.fill(3)
      one.layRooms('a', { left: room, right: room, stereo: false })
      await arrived()
      const seen = two.find('a')?.left as Float32Array
      one.withdraw('a')
      await arrived()
      expect(two.find('a')).toBeUndefined()
      expect(forgotten).toEqual(['a'])
      expect(one.floats(8)).not.toBe(room)
      ends[first]()
      await arrived()
      expect(one.floats(8)).not.toBe(room)
      ends[second]()
      await arrived()
      expect(one.floats(9)).not.toBe(room)
      expect(one.floats(8)).toBe(room)
      expect([...seen]).toEqual([...room])
      expect(one.floats(8)).not.toBe(room)
      // what was never laid down cannot be withdrawn
      one.withdraw('a')
      await arrived()
      expect(one.floats(8)).not.toBe(room)
    })

    it('stay what they are under a key that was laid down anew', async () => {
      const { one, two, ends } = busyThreads()
      one.layRooms('a', { left: one.floats(8) })
      one.withdraw('a')
      const again = one.floats(8)
      again.fill(5)
      one.layRooms('a', { left: again })
      await arrived()
      expect([...(two.find('a')?.left as Float32Array)]).toEqual([...again])
      for (const end of ends) end()
      await arrived()
      expect(one.floats(8)).not.toBe(again)
      expect([...(two.find('a')?.left as Float32Array)]).toEqual([...again])
    })

    it('pass by: seen by nobody else, they wait for their own thread alone', async () => {
      const { one, ends } = busyThreads()
      const room = one.floats(8)
      one.retire([room])
      await arrived()
      expect(one.floats(8)).not.toBe(room)
      ends[0]()
      await arrived()
      expect(one.floats(8)).toBe(room)
    })

    it('are dropped when a thread has died that might read them', async () => {
      const { one, ends } = busyThreads()
      ends[0]()
      const first = one.floats(8)
      for (let k = 0; k < 450; k++) {
        one.layRooms(`${k}`, { left: k === 0 ? first : one.floats(8) })
        one.withdraw(`${k}`)
      }
      await arrived()
      // the second thread answers late: what waited longest is not waited for any more
      ends[1]()
      await arrived()
      const used = new Set(Array.from({ length: 450 }, () => one.floats(8)))
      expect(used.has(first)).toBe(false)
    })
  })

  it('forgets the oldest when it holds too much', async () => {
    const [one, two] = twoThreads()
    for (let k = 0; k < 5; k++) one.lay(`${k}`, { samples: one.floats(5_000_000) })
    await arrived()
    expect([0, 1, 2, 3, 4].map((k) => two.find(`${k}`) !== undefined)).toEqual([false, true, true, true, true])
    for (let k = 0; k < 2_000; k++) one.lay(`figure ${k}`, { rms: k })
    await arrived()
    expect(two.find('4')).toBeUndefined()
    expect(two.find('figure 0')).toEqual({ rms: 0 })
  })
})
