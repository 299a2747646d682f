import { readFileSync } from 'node:fs'
import { readWav } from '@fulgor/core/formats'
import { demoPresets } from '@fulgor/core/demo'
import { expect, openPit, test } from './app'

test('edits made while the server is away are kept in the browser and sent when it is back', async ({ page, app }) => {
  await openPit(page, app)
  await app.stop()
  const tempo = page.getByRole('textbox', { name: 'Tempo in bpm' })
  await tempo.fill('101')
  await tempo.press('Enter')
  await expect(page.locator('[data-sync=offline]')).toBeVisible()
  await app.start()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(tempo).toHaveValue('101')
})

test('edits that a closed page could not send come back with the next visit', async ({ page, app }) => {
  await openPit(page, app)
  await app.stop()
  const tempo = page.getByRole('textbox', { name: 'Tempo in bpm' })
  await tempo.fill('77')
  await tempo.press('Enter')
  await expect(page.locator('[data-sync=offline]')).toBeVisible()
  await page.goto('about:blank')
  await app.start()
  await openPit(page, app)
  await expect(tempo).toHaveValue('77')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
})

test('two tabs that both kept edits while the server was away lose neither of them once they are closed', async ({
  page,
  app,
  context,
}) => {
  await openPit(page, app)
  const other = await context.newPage()
  await openPit(other, app)
  await app.stop()
  for (const [p, bpm] of [
    [page, '71'],
    [other, '72'],
  ] as const) {
    const tempo = p.getByRole('textbox', { name: 'Tempo in bpm' })
    await tempo.fill(bpm)
    await tempo.press('Enter')
    await expect(p.locator('[data-sync=offline]')).toBeVisible()
  }
  await other.close()
  await page.close()
  await app.start()
  const visit = await context.newPage()
  await openPit(visit, app)
  const tempo = visit.getByRole('textbox', { name: 'Tempo in bpm' })
  await expect(tempo).toHaveValue(/^7[12]$/)
  await expect(visit.getByText('Edits that another tab could not send are on the shelf as')).toBeVisible()
  const answer = await visit.request.get(`${app.url}/api/presets?search=kept`)
  const { items } = (await answer.json()) as { items: { name: string; tempo: number }[] }
  // the tab that kept its edits last goes on here, the other one has become a preset
  expect([Number(await tempo.inputValue()), ...items.map((p) => p.tempo)].sort()).toEqual([71, 72])
  expect(items[0].name).toMatch(/^Salt Road, pit main \(kept \d\d:\d\d\)$/)
})

test('two tabs on one preset never overwrite each other silently', async ({ page, app, context }) => {
  await openPit(page, app)
  const other = await context.newPage()
  await openPit(other, app)
  const tempo = (p: typeof page) => p.getByRole('textbox', { name: 'Tempo in bpm' })
  // nothing unsaved here: the other tab's change comes in, with a word
  await tempo(page).fill('110')
  await tempo(page).press('Enter')
  await expect(tempo(other)).toHaveValue('110')
  // both change at once: the later writer must choose
  await context.setOffline(true)
  await tempo(other).fill('120')
  await tempo(other).press('Enter')
  await tempo(page).fill('130')
  await tempo(page).press('Enter')
  await expect(other.locator('[data-sync=offline]')).toBeVisible()
  await context.setOffline(false)
  const dialogs = [page, other].map((p) => p.getByRole('dialog', { name: 'Changed elsewhere' }))
  await expect.poll(async () => (await dialogs[0].count()) + (await dialogs[1].count())).toBe(1)
  const loser = (await dialogs[0].count()) === 1 ? page : other
  await loser.getByRole('button', { name: 'Keep mine as a copy' }).click()
  await expect(loser.getByRole('textbox', { name: 'Name of the preset' })).toHaveValue('Salt Road, pit main (my copy)')
})

test('the shelf: search, tags, duplicate, delete with undo, new from blank and demo', async ({ page, app }) => {
  await page.goto(`${app.url}/shelf`)
  const rows = page.locator('tbody tr')
  await expect(rows).toHaveCount(4)
  await page.keyboard.press('/')
  await page.keyboard.type('tide lead')
  await expect(rows).toHaveCount(1)
  await page.getByRole('searchbox').fill('')
  await page.getByRole('button', { name: /^The Salt Road/ }).click()
  await expect(rows).toHaveCount(1)
  await page.getByRole('button', { name: 'Actions for Salt Road, pit main' }).click()
  await page.getByRole('menuitem', { name: 'Duplicate' }).click()
  await expect(rows).toHaveCount(2)
  await page.getByRole('button', { name: 'Actions for Salt Road, pit main copy' }).click()
  await page.getByRole('menuitem', { name: 'Delete' }).click()
  await expect(rows).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(rows).toHaveCount(2)
  await page.keyboard.press('Control+Shift+z')
  await expect(rows).toHaveCount(1)
  await page.getByRole('radio', { name: 'Bin' }).click()
  await expect(rows).toHaveCount(1)
  await expect(rows).toContainText('30 days left')
  await page.getByRole('button', { name: 'Actions for Salt Road, pit main copy' }).click()
  await page.getByRole('menuitem', { name: 'Put back on the shelf' }).click()
  await expect(page.getByText('The bin is empty.')).toBeVisible()
  await page.getByRole('radio', { name: 'On the shelf' }).click()
  await page.getByRole('button', { name: 'New preset' }).click()
  await page.getByRole('menuitem', { name: 'From blank' }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the preset' })).toHaveValue('New preset')
})

test('a preset goes out as JSON and comes back; a foreign file is refused by name', async ({ page, app }) => {
  await openPit(page, app)
  await page.getByRole('button', { name: 'Export' }).click()
  const [json] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: 'Preset as JSON' }).click()])
  const document = JSON.parse(readFileSync(await json.path(), 'utf8')) as { name: string }
  expect(document).toEqual(demoPresets[0].preset)
  await page.getByRole('button', { name: 'Export' }).click()
  const [wav] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: /as WAV, 48 kHz/ }).click()])
  expect(wav.suggestedFilename()).toBe('salt-road-pit-main-overture-clean.wav')
  expect(readWav(readFileSync(await wav.path()))).toMatchObject({ sampleRate: 48_000, bits: 24 })

  await page.getByRole('link', { name: 'Shelf' }).click()
  const files = (content: string, name: string) =>
    page.getByLabel('Preset files to import').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(content) })
  await files(JSON.stringify({ ...document, name: 'Back again' }), 'back.json')
  await expect(page.getByRole('link', { name: 'Back again' })).toBeVisible()
  await files(JSON.stringify({ ...document, tempo: 3 }), 'slow.json')
  await expect(page.getByText('slow.json was not imported: tempo: must be a number from 20 to 400.')).toBeVisible()
  await files('hello', 'hello.json')
  await expect(page.getByText('hello.json was not imported: it is not JSON.')).toBeVisible()
})
