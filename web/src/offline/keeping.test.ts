import { beforeEach, describe, expect, it } from 'vitest'
import { answered, KEPT_AT, wayOf } from './keeping'

const at = (path: string, method = 'GET', mode = 'cors') => wayOf(method, mode, new URL(path, 'http://fulgor.test'), 'http://fulgor.test')

describe('the keeper', () => {
  it('keeps what a preset needs to be opened and heard', () => {
    expect(at('/sheet/x?snapshot=a', 'GET', 'navigate')).toBe('page')
    expect(at('/assets/main-1.js')).toBe('file')
    expect(at('/api/presets/demo')).toBe('answer')
    expect(at('/api/presets?sort=updated')).toBe('answer')
    expect(at('/api/responses/ab12/file')).toBe('answer')
  })

  it('keeps what a night on stage needs', () => {
    for (const path of ['/api/shows', '/api/shows/salt', '/api/devices/rack', '/api/presets/demo']) expect(at(path)).toBe('answer')
    expect(at('/stage/salt?night=evening', 'GET', 'navigate')).toBe('page')
    expect(at('/api/shows/salt/versions')).toBe('pass')
  })

  it('passes what changes something, what is searched, and what is elsewhere', () => {
    expect(at('/api/presets/demo', 'PUT')).toBe('pass')
    expect(at('/api/presets?search=storm')).toBe('pass')
    expect(at('/api/presets/demo/versions')).toBe('pass')
    expect(at('/api/health')).toBe('pass')
    expect(at('http://elsewhere.test/assets/x.js')).toBe('pass')
  })

  const kept = new Map<string, Response>()
  const key = (request: Request | string) => (typeof request === 'string' ? request : request.url)
  const cache = {
    match: (r: Request | string) => Promise.resolve(kept.get(key(r))?.clone()),
    put: (r: Request | string, answer: Response) => Promise.resolve(void kept.set(key(r), answer)),
    keys: () => Promise.resolve([...kept.keys()].map((url) => new Request(url))),
    delete: (r: Request) => Promise.resolve(kept.delete(r.url)),
  }
  beforeEach(() => kept.clear())
  const request = () => new Request('http://fulgor.test/api/presets/a')
  const away = () => Promise.reject(new TypeError('Failed to fetch'))

  it('shows the last answer while the server is away, with its time, and the failure where there is none', async () => {
    await expect(answered(request(), cache, away, () => 5)).rejects.toThrow('Failed')
    const live = await answered(
      request(),
      cache,
      () => Promise.resolve(Response.json({ n: 1 })),
      () => 5,
    )
    expect(live.headers.get(KEPT_AT)).toBeNull()
    const old = await answered(request(), cache, away, () => 9)
    expect([old.headers.get(KEPT_AT), await old.json()]).toEqual(['5', { n: 1 }])
  })

  it('waits for a busy server where it has nothing kept, and only so long where it has', async () => {
    const patience: (number | undefined)[] = []
    const ask = (_: Request, ms?: number) => {
      patience.push(ms)
      return Promise.resolve(Response.json({}))
    }
    await answered(request(), cache, ask, () => 1)
    await answered(request(), cache, ask, () => 2)
    expect(patience).toEqual([undefined, 4_000])
  })

  it('forgets what the server says is gone, and keeps no refusal', async () => {
    await answered(
      request(),
      cache,
      () => Promise.resolve(Response.json({})),
      () => 1,
    )
    const refused = await answered(
      request(),
      cache,
      () => Promise.resolve(new Response('', { status: 500 })),
      () => 2,
    )
    expect([refused.status, kept.size]).toEqual([500, 1])
    await answered(
      request(),
      cache,
      () => Promise.resolve(new Response('', { status: 404 })),
      () => 3,
    )
    expect(kept.size).toBe(0)
  })

  it('keeps three hundred answers, the oldest go first', async () => {
    for (let i = 0; i < 305; i++)
      await answered(
        new Request(`http://fulgor.test/api/presets/p${i}`),
        cache,
        () => Promise.resolve(Response.json({})),
        () => i,
      )
    expect(kept.size).toBe(300)
    expect([...kept.keys()][0]).toContain('/p5')
  })
})
