import type { Page } from '@playwright/test'
import { expect, heardPeak, loudness, measured, openPit, test } from './app'

/** Presses Tab until the focus is where it should be. @returns how many it took */
async function tabTo(page: Page, there: () => boolean, most: number): Promise<number> {
  for (let presses = 1; presses <= most; presses++) {
    await page.keyboard.press('Tab')
    // the focus moves with the next frame
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)))
    if (await page.evaluate(there)) return presses
  }
  throw new Error(`not reached in ${most} presses of Tab`)
}

const gainFocused = () => document.activeElement?.getAttribute('aria-label') === 'Gain value'

test('a tone is built, levelled and saved without a mouse', async ({ page, app }) => {
  await page.goto(app.url)
  await expect(page.getByRole('button', { name: 'Start from a blank page' })).toBeVisible()
  await tabTo(page, () => document.activeElement?.textContent === 'Start from a blank page', 20)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Lantern 15' })).toBeVisible()

  // the chosen row has the focus; its first value is one press away
  await expect(page.locator('[data-stage=amp] [data-cell]').first()).toBeFocused()
  expect(await tabTo(page, gainFocused, 5)).toBe(1)
  await page.keyboard.type('two o’clock')
  await page.keyboard.press('Escape')
  await page.keyboard.type('2 o’clock')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Gain value' })).toHaveValue('7.0')
  await page.keyboard.press('Shift+Tab')
  await expect(page.locator('[data-stage=amp] [data-cell]').first()).toBeFocused()

  // a drive before the amp by the finder, a second snapshot, its gain typed in its cell
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('combobox', { name: /^Find an action/ })).toBeFocused()
  await page.keyboard.type('mid-hump')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-stage]')).toHaveCount(4)
  await expect(page.locator('[data-stage]:nth-child(3) [data-cell]').first()).toBeFocused()
  await page.keyboard.press('Alt+ArrowUp')
  await expect(page.locator('[data-stage]').first()).toContainText('Mid-hump drive')
  await page.locator('[data-stage=amp] [data-cell]').first().focus()
  await page.keyboard.press('Shift+F10')
  await expect(page.getByRole('menu')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('combobox', { name: /^Find an action/ })).toBeFocused()
  await page.keyboard.type('level all')
  await page.keyboard.press('Enter')
  await measured(page)
  await expect.poll(async () => Object.values(await loudness(page)).map((l) => l.toFixed(1))).toEqual(['-18.0'])
  await page.keyboard.press('Control+s')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()

  // it sounds
  await page.keyboard.press('Space')
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
  await page.keyboard.press('Space')
})

test('the first press of Tab leads past the views, to the chosen row', async ({ page, app }) => {
  await openPit(page, app)
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'Past the views' })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-stage=amp] [data-cell]').first()).toBeFocused()
})

test('what is rare is explained in place, by key, and a tour walks over the page', async ({ page, app }) => {
  await openPit(page, app)
  await page.getByRole('button', { name: 'What is “True peak”?' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-explains=peak]')).toContainText('between the samples')
  await page.keyboard.press('Escape')
  await expect(page.locator('[data-explains]')).toHaveCount(0)
  await page.getByRole('button', { name: 'Tour' }).press('Enter')
  for (let step = 1; step <= 7; step++) {
    await expect(page.getByRole('dialog', { name: `Tour, ${step} of 7` })).toBeFocused()
    await page.keyboard.press('ArrowRight')
  }
  await page.getByRole('button', { name: 'Done' }).press('Enter')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.getByRole('button', { name: 'Tour' }).press('Enter')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
})

test('the figures are a table to those who hear the page, and sliders are seen in forced colours', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  const table = page.getByRole('table', { name: 'Loudness of the snapshots over the riff' })
  await expect(table.getByRole('row')).toHaveCount(7)
  await expect(table.getByRole('row', { name: /^Storm lead/ })).toContainText('too hot')
  await page.emulateMedia({ forcedColors: 'active' })
  const track = await page.getByRole('slider', { name: 'Gain', exact: true }).evaluate((s) => getComputedStyle(s).forcedColorAdjust)
  expect(track).toBe('none')
})
