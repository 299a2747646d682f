// Takes the pictures of docs/screenshots from the demo data.
import { chromium } from '@playwright/test'
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBuilt, ensureInstalled, root } from './lib/setup.mjs'

ensureInstalled()
ensureBuilt()
const data = mkdtempSync(join(tmpdir(), 'fulgor-shots-'))
const server = spawn('node', ['server/dist/main.js'], {
  cwd: root,
  env: { ...process.env, PORT: '0', FULGOR_DEMO: '1', FULGOR_DATA: data },
})
const url = await new Promise((done) => server.stdout.on('data', (text) => done(/http:\/\/[^/\s]+/.exec(text.toString())[0])))
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--use-fake-device-for-media-stream',
    '--use-fake-ui-for-media-stream',
  ],
})

async function shot(name, path, { width = 1280, height = 800, theme = 'paper' } = {}, prepare = async () => undefined) {
  const context = await browser.newContext({ viewport: { width, height } })
  await context.addInitScript((t) => localStorage.setItem('fulgor.theme', t), theme)
  const page = await context.newPage()
  await page.goto(url + path)
  if (path.startsWith('/sheet')) await page.locator('[data-all-ms]').waitFor({ timeout: 60_000 })
  if (path.startsWith('/bench')) await page.locator('.bench:not([data-picture-ms=""])').waitFor({ timeout: 60_000 })
  await prepare(page)
  await page.waitForTimeout(600)
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) })
  await context.close()
}

const pit = '/sheet/demo-pit-main'
await shot('sheet', `${pit}?snapshot=storm`)
await shot('match', '/match/demo-tide-lead', {}, async (page) => {
  await page.locator('[data-match=ready]').waitFor({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Find a way' }).click()
  await page.locator('[data-way=done]').waitFor({ timeout: 120_000 })
  await page.getByRole('option').first().click()
})
await shot('brief', '/brief/demo-salt-road?sound=storm', {}, async (page) => {
  await page.locator('[data-steps=read]').waitFor({ timeout: 90_000 })
})
await shot('set', '/set/demo-salt-road', {}, async (page) => {
  await page.getByRole('button', { name: 'Find a better layout' }).click()
  await page.locator('[data-after]').waitFor({ timeout: 90_000 })
})
await shot('stage', '/stage/demo-salt-road?cue=4', { width: 1024, height: 700 }, async (page) => {
  await page.locator('[data-count]').waitFor()
})
await shot('sheet-lanes', '/sheet/demo-tide-wall', {}, async (page) => {
  await page.locator('[data-cell="3,0"]').click()
  await page.getByRole('radio', { name: 'Feel' }).click()
  await page.locator('[data-edge]').first().waitFor()
})
await shot('kit', '/kit/guitars/demo-plank', {}, async (page) => {
  await page.locator('[data-knobs] [role=img] svg').waitFor({ timeout: 60_000 })
  await page.waitForTimeout(3_000)
})
await shot('places', '/kit/places/demo-house-pa-mono', {}, async (page) => {
  await page.getByRole('button', { name: /^Made at/ }).click()
  await page.getByRole('option', { name: 'Headphones at night' }).click()
  await page.getByRole('button', { name: 'Keep it for this place' }).click()
})
await shot('riffs', '/kit/riffs', {}, async (page) => {
  const out = join(data, 'Storm theme, dry.wav')
  const riff = ['riff', 'stabs', '--bpm', '96', '--out', out]
  execFileSync('node', ['--import', 'tsx', 'cli/src/main.ts', ...riff], {
    cwd: root,
    env: { ...process.env, TSX_TSCONFIG_PATH: 'cli/tsconfig.json' },
  })
  await page.getByLabel('Riff file').setInputFiles(out)
  await page.getByRole('textbox', { name: 'Tempo of the recording' }).fill('96')
  await page.keyboard.press('Enter')
  const box = await page.locator('[data-wave]').boundingBox()
  await page.mouse.move(box.x + 0.2 * box.width, box.y + 40)
  await page.mouse.down()
  await page.mouse.move(box.x + 0.62 * box.width, box.y + 40, { steps: 5 })
  await page.mouse.up()
  await page.waitForTimeout(800)
})
await shot('play-on', '/play-on/demo-pit-main?snapshot=storm', {}, async (page) => {
  await page.getByRole('button', { name: /^The other guitar/ }).click()
  await page.getByRole('option', { name: 'Plank' }).click()
  await page.locator('[data-whole]:not([data-whole=working])').waitFor({ timeout: 90_000 })
})
await shot('checks', '/checks/demo-tide-wall', {}, async (page) => {
  await page.locator('[data-noise=there]').waitFor({ timeout: 60_000 })
})
await shot('layers', '/layers/demo-pit-main?snapshot=storm', {}, async (page) => {
  await page.getByRole('button', { name: 'Double it' }).click()
  await page.locator('[data-mix]:not([data-mix=""])').waitFor({ timeout: 60_000 })
})
await shot('controls', '/controls/demo-pit-main?snapshot=storm', {}, async (page) => {
  await page.getByRole('slider', { name: 'Position of Delay in' }).fill('620')
  await page.locator('[data-sweep]:not([data-sweep=""])').waitFor({ timeout: 80_000 })
})
await shot('controls-board', '/controls/demo-pit-main/board?snapshot=storm', {}, async (page) => {
  await page.locator('[data-switch="7"]').click()
  await page.locator('[data-switch="1"]').click()
})
await shot('play-through', pit, {}, (page) => page.getByRole('button', { name: 'play through it' }).click())
await shot('sheet-dusk', `${pit}?snapshot=lullaby`, { theme: 'dusk' })
await shot('sheet-phone', '/sheet/demo-tide-wall', { width: 390, height: 844 })
const lateRibbon = async (page) => {
  await page.locator('[data-channel="1"] button').first().click()
  const reset = page.getByRole('button', { name: 'As placed' })
  if (await reset.count()) await reset.click()
  await page.locator('[data-zone]').first().waitFor()
}
await shot('bench', '/bench/demo-tide-lead', {}, lateRibbon)
await shot('shelf', '/shelf')
await browser.close()
server.kill()
rmSync(data, { recursive: true, force: true })
