import type { Page } from '@playwright/test'
import { blankPreset, type Edit, applyEdit, type Preset } from '@fulgor/core/preset'
import { expect, measured, openPit, test } from './app'

const gain = (page: Page) => page.getByRole('textbox', { name: 'Gain value' })

test('with the server away at start the page opens from what the browser kept, says so, and sends edits when it is back', async ({
  page,
  app,
}) => {
  await openPit(page, app)
  // the keeper has the files of this build
  await expect
    .poll(() => page.evaluate(async () => (await (await caches.open('fulgor.files')).keys()).length), { timeout: 30_000 })
    .toBeGreaterThan(10)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Lantern 15' })).toBeVisible()
  await gain(page).fill('6.4')
  await gain(page).press('Enter')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.waitForTimeout(500)
  await app.stop()
  await page.goto(`${app.url}/sheet/demo-pit-main`)
  await expect(page.getByText('The Fulgor server does not answer.')).toBeVisible()
  await expect(page.getByText('as this browser kept it')).toBeVisible()
  await expect(gain(page)).toHaveValue('6.4')
  await gain(page).fill('7.7')
  await gain(page).press('Enter')
  await expect(page.locator('[data-sync=offline]')).toBeVisible()
  await app.start()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await expect(page.getByText('The Fulgor server does not answer.')).toHaveCount(0)
  const stored = (await (await page.request.get(`${app.url}/api/presets/demo-pit-main`)).json()) as { document: Preset }
  expect(JSON.stringify(stored.document)).toContain('"gain":7.7')
})

test('what can be undone is still there after a reload at once', async ({ page, app }) => {
  await openPit(page, app)
  const before = await gain(page).inputValue()
  for (const value of ['6.1', '6.2']) {
    await gain(page).fill(value)
    await gain(page).press('Enter')
    await page.waitForTimeout(900)
  }
  await gain(page).fill('6.3')
  await gain(page).press('Enter')
  await page.reload()
  await expect(gain(page)).toHaveValue('6.3')
  for (const value of ['6.2', '6.1', before]) {
    await page.keyboard.press('Control+z')
    await expect(gain(page)).toHaveValue(value)
  }
})

test('edits go to the server when the sheet is left at once; what it cannot take is listed on the shelf', async ({ page, app }) => {
  await openPit(page, app)
  const kept = page.getByRole('region', { name: 'Edits kept here' })
  const shelf = page.getByRole('link', { name: 'Shelf', exact: true })
  await gain(page).fill('6.1')
  await gain(page).press('Enter')
  await shelf.click()
  await expect(page.getByRole('heading', { name: 'Shelf' })).toBeVisible()
  await expect
    .poll(async () => JSON.stringify(await (await page.request.get(`${app.url}/api/presets/demo-pit-main`)).json()))
    .toContain('"gain":6.1')
  await expect(kept).toHaveCount(0)

  await page.goBack()
  await expect(gain(page)).toHaveValue('6.1')
  await app.stop()
  await gain(page).fill('6.4')
  await gain(page).press('Enter')
  await expect(page.locator('[data-sync=offline]')).toBeVisible()
  await shelf.click()
  await expect(kept.getByRole('listitem')).toContainText('Salt Road, pit main')
  await kept.getByRole('button', { name: 'Throw away' }).click()
  await kept.getByRole('button', { name: 'Keep them after all' }).click()
  await app.start()
  await kept.getByRole('button', { name: 'Put on the shelf as a preset of its own' }).click()
  await expect(kept).toHaveCount(0)
  await page.getByRole('link', { name: /Salt Road, pit main \(kept/ }).click()
  await expect(gain(page)).toHaveValue('6.4')
})

test('a preset that another tab takes off the shelf can be put back, with the edits made meanwhile', async ({ page, app, context }) => {
  await openPit(page, app)
  const other = await context.newPage()
  await other.goto(`${app.url}/shelf`)
  await other.getByRole('button', { name: 'Actions for Salt Road, pit main' }).click()
  await other.getByRole('menuitem', { name: 'Delete' }).click()
  await page.bringToFront()
  await expect(page.getByText('was taken off the shelf elsewhere')).toBeVisible()
  await gain(page).fill('8.8')
  await gain(page).press('Enter')
  await page.getByRole('button', { name: 'Put it back' }).click()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(gain(page)).toHaveValue('8.8')
})

test('a long shelf comes page by page, tells how many there are, and is searched whole', async ({ page, app }) => {
  const document = blankPreset('x')
  for (let from = 0; from < 320; from += 40)
    await Promise.all(
      Array.from({ length: 40 }, (_, i) =>
        page.request.post(`${app.url}/api/presets`, {
          data: { document: { ...document, name: `Number ${String(from + i).padStart(3, '0')}` } },
        }),
      ),
    )
  await page.goto(`${app.url}/shelf?sort=name`)
  await expect(page.getByRole('status').filter({ hasText: '324 presets' })).toBeVisible()
  expect(await page.locator('[data-preset]').count()).toBeLessThan(80)
  const main = page.getByRole('main')
  await expect
    .poll(async () => {
      await main.evaluate((m) => m.scrollTo(0, m.scrollHeight))
      return page.getByRole('link', { name: 'Salt Road, pit main' }).count()
    })
    .toBe(1)
  await page.getByRole('searchbox').fill('number 007')
  await expect(page.getByRole('status').filter({ hasText: '1 preset found' })).toBeVisible()
})

/** Twenty-two stages and eight snapshots with names as long as they may be. */
function large(): Preset {
  const name = 'Storm over the salt road and every lantern of the harbour goes out one by one …'.padEnd(80, '.')
  let preset: Preset = { ...blankPreset(name), tags: [] }
  const edits: Edit[] = [
    ...Array.from({ length: 19 }, (_, i): Edit => ({
      type: 'addStage',
      stage: `x${i}`,
      model: i % 2 ? 'eq.parametric' : 'delay.tape',
      lane: null,
      index: 2,
    })),
    ...Array.from({ length: 19 }, (_, i): Edit => ({
      type: 'nameStage',
      stage: `x${i}`,
      name: 'Stage with the longest name of them all'.padEnd(40, '!'),
    })),
    { type: 'renameSnapshot', snapshot: 's1', name },
    ...Array.from({ length: 7 }, (_, i): Edit => ({ type: 'addSnapshot', snapshot: `n${i}`, name })),
  ]
  for (const edit of edits) preset = applyEdit(preset, edit)
  return preset
}

test('the largest preset with the longest names stays within the page', async ({ page, app }) => {
  const made = (await (await page.request.post(`${app.url}/api/presets`, { data: { document: large() } })).json()) as { id: string }
  for (const width of [1280, 900, 390]) {
    await page.setViewportSize({ width, height: 800 })
    await page.goto(`${app.url}/sheet/${made.id}`)
    await expect(page.locator('[data-stage]')).toHaveCount(22)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(width)
    // names are cut, not laid over what stands beside them
    const over = await page
      .locator('[data-stage] [data-cell$=",0"]')
      .evaluateAll((cells) => cells.filter((c) => c.scrollWidth > c.clientWidth + 1).length)
    expect(over).toBe(0)
  }
})

test('a browser that keeps nothing, by the player’s own choice, opens the sheet, and its edits reach the server', async ({ page, app }) => {
  await page.addInitScript(() => {
    for (const name of ['localStorage', 'sessionStorage', 'indexedDB'])
      Object.defineProperty(window, name, {
        get: () => {
          throw new DOMException('forbidden', 'SecurityError')
        },
      })
  })
  await openPit(page, app)
  const tempo = page.getByRole('textbox', { name: 'Tempo in bpm' })
  await tempo.fill('99')
  await tempo.press('Enter')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await expect
    .poll(
      async () => ((await (await page.request.get(`${app.url}/api/presets/demo-pit-main`)).json()) as { document: Preset }).document.tempo,
    )
    .toBe(99)
  await page.reload()
  await expect(tempo).toHaveValue('99')
})

test('a browser with its hands full still shows what is measured behind every stage', async ({ page, app, context }) => {
  const console = await context.newCDPSession(page)
  await console.send('Emulation.setCPUThrottlingRate', { rate: 8 })
  await openPit(page, app)
  await measured(page)
  await expect(page.locator('[data-trace]')).toHaveCount(8)
})
