import { readFile } from 'node:fs/promises'
import type { Page } from '@playwright/test'
import { expect, test, type App } from './app'

const openSet = async (page: Page, app: App, query = ''): Promise<void> => {
  await page.goto(`${app.url}/set/demo-salt-road${query}`)
  await expect(page.locator('[data-planned=done]')).toBeVisible({ timeout: 30_000 })
}
const saved = (page: Page) => expect(page.locator('header[data-sync=saved]')).toBeVisible()
const presses = async (page: Page): Promise<number> => Number(await page.locator('[data-presses]').getAttribute('data-presses'))

test('1. the plan of the night shows trouble; a layout mends it, is taken, stored and put back', async ({ page, app }) => {
  await openSet(page, app)
  await expect(page.locator('[data-song]')).toHaveCount(14)
  await expect(page.locator('[data-trouble]').first()).toBeVisible()
  const before = await presses(page)
  expect(Number(await page.locator('[data-presses]').getAttribute('data-sung'))).toBeGreaterThan(0)

  // a switch that is to stay
  await page
    .getByRole('button', { name: /Lullaby/, pressed: false })
    .filter({ hasText: '4' })
    .last()
    .click()
  await expect(page.getByText('fast', { exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Find a better layout' }).click()
  await expect(page.locator('[data-after]')).toBeVisible({ timeout: 60_000 })
  const after = Number(await page.locator('[data-after]').getAttribute('data-after'))
  expect(after).toBeLessThan(before)
  await expect(page.getByText('With this layout: nothing is pressed during a sung line.')).toBeVisible()
  await expect(page.getByRole('list', { name: 'What changes' }).getByRole('listitem').first()).toBeVisible()

  await page.getByRole('button', { name: 'Use this layout' }).click()
  await expect(page.getByText('The layout stands in the presets, each as a saved version.')).toBeVisible({ timeout: 20_000 })
  await expect.poll(() => presses(page)).toBe(after)
  // the preset itself has a snapshot more, on a switch of its own, and the fourth switch is what it was
  const stored = (await (await page.request.get(`${app.url}/api/presets/demo-pit-main`)).json()) as {
    document: {
      snapshots: { id: string; name: string }[]
      board: { switches: { page: string; bank: number; index: number; press: unknown }[] }
    }
    saved: { number: number }
  }
  expect(stored.document.snapshots.map((s) => s.name)).toContain('Pit strum with Mid-hump drive')
  expect(stored.document.board.switches.find((s) => s.page === 'snapshots' && s.bank === 0 && s.index === 3)?.press).toEqual({
    do: 'snapshot',
    snapshot: 'lullaby',
  })

  await page.getByRole('button', { name: 'Put the old layout back' }).click()
  await expect.poll(() => presses(page), { timeout: 20_000 }).toBe(before)
})

test('2. parts are moved by mouse and keys, typed, sung, undone and kept over a reload', async ({ page, app }) => {
  await openSet(page, app)
  const border = page.locator('[data-border=overture-2]')
  const box = await border.boundingBox()
  if (!box) throw new Error('no border')
  await page.mouse.move(box.x + 5, box.y + 20)
  await page.mouse.down()
  const begins = page.getByRole('textbox', { name: 'Where the part begins' })
  await expect(begins).toHaveValue('17.1')
  await page.mouse.move(box.x + 35, box.y + 20, { steps: 3 })
  await expect(begins).not.toHaveValue('17.1')
  const onTheWay = await begins.inputValue()
  // however long the hand waits, a drag is one step
  await page.waitForTimeout(1500)
  await page.mouse.move(box.x + 95, box.y + 20, { steps: 3 })
  await expect(begins).not.toHaveValue(onTheWay)
  await page.mouse.up()
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(begins).toHaveValue('17.1')

  // a bar later by the keyboard, then typed as players say it
  await page.locator('#part-overture-2').focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(begins).toHaveValue('18.1')
  await page.keyboard.press('s')
  await expect(page.locator('[data-part=overture-2] [data-sung]')).toBeVisible()
  const length = page.getByRole('textbox', { name: 'How long the part is' })
  await length.fill('two')
  await length.press('Enter')
  await expect(page.getByText('Write bars or beats: 8, or 6 beats.')).toBeVisible()
  await length.fill('12 bars')
  await length.press('Enter')
  await expect(length).toHaveValue('12 bars')
  await saved(page)
  await page.reload()
  await expect(page.locator('[data-planned=done]')).toBeVisible({ timeout: 30_000 })
  await expect(page.getByRole('textbox', { name: 'How long the part is' })).toHaveValue('12 bars')
})

test('3. a night is built from nothing by typing; a song without a tempo and a preset that is gone are told', async ({ page, app }) => {
  await page.goto(`${app.url}/set/demo-low-tide`)
  const add = page.getByRole('textbox', { name: 'Add a song by its name' })
  await add.fill('First Light')
  await add.press('Enter')
  await expect(page.getByText('It has no tempo: how long it takes is not known.')).toBeVisible()
  await page.getByRole('textbox', { name: 'Tempo of the song' }).fill('100')
  await page.keyboard.press('Enter')
  await expect(page.getByText('It has no tempo: how long it takes is not known.')).toBeHidden()
  await page.getByRole('button', { name: 'Add a part' }).click()
  await page.getByRole('button', { name: /^Sound of the part: nothing/ }).click()
  await page.getByRole('option', { name: /1 Theme/ }).click()
  await page.getByRole('button', { name: 'Add a part' }).click()
  await page.getByRole('button', { name: /^Sound of the part: 1 Theme/ }).click()
  await page.getByRole('option', { name: /2 Answer/ }).click()
  await expect(page.locator('[data-song-presses]').first()).not.toHaveAttribute('data-song-presses', '')
  // 16 bars of four at 100
  await expect(page.locator('[data-song]').first()).toContainText('0:38')
  await saved(page)

  await page.request.delete(`${app.url}/api/presets/demo-tide-lead`)
  await page.reload()
  await expect(page.locator('[data-trouble=gone]').first()).toBeVisible({ timeout: 20_000 })
  await page.getByRole('button', { name: 'Undo', exact: true }).isVisible()
})

test('4. the night is heard through all its changes, and its levels stand in running order', async ({ page, app }) => {
  test.setTimeout(150_000)
  await openSet(page, app, '?panel=levels&night=school')
  await expect(page.locator('[data-levels=done]')).toBeVisible({ timeout: 90_000 })
  const levels = await page.locator('[data-level]').evaluateAll((rows) => rows.map((r) => Number(r.getAttribute('data-level'))))
  expect(levels.length).toBeGreaterThan(10)
  for (const lufs of levels) expect(lufs).toBeGreaterThan(-30)
  await page.getByRole('button', { name: 'Run the show' }).click()
  await expect(page.locator('tr.bg-lit')).toBeVisible({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Stop the run' }).click()
  await expect(page.getByRole('button', { name: 'Run the show' })).toBeVisible()
})

test('5. sheets, sequence, calendar and table are written', async ({ page, app }) => {
  await openSet(page, app, '?panel=papers')
  const take = async (name: string) => {
    const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name, exact: true }).click()])
    return { name: file.suggestedFilename(), bytes: await readFile(await file.path()) }
  }
  const gig = await take('PDF: Gig sheet')
  expect(gig.name).toBe('the-salt-road-evening.pdf')
  expect(gig.bytes.subarray(0, 5).toString()).toBe('%PDF-')
  await expect(page.getByText(/^Gig sheet: One page, type of/)).toBeVisible()
  expect((await take('PDF: For the sound engineer')).bytes.length).toBeGreaterThan(5_000)
  expect((await take('PDF: Before it begins')).bytes.length).toBeGreaterThan(5_000)
  expect((await take('MIDI file')).bytes.subarray(0, 4).toString()).toBe('MThd')
  expect((await take('Calendar file')).bytes.toString()).toContain('DTSTART:20261211T193000')
  expect((await take('CSV')).bytes.toString()).toContain('Storm over the Pans')
  expect(JSON.parse((await take('JSON')).bytes.toString())).toHaveProperty('presets.demo-harbour-clean')
  await page.getByRole('radio', { name: 'Usage' }).click()
  await expect(page.getByRole('list', { name: 'What could be freed' })).toContainText('Pit strum with Mid-hump drive')
})

test('6. on stage: number, name and press, by keys and touch, without the server, and nothing by accident', async ({
  page,
  app,
  context,
}) => {
  await page.goto(`${app.url}/stage/demo-salt-road?night=evening`)
  const stage = page.locator('main[data-cue]')
  await expect(stage).toHaveAttribute('data-cue', '0')
  await expect(stage).toContainText('Overture clean')
  await expect(page.locator('[data-press]')).toContainText('press 2')
  await expect(page.locator('[data-count]')).toHaveAttribute('data-count', /^(in \d|bar 1 of 16)$/)
  // the network goes: nothing changes
  await context.setOffline(true)
  await page.keyboard.press('ArrowRight')
  await expect(stage).toHaveAttribute('data-cue', '1')
  await expect(stage).toContainText('Pit strum')
  await page.getByRole('button', { name: 'Next' }).click()
  await expect(stage).toHaveAttribute('data-cue', '2')
  // a second touch at once is none
  await page.waitForTimeout(500)
  await page.getByRole('button', { name: 'Next' }).dblclick()
  await expect(stage).toHaveAttribute('data-cue', '3')
  await page.keyboard.press('ArrowLeft')
  await expect(stage).toHaveAttribute('data-cue', '2')
  // a short touch of a corner does nothing
  await page.getByRole('button', { name: 'Form: hold' }).click()
  await expect(stage).toHaveAttribute('data-form', 'dark')
  await page.keyboard.press('f')
  await expect(stage).toHaveAttribute('data-form', 'red')
  await page.keyboard.press('f')
  await expect(stage).toHaveAttribute('data-form', 'day')
  // the number is a good part of the screen’s height
  const size = await page
    .locator('main[data-cue] b.num')
    .first()
    .evaluate((b) => b.getBoundingClientRect().height / innerHeight)
  expect(size).toBeGreaterThan(0.25)
  await context.setOffline(false)
  await page.keyboard.press('Escape')
  await expect(page).toHaveURL(/\/set\/demo-salt-road/)
})

test('7. a brief: a list is pasted, a sound is begun with a start that fits, and its steps are measured', async ({ page, app }) => {
  test.setTimeout(150_000)
  await page.goto(`${app.url}/brief/demo-salt-road`)
  await expect(page.locator('[data-sound]')).toHaveCount(10)
  await expect(page.locator('[data-answered="8"]')).toBeVisible({ timeout: 20_000 })
  await expect(page.getByText('Missing: Strum with drive')).toBeVisible()
  await page.getByRole('button', { name: 'Take a list' }).click()
  await page.getByRole('textbox', { name: 'Pasted lines' }).fill('name;role;bpm\nFunk stab;clean;104\n;crunch;90\nWild;trumpet;9000')
  const told = page.getByRole('dialog')
  await expect(told).toContainText('Line 3 has no name. It is left out.')
  await expect(told).toContainText('“trumpet” is no role that is known')
  await expect(told).toContainText('“9000” is no tempo')
  await page.getByRole('button', { name: 'Add 2 sounds' }).click()
  await expect(page.locator('[data-sound]')).toHaveCount(12)
  await expect(page.locator('[data-chosen]')).toContainText('Begin this sound')
  await page.getByRole('button', { name: 'Begin this sound' }).click()
  await expect(page).toHaveURL(/\/sheet\//, { timeout: 20_000 })
  await expect(page.locator('[data-stage=amp]')).toBeVisible({ timeout: 20_000 })

  await page.getByRole('link', { name: 'Brief' }).click()
  await expect(page.locator('[data-sound]')).toHaveCount(12)
  await page.locator('[data-sound]', { hasText: 'Funk stab' }).click()
  await expect(page.locator('[data-steps=read]')).toBeVisible({ timeout: 90_000 })
  await expect(page.locator('[data-step=amp]')).toHaveAttribute('data-done', 'yes')
  // the ear’s own steps are the player’s word
  await page.locator('[data-step=dry]').getByRole('button').first().click()
  await page.getByRole('button', { name: 'Skip' }).click()
  await expect(page.locator('[data-step=dry]')).toHaveAttribute('data-done', 'skipped')
  await page.getByRole('radio', { name: 'amp first' }).click()
  await expect(page.locator('[data-step]').nth(1)).toHaveAttribute('data-step', 'amp')
  await saved(page)
  await page.reload()
  await expect(page.locator('[data-step=dry]')).toHaveAttribute('data-done', 'skipped')
})
