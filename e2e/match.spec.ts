import type { Page } from '@playwright/test'
import { writeWav } from '@fulgor/core/formats'
import { demoPresets } from '@fulgor/core/demo'
import { expect, heardPeak, test, type App } from './app'

const RATE = 48_000

/** A made-up recording: a repeated chord with a bright edge, mono, as long as is wanted. */
function chords(seconds: number, gain = 0.2): Buffer {
  const x = new Float32Array(Math.round(seconds * RATE))
  for (let n = 0; n < x.length; n++) {
    const t = (n / RATE) % 0.5
    const body = [110, 164.8, 220, 277.2, 330].reduce((sum, hz) => sum + Math.sign(Math.sin((2 * Math.PI * hz * n) / RATE)) / 5, 0)
    x[n] = gain * Math.tanh(1.5 * body) * Math.exp(-t / 0.4)
  }
  return Buffer.from(writeWav([x], RATE, 16))
}

const open = async (page: Page, app: App, preset = 'demo-tide-lead'): Promise<void> => {
  await page.goto(`${app.url}/match/${preset}`)
  await expect(page.locator('main h1')).toContainText('Match')
}
const ready = (page: Page) => expect(page.locator('[data-match=ready]')).toBeVisible({ timeout: 40_000 })
const statement = (page: Page, name: string) => page.locator(`[data-statement="${name}"]`)
const far = async (page: Page): Promise<number> => Number(await page.locator('[data-distance]').getAttribute('data-distance'))

test('1. a recording is told of, and a way to it is found, heard, taken and undone', async ({ page, app }) => {
  await open(page, app)
  await ready(page)
  // the demo’s mix is made by rule: 108 bpm, one side 14 ms later, an echo of a dotted eighth some 15 dB down
  await expect(statement(page, 'Tempo')).toContainText(/10(7\.9|8\.0) bpm/)
  await expect(statement(page, 'Sides')).toContainText('14.0 ms')
  await expect(statement(page, 'Echo')).toContainText('417 ms')
  await expect(statement(page, 'Echo')).toContainText(/Dotted eighth, −1[45] dB/)
  await expect(statement(page, 'Room')).toContainText('not enough to say')
  const before = await far(page)
  expect(before).toBeGreaterThan(2)
  // the nearest of the library are there before anything is searched
  await expect(page.locator('[data-way=first] [role=option]').first()).toBeVisible({ timeout: 20_000 })

  await page.getByRole('button', { name: 'Find a way' }).click()
  await expect(page.locator('[data-way=running]')).toBeVisible()
  await expect(page.getByRole('progressbar', { name: 'Finding a way' })).toBeVisible()
  await expect(page.locator('[data-way=done]')).toBeVisible({ timeout: 150_000 })
  expect(Number(await page.locator('[data-tried]').getAttribute('data-tried'))).toBeGreaterThan(200_000)
  const list = page.getByRole('listbox', { name: 'Candidates', exact: true })
  for (const step of ['cabinet', 'eq', 'amp', 'time']) await expect(list.locator(`[data-step=${step}] [role=option]`).first()).toBeVisible()
  // its echo is proposed as a note value
  await expect(list.locator('[data-step=time]')).toContainText('Delay dotted eighth')

  await list.focus()
  await page.keyboard.press('ArrowDown')
  await expect(list.getByRole('option').first()).toHaveAttribute('aria-selected', 'true')
  const after = Number(await page.locator('[data-after]').getAttribute('data-after'))
  expect(after).toBeLessThan(before)
  await page.keyboard.press('Space')
  await expect.poll(() => heardPeak(page), { timeout: 20_000 }).toBeGreaterThan(0.01)
  // B is the recording, and is heard too
  await page.keyboard.press('a')
  await expect(page.getByRole('button', { name: 'B the recording' })).toHaveAttribute('aria-pressed', 'true')
  await page.waitForTimeout(600)
  expect(await heardPeak(page)).toBeGreaterThan(0.01)
  await page.keyboard.press('a')
  await page.getByRole('button', { name: 'Stop' }).click()

  // blind tells neither names nor figures
  await page.getByRole('button', { name: 'Blind' }).click()
  await expect(list.getByRole('option').first()).toContainText('Candidate A')
  await page.getByRole('button', { name: 'Show names' }).click()

  await list.focus()
  await page.keyboard.press('Enter')
  await expect.poll(() => far(page), { timeout: 20_000 }).toBeLessThan(before - 0.3)
  expect(Math.abs((await far(page)) - after)).toBeLessThan(0.1)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect.poll(() => far(page), { timeout: 20_000 }).toBeCloseTo(before, 1)
  await page.getByRole('button', { name: /^Take all/ }).click()
  await expect.poll(() => far(page), { timeout: 20_000 }).toBeLessThan(after + 0.05)
  await page.keyboard.press('Control+z')
  await expect.poll(() => far(page), { timeout: 20_000 }).toBeCloseTo(before, 1)
})

test('2. a search that is cancelled leaves nothing; a response that goes meanwhile is passed over and told', async ({ page, app }) => {
  await open(page, app)
  await ready(page)
  await page.getByRole('button', { name: 'Find a way' }).click()
  await expect(page.locator('[data-way=running]')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel' }).click()
  // what is near at once stands there again, and nothing that was searched
  await expect(page.locator('[data-way=first], [data-way=none]')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled()

  await page.getByRole('button', { name: 'Find a way' }).click()
  await expect(page.locator('[data-way=running]')).toBeVisible()
  const library = (await (await page.request.get(`${app.url}/api/responses`)).json()) as { hash: string }[]
  const hashes = library.map((r) => r.hash)
  expect((await page.request.post(`${app.url}/api/responses/remove`, { data: { hashes } })).ok()).toBe(true)
  await expect(page.locator('[data-gone]')).toContainText('Passed over, no longer in the library: ', { timeout: 60_000 })
  await expect(page.locator('[data-step=cabinet]')).not.toContainText('of the library', { timeout: 20_000 })
  await page.getByRole('button', { name: 'Cancel' }).click()
})

test('3. a recording is added, marked by drag and by keys, and kept; what says nothing is told', async ({ page, app }) => {
  await open(page, app, 'demo-harbour-clean')
  await expect(page.locator('main')).toContainText('Drop a recording')
  await page.getByLabel('Recording file').setInputFiles({ name: 'Storm chords.wav', mimeType: 'audio/wav', buffer: chords(12) })
  await ready(page)
  await expect(statement(page, 'Tempo')).toContainText('120.0 bpm')
  await expect(page.getByRole('button', { name: 'Reference: Storm chords' })).toBeVisible()

  const wave = page.locator('[data-wave]')
  const box = await wave.boundingBox()
  if (!box) throw new Error('no wave')
  await page.mouse.move(box.x + box.width * 0.25, box.y + 20)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width * 0.75, box.y + 30, { steps: 6 })
  await page.mouse.up()
  await expect(page.locator('[data-marks]')).toHaveAttribute('data-marks', /^(2\.9|3\.0)\d-(8\.9|9\.0)\d$/)
  const start = page.getByRole('slider', { name: 'Start of the stretch' })
  const at = Number(await start.getAttribute('aria-valuenow'))
  await start.press('ArrowRight')
  await start.press('Shift+ArrowRight')
  await expect.poll(async () => Number(await start.getAttribute('aria-valuenow'))).toBeCloseTo(at + 0.055, 3)
  await page.getByRole('textbox', { name: 'End of the stretch' }).fill('8,5')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-marks]')).toHaveAttribute('data-marks', /-8\.50$/)
  await page.getByRole('button', { name: 'Mark one more' }).click()
  await expect(page.locator('[data-marks]')).toHaveAttribute('data-marks', / 9\.50-12\.00$/)
  await page.getByRole('button', { name: 'Unmark it' }).click()
  await expect(page.locator('[data-marks]')).toHaveAttribute('data-marks', /^\S+-8\.50$/)
  await page.getByRole('radio', { name: 'Side', exact: true }).click()
  await expect(page.getByText('has nothing that its sides differ in.')).toBeVisible({ timeout: 20_000 })
  await page.getByRole('radio', { name: 'Mid', exact: true }).click()

  await page.getByRole('link', { name: 'In the Kit' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the reference' })).toHaveValue('Storm chords')
  await expect(page.locator('[data-marks]')).toHaveAttribute('data-marks', /-8\.50$/)
  await expect(page.getByRole('link', { name: 'Harbour clean' })).toBeVisible()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(page.locator('[data-marks]')).toHaveAttribute('data-marks', /-8\.50$/)
  await page.getByRole('button', { name: 'Hear it' }).click()
  await expect(page.getByRole('button', { name: /^Stop/ })).toBeVisible()
  // what is used asks before it goes, and comes back
  await page.getByRole('button', { name: 'Delete', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('1 preset is after it')
  await page.getByRole('button', { name: 'Delete it' }).click()
  // the sheet has an Undo of its own for as long as it stands
  await page.getByText('is in the bin.').locator('..').getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(page.getByRole('link', { name: /^Storm chords/ })).toBeVisible()

  const file = page.getByLabel('Reference file')
  await file.setInputFiles({ name: 'nothing.wav', mimeType: 'audio/wav', buffer: chords(3, 0) })
  await expect(page.getByText('nothing is silent.')).toBeVisible({ timeout: 20_000 })
  await file.setInputFiles({ name: 'blink.wav', mimeType: 'audio/wav', buffer: chords(0.4) })
  await expect(page.getByText('blink lasts 0.4 s; 1 s at least are needed.')).toBeVisible({ timeout: 20_000 })
  await file.setInputFiles({ name: 'words.mp3', mimeType: 'audio/mpeg', buffer: Buffer.from('no music in here') })
  await expect(page.getByText('“words.mp3” was not taken: it is no sound that this browser can read.')).toBeVisible()
})

test('4. what the browser decodes is a reference too', async ({ page, app }) => {
  await open(page, app, 'demo-harbour-clean')
  // a lossy file made by the browser’s own encoder
  const bytes = await page.evaluate(async () => {
    const context = new AudioContext()
    const out = context.createMediaStreamDestination()
    const tones = [110, 220, 331, 443].map((frequency) => new OscillatorNode(context, { frequency, type: 'sawtooth' }))
    const gain = new GainNode(context, { gain: 0.08 })
    for (const tone of tones) {
      tone.connect(gain)
      tone.start()
    }
    gain.connect(out)
    const recorder = new MediaRecorder(out.stream, { mimeType: 'audio/webm;codecs=opus' })
    const pieces: Blob[] = []
    recorder.ondataavailable = ({ data }) => pieces.push(data)
    recorder.start()
    await new Promise((done) => setTimeout(done, 2_500))
    const stopped = new Promise((done) => (recorder.onstop = done))
    recorder.stop()
    await stopped
    return [...new Uint8Array(await new Blob(pieces).arrayBuffer())]
  })
  const file = { name: 'From the net.webm', mimeType: 'audio/webm', buffer: Buffer.from(bytes) }
  // while it is on its way it is told, and can be called back: nothing is left of it
  await page.route('**/api/assets?*', () => undefined)
  await page.getByLabel('Recording file').setInputFiles(file)
  await expect(page.locator('[data-taking=sending]')).toContainText('From the net.webm')
  await page.getByRole('button', { name: 'Cancel', exact: true }).click()
  await expect(page.locator('[data-taking]')).toBeHidden()
  await expect(page.getByRole('button', { name: 'Reference: no recording' })).toBeVisible()
  await page.unroute('**/api/assets?*')
  await page.getByLabel('Recording file').setInputFiles(file)
  await ready(page)
  await expect(page.getByRole('button', { name: 'Reference: From the net' })).toBeVisible()
  expect(await far(page)).toBeGreaterThan(1)
})

test('5. candidates are heard on one take, blind, marked, and the winner is put in', async ({ page, app }) => {
  await open(page, app, 'demo-harbour-clean')
  await page.getByRole('button', { name: 'Add all of its family' }).click()
  await expect(page.locator('[data-candidates="10"][data-measured=done]')).toBeVisible({ timeout: 40_000 })
  const list = page.getByRole('listbox', { name: 'Candidates on one take' })
  await list.focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('k')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('n')
  await expect(list.getByRole('option').nth(0)).toContainText('keep')
  await expect(list.getByRole('option').nth(1)).toContainText('no')
  await page.keyboard.press('Space')
  await expect.poll(() => heardPeak(page), { timeout: 20_000 }).toBeGreaterThan(0.005)
  await page.getByRole('button', { name: 'Stop' }).click()

  await page.getByRole('button', { name: 'Blind, shuffled' }).click()
  await expect(list.getByRole('option').first()).toContainText('Candidate A')
  await expect(list).not.toContainText('Lantern')
  await page.getByRole('button', { name: 'Show names' }).click()

  await page.getByRole('button', { name: 'Add the snapshots' }).click()
  await page.getByRole('combobox', { name: 'Preset to compare' }).fill('wall')
  await page.getByRole('option', { name: 'Low Tide Signals, wall' }).click()
  await expect(list.locator('[data-candidate="preset demo-tide-wall"]')).toBeVisible()

  await list.getByRole('option', { name: /Pier 85/ }).click()
  await page.getByRole('button', { name: 'Put it in' }).click()
  await expect(page.getByText(/^Pier 85 is put in/)).toBeVisible()
  await page.getByRole('link', { name: 'Sheet', exact: true }).click()
  await expect(page.getByText('Pier 85').first()).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByText('Pier 85')).toHaveCount(0)
})

test('6. the player’s own take stands in the preset’s place', async ({ page, app }) => {
  const post = (path: string, data: unknown, type: string) => page.request.post(app.url + path, { data, headers: { 'Content-Type': type } })
  const { hash } = (await (await post('/api/assets?name=take.wav&kind=take', chords(6, 0.1), 'audio/wav')).json()) as { hash: string }
  const mix = (await (await post('/api/assets?name=mix.wav&kind=reference', chords(8), 'audio/wav')).json()) as { hash: string }
  const first = demoPresets[0].preset
  const [one, ...others] = first.snapshots
  const take = { id: 'take', file: hash, device: 'Floor unit', date: '2026-11-02', note: '', setting: null }
  const document = { ...first, reference: mix.hash.slice(0, 40), snapshots: [{ ...one, takes: [take] }, ...others] }
  const { id } = (await (await page.request.post(`${app.url}/api/presets`, { data: { document } })).json()) as { id: string }
  await open(page, app, id)
  await ready(page)
  const before = await far(page)
  await page.getByRole('button', { name: /^What is compared/ }).click()
  await page.getByRole('option', { name: 'take of Floor unit, 2026-11-02' }).click()
  // half as loud and otherwise the same chords: no distance is left
  await expect.poll(() => far(page), { timeout: 20_000 }).toBeLessThan(0.3)
  expect(before).toBeGreaterThan(3)
  await expect(page.getByRole('button', { name: 'Find a way' })).toBeDisabled()
})
