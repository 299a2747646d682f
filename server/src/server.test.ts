import { mkdtemp, readdir, rm } from 'node:fs/promises'
import { createServer, request as httpRequest } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { blankPreset } from '@fulgor/core/preset'
import { writeWav } from '@fulgor/core/formats'
import { TestServer, type Answer } from './test/testServer'

const folders: string[] = []
const folder = async () => {
  const made = await mkdtemp(join(tmpdir(), 'fulgor-'))
  folders.push(made)
  return made
}
afterAll(() => Promise.all(folders.map((f) => rm(f, { recursive: true, force: true }))))

describe('server', () => {
  let server: TestServer
  beforeAll(async () => {
    server = await TestServer.start(await folder(), { FULGOR_DEMO: '1' })
  })
  afterAll(() => server.stop())

  it('puts the demo presets on an unused shelf, searches by words and tags', async () => {
    const all = await server.call('GET', '/api/presets')
    expect(all.body.items.map((p) => p.name)).toEqual([
      'Salt Road, pit main',
      'Low Tide Signals, lead',
      'Low Tide Signals, wall',
      'Harbour clean',
    ])
    expect((await server.call('GET', '/api/presets?search=tide+LEAD')).body.items.map((p) => p.id)).toEqual(['demo-tide-lead'])
    expect((await server.call('GET', '/api/presets?tag=clean')).body.total).toBe(1)
    expect((await server.call('GET', '/api/presets?limit=0')).body.error.fields[0].field).toBe('limit')
  })

  it('stores, versions, deletes and brings back a preset', async () => {
    const made = await server.call('POST', '/api/presets', { document: blankPreset('Fresh') })
    expect(made.status).toBe(201)
    const { id } = made.body
    const saved = await server.call('PUT', `/api/presets/${id}`, {
      document: { ...made.body.document, name: 'Second' },
      baseRevision: 1,
      save: true,
    })
    expect(saved.body.revision).toBe(2)
    // the same write once more, as after an answer that was lost on the way
    const again = await server.call('PUT', `/api/presets/${id}`, {
      document: { ...made.body.document, name: 'Second' },
      baseRevision: 1,
      save: true,
    })
    expect([again.status, again.body.revision]).toEqual([200, 2])
    const versions = await server.call('GET', `/api/presets/${id}/versions`)
    expect([versions.body[0].number, versions.body[1].number]).toEqual([2, 1])
    expect((await server.call('GET', `/api/presets/${id}/versions/1`)).body.document.name).toBe('Fresh')
    expect((await server.call('DELETE', `/api/presets/${id}`)).status).toBe(204)
    expect((await server.call('GET', `/api/presets/${id}`)).status).toBe(404)
    expect((await server.call('POST', `/api/presets/${id}/restore`)).body.document.name).toBe('Second')
  })

  it('keeps what was deleted in a bin, from where it comes back', async () => {
    const made = await server.call('POST', '/api/presets', { document: blankPreset('Thrown away') })
    const { id } = made.body
    const binned = async () => (await server.call('GET', '/api/presets?deleted=true')).body.items.map((p) => p.id)
    await server.call('DELETE', `/api/presets/${id}`)
    expect(await binned()).toEqual([id])
    expect((await server.call('GET', '/api/presets')).body.items.map((p) => p.id)).not.toContain(id)
    await server.call('POST', `/api/presets/${id}/restore`)
    expect(await binned()).toEqual([])
  })

  it('finds the next preset in the order of names, round and round', async () => {
    const { body } = await server.call('GET', '/api/presets?sort=name')
    const ids = body.items.map((p) => p.id)
    const beside = async (id: string, step: number) => (await server.call('GET', `/api/presets/${id}/beside?step=${step}`)).body.id
    expect(await beside(ids[0], 1)).toBe(ids[1])
    expect(await beside(ids[1], -1)).toBe(ids[0])
    expect(await beside(ids[0], -1)).toBe(ids[ids.length - 1])
    expect(await beside(ids[ids.length - 2], 3)).toBe(ids[1])
  })

  it('never overwrites silently: a write on an old revision is refused and told what is there', async () => {
    const { body } = await server.call('POST', '/api/presets', { document: blankPreset('Two tabs') })
    const write = (name: string, writer: string) =>
      server.call('PUT', `/api/presets/${body.id}`, { document: { ...body.document, name }, baseRevision: 1, save: false, writer })
    const answers = await Promise.all([write('one', 'a'), write('two', 'b')])
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409])
    const refused = answers.find((a) => a.status === 409)
    expect(refused?.body.error.current?.revision).toBe(2)
  })

  it('keeps the autosaves of two tabs apart, and joins those of one', async () => {
    const { body } = await server.call('POST', '/api/presets', { document: blankPreset('Autosaves') })
    const write = (baseRevision: number, writer: string) =>
      server.call('PUT', `/api/presets/${body.id}`, { document: body.document, baseRevision, save: false, writer })
    await write(1, 'a')
    await write(2, 'a')
    await write(3, 'b')
    const versions = await server.call('GET', `/api/presets/${body.id}/versions`)
    expect([versions.body.length, versions.body[0].number]).toEqual([3, 3])
  })

  it('names every field that does not fit', async () => {
    const document = { ...blankPreset('x'), tempo: 9 }
    const answer = await server.call('PUT', '/api/presets/demo-pit-main', { document, baseRevision: 0, colour: 1 })
    expect(answer.status).toBe(400)
    expect(answer.body.error.fields.map((f) => f.field).sort()).toEqual(['baseRevision', 'colour', 'document.tempo', 'save'])
    expect((await server.call('GET', '/api/presets/no%20way')).body.error.fields[0].field).toBe('id')
  })

  it('says what is wrong with a body', async () => {
    const raw = await fetch(`${server.url}/api/presets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{"document":',
    })
    expect(((await raw.json()) as Answer).error.message).toContain('not valid JSON')
    const large = await server.call('POST', '/api/presets', { document: 'x'.repeat(1_100_000) })
    expect([large.status, large.body.error.message]).toEqual([413, 'The request is larger than 1 MB; nothing was stored.'])
    expect((await server.call('GET', '/api/nothing')).status).toBe(404)
  })

  it('keeps a WAV by its content and refuses others with the reason', async () => {
    const wav = writeWav([Float32Array.from({ length: 4800 }, (_, n) => Math.sin(n / 9))], 44_100, 24)
    const made = await server.call('POST', '/api/assets?name=My%20take.wav', wav, { 'Content-Type': 'audio/wav' })
    expect(made.body).toMatchObject({ name: 'My take', sampleRate: 44_100, channels: 1, frames: 4800 })
    const back = await fetch(`${server.url}/api/assets/${made.body.hash}`)
    expect(new Uint8Array(await back.arrayBuffer())).toEqual(wav)
    const bad = await server.call('POST', '/api/assets?name=note.txt', new TextEncoder().encode('no sound'), {
      'Content-Type': 'audio/wav',
    })
    expect([bad.status, bad.body.error.message]).toEqual([422, 'note.txt was not taken: this is not a WAV file (no RIFF/WAVE header).'])
  })

  it.each([
    ['an address that is none', 'GET', '/api/presets/%E0%A4%A', {}, undefined, 400],
    ['letters of an unknown kind', 'POST', '/api/presets', { 'Content-Type': 'application/json; charset=latin-99' }, {}, 415],
    ['files without a boundary', 'POST', '/api/responses', { 'Content-Type': 'multipart/form-data' }, {}, 400],
    ['a step without end', 'GET', '/api/presets/demo-pit-main/beside?step=1e999', {}, undefined, 400],
    ['a page after nonsense', 'GET', '/api/presets?after=%7B%7D', {}, undefined, 400],
    ['a version beyond all numbers', 'GET', '/api/presets/demo-pit-main/versions/99999999999999999999', {}, undefined, 400],
    ['no body at all', 'POST', '/api/assets?name=x.wav', { 'Content-Type': 'audio/wav' }, undefined, 422],
  ] as const)('answers %s with what is wrong, and not as a fault of its own', async (_, method, path, headers, body, status) => {
    const answer = await server.call(method, path, body, headers)
    expect([answer.status, typeof answer.body.error.message]).toEqual([status, 'string'])
  })

  it('refuses ids that are words of the program, which would lose what stands under them', async () => {
    for (const word of ['toString', 'valueOf', '__proto__']) {
      const document = { ...blankPreset('Words'), chain: [{ kind: 'stage', id: word, model: 'trim', on: true, params: {} }] }
      const { status, body } = await server.call('POST', '/api/presets', { document })
      expect([status, body.error.fields[0].field]).toEqual([400, 'document.chain[0].id'])
    }
  })

  it('describes every answer, and every route that it has', async () => {
    const { body } = await server.call('GET', '/api/openapi.json')
    const { paths, components } = body as unknown as {
      paths: Record<string, Record<string, { responses: Record<string, { content?: object }> }>>
      components: { schemas: Record<string, object> }
    }
    const told = Object.entries(paths).flatMap(([path, methods]) => Object.keys(methods).map((method) => `${method} ${path}`))
    expect(told).toHaveLength(71)
    expect(paths['/api/presets/{id}'].get.responses['200'].content).toBeDefined()
    const references = [...JSON.stringify(paths).matchAll(/#\/components\/schemas\/(\w+)/g)].map((m) => m[1])
    expect(references.filter((name) => !(name in components.schemas))).toEqual([])
  })

  it('answers only its own host and its own pages', async () => {
    const foreign = await server.call('GET', '/api/presets', undefined, { Origin: 'http://elsewhere.example' })
    expect(foreign.status).toBe(403)
    const { port } = new URL(server.url)
    const status = await new Promise((done) =>
      httpRequest({ port, host: '127.0.0.1', path: '/api/presets', headers: { Host: 'elsewhere.example' } }, (r) =>
        done(r.statusCode),
      ).end(),
    )
    expect(status).toBe(403)
    expect((await server.call('GET', '/api/presets', undefined, { Origin: server.url })).status).toBe(200)
  })

  it('sends security headers and describes itself', async () => {
    const { headers } = await server.call('GET', '/api/health')
    expect(headers.get('content-security-policy')).toContain("default-src 'self'")
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp')
    expect(headers.get('x-content-type-options')).toBe('nosniff')
    const { body } = await server.call('GET', '/api/openapi.json')
    const paths = Object.keys((body as unknown as { paths: object }).paths)
    expect(paths).toContain('/api/presets/{id}/versions/{number}')
    expect((await server.call('GET', '/api/schema/preset.json')).body).toMatchObject({ title: 'Fulgor preset' })
  })
})

describe('bad days', () => {
  it('loses nothing that was shown as saved when killed while it saves', async () => {
    const data = await folder()
    let server = await TestServer.start(data)
    const { body } = await server.call('POST', '/api/presets', { document: blankPreset('Counter') })
    let shown = { revision: 1, name: 'Counter' }
    for (let round = 0; round < 3; round++) {
      const killAt = performance.now() + 150 + round * 70
      let dead: Promise<unknown> | null = null
      for (let n = 0; !dead || n < 1000; n++) {
        if (!dead && performance.now() > killAt) dead = server.stop('SIGKILL')
        try {
          const name = `Edit ${round}.${n}`
          const answer = await server.call('PUT', `/api/presets/${body.id}`, {
            document: { ...body.document, name },
            baseRevision: shown.revision,
            save: n % 3 === 0,
          })
          if (answer.status === 200) shown = { revision: answer.body.revision, name }
        } catch {
          break
        }
      }
      await dead
      server = await TestServer.start(data)
      const after = await server.call('GET', `/api/presets/${body.id}`)
      // a write that the server had taken when it died may be there too: at most one, and whole
      expect(after.body.revision).toBeGreaterThanOrEqual(shown.revision)
      expect(after.body.revision).toBeLessThanOrEqual(shown.revision + 1)
      if (after.body.revision === shown.revision) expect(after.body.document.name).toBe(shown.name)
      shown = { revision: after.body.revision, name: after.body.document.name }
    }
    expect(shown.revision).toBeGreaterThan(5)
    await server.stop()
  })

  it('says that the disk is full and keeps what was there', async () => {
    const server = await TestServer.start(await folder(), { FULGOR_MAX_DATABASE_PAGES: '120' })
    const document = { ...blankPreset('Big'), notes: 'x'.repeat(9_000) }
    const made = await server.call('POST', '/api/presets', { document })
    let revision = made.body.revision
    let refused: Answer | null = null
    for (let n = 0; n < 60 && !refused; n++) {
      const answer = await server.call('PUT', `/api/presets/${made.body.id}`, { document, baseRevision: revision, save: true })
      if (answer.status === 200) revision = answer.body.revision
      else {
        expect(answer.status).toBe(507)
        refused = answer.body
      }
    }
    expect(refused?.error.message).toContain('The disk is full: nothing was saved')
    const after = await server.call('GET', `/api/presets/${made.body.id}`)
    expect(after.body.revision).toBe(revision)
    await server.stop()
  })

  it('leaves no half file behind when a WAV cannot be written', async () => {
    const data = await folder()
    const server = await TestServer.start(data)
    const { writeFile } = await import('node:fs/promises')
    await writeFile(join(data, 'assets'), 'in the way')
    const wav = writeWav([new Float32Array(100).fill(0.1)], 48_000, 16)
    const answer = await server.call('POST', '/api/assets?name=a.wav', wav, { 'Content-Type': 'audio/wav' })
    expect(answer.status).toBe(500)
    expect((await server.call('GET', '/api/assets')).body.length).toBe(0)
    expect((await readdir(data)).filter((f) => f.endsWith('.part'))).toEqual([])
    await server.stop()
  })

  it('takes a first start up where it was killed, at whatever moment', async () => {
    for (const after of [350, 700, 1_100]) {
      const data = await folder()
      const first = TestServer.start(data, { FULGOR_DEMO: '1' }).catch(() => null)
      await new Promise((done) => setTimeout(done, after))
      for (const child of TestServer.starting) child.kill('SIGKILL')
      await first
      const server = await TestServer.start(data, { FULGOR_DEMO: '1' })
      expect((await server.call('GET', '/api/presets')).body.total).toBe(4)
      expect((await server.call('GET', '/api/responses')).body.length).toBe(40)
      await server.stop()
    }
  }, 120_000)

  it('brings no demo back that the player has taken off the shelf', async () => {
    const data = await folder()
    let server = await TestServer.start(data, { FULGOR_DEMO: '1' })
    await server.call('DELETE', '/api/presets/demo-pit-main')
    await server.stop()
    server = await TestServer.start(data, { FULGOR_DEMO: '1' })
    expect((await server.call('GET', '/api/presets')).body.total).toBe(3)
    await server.stop()
  })

  it('says in one sentence that its port is in use, or that PORT makes no sense', async () => {
    const other = createServer()
    const port = await new Promise<number>((done) => other.listen(0, '127.0.0.1', () => done((other.address() as { port: number }).port)))
    await expect(TestServer.start(await folder(), { PORT: String(port) })).rejects.toThrow(
      `Port ${port} on 127.0.0.1 is in use; stop what runs there or set PORT`,
    )
    other.close()
    await expect(TestServer.start(await folder(), { PORT: 'many' })).rejects.toThrow('PORT must be a whole number')
  })

  it('stops in peace', async () => {
    const server = await TestServer.start(await folder())
    expect(await server.stop('SIGTERM')).toBe(0)
  })
})
