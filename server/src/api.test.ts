import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { writeWav } from '@fulgor/core/formats'
import { applyEdit, blankPreset, createLane, createStage, type Preset } from '@fulgor/core/preset'
import { readConfig } from './config'
import { TestServer } from './test/testServer'

let folder: string
let server: TestServer
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fulgor-api-'))
  server = await TestServer.start(folder)
})
afterAll(async () => {
  await server.stop()
  await rm(folder, { recursive: true, force: true })
})

const laned: Preset = {
  ...blankPreset('Two ways'),
  chain: [
    {
      kind: 'parallel',
      id: 'p',
      lanes: [
        createLane('a', [createStage('amp1', 'amp.pier')], { pan: -100 }),
        createLane('b', [createStage('amp2', 'amp.riptide')], { pan: 100 }),
      ],
    },
    createStage('out', 'output'),
  ],
}
const put = (id: string, body: unknown) => server.call('PUT', `/api/presets/${id}`, body)

describe('documents', () => {
  it('come back as they were, lanes, guitar and snapshots', async () => {
    const document = applyEdit(laned, { type: 'setParam', stage: 'b', snapshot: 's1', param: 'level', value: -4 })
    const { status, body } = await server.call('POST', '/api/presets', { document })
    expect(status).toBe(201)
    expect((await server.call('GET', `/api/presets/${body.id}`)).body.document).toEqual(document)
  })

  it.each([
    ['a parameter out of range', { ...laned, chain: [createStage('x', 'amp.skiff', { gain: 12 })] }, 'document.chain[0].params.gain'],
    [
      'a lane’s value out of range',
      { ...laned, chain: [{ kind: 'parallel', id: 'p', lanes: [createLane('a', [], { pan: 500 }), createLane('b')] }] },
      'document.chain[0].lanes[0].params.pan',
    ],
    ['a split of one lane', { ...laned, chain: [{ kind: 'parallel', id: 'p', lanes: [createLane('a')] }] }, 'document.chain[0].lanes'],
    ['a lane’s strip as a stage', { ...laned, chain: [{ ...createStage('x', 'trim'), model: 'lane' }] }, 'document.chain[0].model'],
    ['an unknown model', { ...laned, chain: [{ ...createStage('x', 'trim'), model: 'amp.nope' }] }, 'document.chain[0].model'],
    ['an id of two things', { ...laned, chain: [createStage('out', 'trim'), createStage('out', 'output')] }, 'document.chain[1].id'],
    ['no guitar', { ...laned, guitars: undefined }, 'document.guitars'],
    ['a guitar too high', { ...laned, guitars: [{ ...laned.guitars[0], a4: 500 }] }, 'document.guitars[0].a4'],
    ['a hand on a guitar that is not there', { ...laned, hand: { ...laned.hand, guitar: 'gone' } }, 'document.hand.guitar'],
    [
      'a snapshot of nothing',
      { ...laned, snapshots: [{ id: 's', name: 'S', stages: { ghost: { on: true } } }] },
      'document.snapshots[0].stages.ghost',
    ],
    ['a tag too long', { ...laned, tags: ['x'.repeat(31)] }, 'document.tags[0]'],
    ['notes too long', { ...laned, notes: 'x'.repeat(10_001) }, 'document.notes'],
    ['a number as a name', { ...laned, name: 7 }, 'document.name'],
    ['a list', [1, 2], 'document'],
    ['nothing', undefined, 'document'],
  ])('are refused with the field’s path: %s', async (_, document, field) => {
    const { status, body } = await server.call('POST', '/api/presets', { document })
    expect(status).toBe(400)
    expect(body.error.fields.map((f) => f.field)).toContain(field)
    expect(body.error.message).toMatch(/[a-z]/)
  })

  it('are not stored when refused', async () => {
    const before = (await server.call('GET', '/api/presets')).body.total
    await server.call('POST', '/api/presets', { document: { ...laned, tempo: 9_999 } })
    expect((await server.call('GET', '/api/presets')).body.total).toBe(before)
  })
})

describe('writes', () => {
  const make = async (name: string) => (await server.call('POST', '/api/presets', { document: { ...laned, name } })).body

  it('count revisions up, and only from the one that they build on', async () => {
    const { id } = await make('Counted')
    expect((await put(id, { document: { ...laned, name: 'A' }, baseRevision: 1, save: false, writer: 'w' })).body.revision).toBe(2)
    expect((await put(id, { document: { ...laned, name: 'B' }, baseRevision: 2, save: false, writer: 'w' })).body.revision).toBe(3)
    const late = await put(id, { document: { ...laned, name: 'C' }, baseRevision: 2, save: false, writer: 'w' })
    expect([late.status, late.body.error.current?.revision]).toEqual([409, 3])
  })

  it('take the same write twice as one, but not another tab’s, nor an autosave as a save', async () => {
    const { id } = await make('Twice')
    const write = { document: { ...laned, name: 'Once' }, baseRevision: 1, save: false, writer: 'tab 1' }
    expect((await put(id, write)).body.revision).toBe(2)
    expect((await put(id, write)).body.revision).toBe(2)
    expect((await put(id, { ...write, writer: 'tab 2' })).status).toBe(409)
    expect((await put(id, { ...write, save: true })).status).toBe(409)
  })

  it('keep what the player saved through many autosaves', async () => {
    const { id } = await make('Kept')
    await put(id, { document: { ...laned, name: 'Saved by hand' }, baseRevision: 1, save: true, note: 'the good one' })
    for (let k = 0; k < 6; k++) await put(id, { document: { ...laned, name: `Auto ${k}` }, baseRevision: 2 + k, save: false, writer: 'w' })
    const list = (await server.call('GET', `/api/presets/${id}/versions`)).body as unknown as {
      kind: string
      note: string
      number: number
    }[]
    expect(list.filter((v) => v.kind === 'saved').map((v) => v.note)).toEqual(['the good one', ''])
    // autosaves of one tab within five minutes are one version
    expect(list.filter((v) => v.kind === 'auto')).toHaveLength(1)
    const saved = list.find((v) => v.note === 'the good one')
    expect((await server.call('GET', `/api/presets/${id}/versions/${saved?.number}`)).body.document.name).toBe('Saved by hand')
  })

  it.each([
    [{ baseRevision: 0 }, 'baseRevision'],
    [{ baseRevision: 1.5 }, 'baseRevision'],
    [{ save: 'yes' }, 'save'],
    [{ note: 'x'.repeat(201) }, 'note'],
    [{ writer: 'x'.repeat(41) }, 'writer'],
    [{ colour: 'red' }, 'colour'],
  ])('refuse %o by its field', async (wrong, field) => {
    const { id } = await make('Checked')
    const { status, body } = await put(id, { document: laned, baseRevision: 1, save: false, ...wrong })
    expect([status, body.error.fields[0].field]).toEqual([400, field])
  })
})

describe('the shelf', () => {
  it.each([
    ['/api/presets?sort=size', 'sort'],
    ['/api/presets?limit=501', 'limit'],
    ['/api/presets?limit=many', 'limit'],
    ['/api/presets?after=7', 'after'],
    [`/api/presets?search=${'x'.repeat(101)}`, 'search'],
    ['/api/presets?page=2', 'page'],
    ['/api/presets/no%20id', 'id'],
    ['/api/presets/some/versions/zero', 'number'],
    ['/api/assets/123', 'hash'],
  ])('refuses %s by its field', async (path, field) => {
    const { status, body } = await server.call('GET', path)
    expect([status, body.error.fields[0].field]).toEqual([400, field])
  })

  it('says what is not there', async () => {
    for (const path of ['/api/presets/nothing', '/api/presets/nothing/versions', `/api/assets/${'0'.repeat(64)}`]) {
      const { status, body } = await server.call('GET', path)
      expect(status).toBe(404)
      expect(body.error.message).toContain('is not on the shelf.')
    }
    expect((await server.call('GET', '/api/nothing')).body.error.message).toBe('There is no GET /api/nothing.')
    expect((await server.call('DELETE', '/api/presets/nothing')).status).toBe(404)
    expect((await server.call('POST', '/api/presets/nothing/restore')).status).toBe(404)
  })

  it('sorts, pages and searches in notes and tags too', async () => {
    for (const name of ['aa first', 'bb second', 'cc third'])
      await server.call('POST', '/api/presets', { document: { ...laned, name, notes: 'salt and rope', tags: ['harbour'] } })
    const page = async (query: string) => (await server.call('GET', `/api/presets?search=rope&${query}`)).body
    expect((await page('sort=name')).items.map((p) => p.name)).toEqual(['aa first', 'bb second', 'cc third'])
    const first = await page('sort=name&limit=1')
    expect(first.items.map((p) => p.name)).toEqual(['aa first'])
    const second = await page(`sort=name&limit=1&after=${encodeURIComponent(first.next ?? '')}`)
    expect([second.items.map((p) => p.name), second.total]).toEqual([['bb second'], 3])
    expect((await page('sort=updated')).items[0].name).toBe('cc third')
    expect((await page('tag=harbour')).total).toBe(3)
    // a percent sign is a letter like any other
    expect((await server.call('GET', '/api/presets?search=%25')).body.total).toBe(0)
  })
})

describe('riffs', () => {
  const sound = (seconds: number) => Float32Array.from({ length: Math.round(48_000 * seconds) }, (_, n) => 0.1 * Math.sin(n / 9))
  const upload = (name: string, bytes: Uint8Array) =>
    server.call('POST', `/api/assets?name=${encodeURIComponent(name)}`, bytes, { 'Content-Type': 'audio/wav' })

  it.each([16, 24, 32] as const)('are kept byte for byte, %s bits', async (bits) => {
    const bytes = writeWav([sound(0.2)], 44_100, bits)
    const { status, body } = await upload(`take ${bits}.wav`, bytes)
    expect([status, body.name]).toEqual([201, `take ${bits}`])
    const answer = await fetch(`${server.url}/api/assets/${body.hash}`)
    expect(Buffer.from(await answer.arrayBuffer()).equals(Buffer.from(bytes))).toBe(true)
    expect(answer.headers.get('content-type')).toContain('audio/wav')
  })

  it('are one file however often they come', async () => {
    const bytes = writeWav([sound(0.3)], 48_000, 16)
    const first = await upload('one.wav', bytes)
    const again = await upload('two.wav', bytes)
    expect(again.body.hash).toBe(first.body.hash)
    const list = (await server.call('GET', '/api/assets')).body as unknown as { hash: string }[]
    expect(list.filter((a) => a.hash === first.body.hash)).toHaveLength(1)
  })

  it('are refused when they are too long, nameless or empty', async () => {
    const long = await upload('long.wav', writeWav([new Float32Array(8_000 * 121)], 8_000, 16))
    expect([long.status, long.body.error.message]).toEqual([422, 'long.wav was not taken: it is 121 s long; a riff may last 120 s.'])
    expect((await upload('', writeWav([sound(0.1)], 48_000, 16))).body.error.fields[0].field).toBe('name')
    expect((await upload('empty.wav', writeWav([new Float32Array(0)], 48_000, 16))).body.error.message).toContain('it holds no sound')
  })

  it('lie in the Kit, where they are used, deleted, and come back with their file', async () => {
    const bytes = writeWav([sound(0.5)], 48_000, 16)
    const { hash } = (await upload('verse.wav', bytes)).body
    const at = `/api/recordings/${hash.slice(0, 40)}`
    const told = (await server.call('GET', at)).body
    expect([told.name, told.document]).toMatchObject(['verse', { use: 'riff', file: hash, seconds: 0.5, part: null }])
    const preset = { ...blankPreset('On the verse'), riff: { id: hash, strength: 'hard', part: { from: 0.1, to: 0.4 } } }
    const { id } = (await server.call('POST', '/api/presets', { document: preset })).body
    const users = async () => (await server.call('GET', `/api/presets?uses=${hash.slice(0, 40)}`)).body.items.map((p) => p.id)
    expect(await users()).toEqual([id])

    expect((await server.call('DELETE', at)).status).toBe(204)
    expect((await server.call('GET', at)).status).toBe(404)
    expect((await fetch(`${server.url}/api/assets/${hash}`)).status).toBe(200)
    await upload('verse again.wav', bytes)
    expect((await server.call('GET', at)).body.name).toBe('verse')
    // a riff is not a backing as well
    const twice = await server.call('POST', '/api/assets?name=band.wav&kind=backing', bytes, { 'Content-Type': 'audio/wav' })
    expect([twice.status, twice.body.error.message]).toEqual([409, 'band is in the Kit as a riff already, as “verse”.'])
  })
})

describe('references', () => {
  const upload = (name: string, bytes: Uint8Array) =>
    server.call('POST', `/api/assets?name=${encodeURIComponent(name)}&kind=reference`, bytes, { 'Content-Type': 'audio/wav' })

  it('are as long as a long song, and given in stretches', async () => {
    const bytes = writeWav([Float32Array.from({ length: 8_000 * 200 }, (_, n) => 0.1 * Math.sin(n / 9))], 8_000, 16)
    const { status, body } = await upload('last season.wav', bytes)
    expect([status, body]).toMatchObject([201, { frames: 1_600_000, sampleRate: 8_000 }])
    const told = (await server.call('GET', `/api/recordings/${body.hash.slice(0, 40)}`)).body
    expect(told.document).toMatchObject({ use: 'reference', seconds: 200 })
    const part = await fetch(`${server.url}/api/assets/${body.hash}`, { headers: { Range: 'bytes=1000-1999' } })
    expect([part.status, part.headers.get('content-range')]).toEqual([206, `bytes 1000-1999/${bytes.length}`])
    expect(Buffer.from(await part.arrayBuffer()).equals(Buffer.from(bytes.subarray(1_000, 2_000)))).toBe(true)
  })

  it('are refused beyond 20 minutes, and where they are none; nothing is stored then', async () => {
    const long = await upload('long.wav', writeWav([new Float32Array(8_000 * 1_201)], 8_000, 16))
    expect([long.status, long.body.error.message]).toEqual([422, 'long.wav was not taken: it is 1201 s long; a reference may last 1200 s.'])
    const text = await upload('notes.wav', new TextEncoder().encode('not a sound at all'))
    expect(text.body.error).toMatchObject({ message: expect.stringContaining('not a WAV') as string, fields: [{ field: 'file' }] })
    const empty = await fetch(`${server.url}/api/assets?name=x.wav&kind=reference`, {
      method: 'POST',
      headers: { 'Content-Type': 'audio/wav' },
    })
    expect(empty.status).toBe(422)
  })

  it('are what presets are after, as a search tells', async () => {
    const { body } = await upload(
      'theme.wav',
      writeWav([Float32Array.from({ length: 16_000 }, (_, n) => 0.2 * Math.sin(n / 5))], 8_000, 16),
    )
    const reference = body.hash.slice(0, 40)
    const { id } = (await server.call('POST', '/api/presets', { document: { ...blankPreset('After the theme'), reference } })).body
    expect((await server.call('GET', `/api/presets?uses=${reference}`)).body.items.map((p) => p.id)).toEqual([id])
  })
})

describe('settings', () => {
  it('have defaults that suit one player on one machine', () => {
    expect(readConfig({}, '/somewhere')).toMatchObject({
      host: '127.0.0.1',
      port: 4860,
      data: '/somewhere/data',
      demo: false,
      extraHosts: [],
    })
  })

  it('come from the environment', () => {
    const config = readConfig(
      { PORT: '80', HOST: '0.0.0.0', FULGOR_DATA: '/d', FULGOR_DEMO: '1', FULGOR_HOSTS: 'a:1,b:2', FULGOR_WEB: 'off' },
      '/r',
    )
    expect(config).toMatchObject({ host: '0.0.0.0', port: 80, data: '/d', demo: true, extraHosts: ['a:1', 'b:2'], web: undefined })
    expect(config.databaseUrl).toBe('file:/d/fulgor.sqlite')
  })

  it.each(['70000', '-1', 'four', '4.5'])('refuse PORT=%s in a sentence', (PORT) => {
    expect(() => readConfig({ PORT }, '/r')).toThrow(`PORT must be a whole number from 0 to 65535, not “${PORT}”.`)
  })
})
