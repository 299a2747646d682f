import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { ResponseAsset, UploadedResponse } from '@fulgor/core/api'
import { writeWav } from '@fulgor/core/formats'
import { TestServer } from './test/testServer'

const data = mkdtempSync(join(tmpdir(), 'fulgor-responses-'))
let server: TestServer
beforeAll(async () => {
  server = await TestServer.start(data)
}, 60_000)
afterAll(async () => {
  await server.stop()
  rmSync(data, { recursive: true, force: true })
})

const response = (seed: number, bits: 16 | 24 | 32 = 24): Uint8Array =>
  writeWav(
    [Float32Array.from({ length: 600 }, (_, n) => 0.6 * Math.exp(-n / (20 + seed)) * Math.sin(n * (0.05 + seed / 300)))],
    48_000,
    bits,
  )

async function upload(files: readonly (readonly [path: string, bytes: Uint8Array])[], paths: unknown = files.map(([path]) => path)) {
  const body = new FormData()
  body.append('paths', typeof paths === 'string' ? paths : JSON.stringify(paths))
  for (const [, bytes] of files) body.append('files', new Blob([bytes as Uint8Array<ArrayBuffer>]), 'x')
  const answer = await fetch(`${server.url}/api/responses`, { method: 'POST', body })
  return { status: answer.status, body: (await answer.json()) as UploadedResponse[] & { error?: { message: string } } }
}
const list = async () => (await (await fetch(`${server.url}/api/responses`)).json()) as ResponseAsset[]
const change = (method: string, path: string, body: unknown) => server.call(method, `/api/responses${path}`, body)

describe('impulse responses', () => {
  it('are taken with what was read of them; a broken one is named, the others still load', async () => {
    const { status, body } = await upload([
      ['Pack/open/bright.wav', response(1)],
      ['Pack/open/broken.wav', response(2).slice(0, 30)],
      ['Pack/letter.wav', new TextEncoder().encode('Dear guitarist,')],
      ['Pack/closed/dark.wav', response(3)],
    ])
    expect(status).toBe(201)
    expect(body.map((r) => r.outcome)).toEqual(['taken', 'refused', 'refused', 'taken'])
    expect(body[1]).toMatchObject({ path: 'Pack/open/broken.wav', reason: expect.stringContaining('cut short') as string })
    const all = await list()
    expect(all.map((r) => r.name).sort()).toEqual(['bright', 'dark'])
    const bright = all.find((r) => r.name === 'bright')
    expect(bright).toMatchObject({ path: 'Pack/open', tags: ['Pack', 'open'], favourite: false, frames: 600, sampleRate: 48_000, bits: 24 })
    expect(bright?.bands).toHaveLength(24)
  })

  it('give their file back as it was', async () => {
    const [first] = await list()
    const bytes = new Uint8Array(await (await fetch(`${server.url}/api/responses/${first.hash}`)).arrayBuffer())
    expect([response(1), response(3)].some((r) => Buffer.from(r).equals(Buffer.from(bytes)))).toBe(true)
    expect((await fetch(`${server.url}/api/responses/${'0'.repeat(64)}`)).status).toBe(404)
    expect((await fetch(`${server.url}/api/responses/nothing`)).status).toBe(400)
  })

  it('take equal samples once, in one upload and over several', async () => {
    const { body } = await upload([
      ['again/bright copy.wav', response(1)],
      ['new.wav', response(7)],
      ['new twin.wav', response(7)],
    ])
    expect(body).toMatchObject([{ outcome: 'duplicate', of: 'bright' }, { outcome: 'taken' }, { outcome: 'duplicate', of: 'new' }])
    expect(await list()).toHaveLength(3)
  })

  it('are marked, tagged, taken off and brought back', async () => {
    const [one, two] = await list()
    expect((await change('PATCH', '', { hashes: [one.hash], favourite: true, addTag: 'lead' })).status).toBe(204)
    expect((await list()).find((r) => r.hash === one.hash)).toMatchObject({
      favourite: true,
      tags: expect.arrayContaining(['lead']) as string[],
    })
    await change('PATCH', '', { hashes: [one.hash], removeTag: 'lead' })
    expect((await list()).find((r) => r.hash === one.hash)?.tags).not.toContain('lead')
    expect((await change('POST', '/remove', { hashes: [one.hash, two.hash] })).status).toBe(204)
    expect(await list()).toHaveLength(1)
    // presets that use it still get it
    expect((await fetch(`${server.url}/api/responses/${one.hash}`)).status).toBe(200)
    await change('POST', '/restore', { hashes: [one.hash] })
    expect(await list()).toHaveLength(2)
  })

  it('come back when they are imported again', async () => {
    const before = await list()
    const { body } = await upload([
      ['bright.wav', response(1)],
      ['dark.wav', response(3)],
      ['new.wav', response(7)],
    ])
    expect(body.filter((r) => r.outcome === 'taken')).toHaveLength(3 - before.length)
    expect(await list()).toHaveLength(3)
  })

  it.each<[string, unknown, string]>([
    ['paths that are no list', '{"a":1}', 'paths'],
    ['too few paths', ['one'], 'names 1 files, 2 came'],
    ['an empty path', ['', 'b'], 'paths'],
    ['no paths at all', 'nothing', 'paths'],
  ])('refuse %s', async (_, paths, message) => {
    const { status, body } = await upload(
      [
        ['a', response(20)],
        ['b', response(21)],
      ],
      paths,
    )
    expect(status).toBe(400)
    expect(body.error?.message).toContain(message)
    expect(await list()).toHaveLength(3)
  })

  it.each<[string, string, unknown, string]>([
    ['PATCH', '', { hashes: [] }, 'hashes'],
    ['PATCH', '', { hashes: ['x'], favourite: true }, 'SHA-256'],
    ['PATCH', '', { hashes: ['a'.repeat(64)], favourite: 'yes' }, 'favourite'],
    ['POST', '/remove', { hashes: 'all' }, 'hashes'],
    ['POST', '/remove', { hashes: ['a'.repeat(64)], colour: 1 }, 'not a known field'],
  ])('%s %s refuses %o', async (method, path, body, message) => {
    const answer = await change(method, path, body)
    expect(answer.status).toBe(400)
    expect(answer.body.error.message).toContain(message)
  })

  it('leave no half-written file behind', () => {
    const under = (folder: string): string[] =>
      readdirSync(folder, { withFileTypes: true }).flatMap((e) => (e.isDirectory() ? under(join(folder, e.name)) : [e.name]))
    expect(under(join(data, 'assets')).filter((name) => name.endsWith('.part'))).toEqual([])
  })

  it('refuse a file over 16 MB by name, and take nothing of that upload', async () => {
    const { status, body } = await upload([
      ['huge.wav', new Uint8Array(17e6)],
      ['fine.wav', response(30)],
    ])
    expect(status).toBe(413)
    expect(body.error?.message).toContain('16 MB')
    expect(await list()).toHaveLength(3)
  })
})
