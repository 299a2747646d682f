import type { Page } from '@playwright/test'
import { expect, measured, openPit, test } from './app'

const cell = (page: Page, row: number, column: number) => page.locator(`[data-cell="${row},${column}"]`)

test('cells are selected, copied, filled, swapped and reset, and pasted in another preset', async ({ page, app, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await openPit(page, app)
  const amp = (column: number) => cell(page, 2, column)
  const storm = (await amp(3).locator('.sr-only').textContent()) ?? ''
  expect(storm).toContain('Gain 6.2')

  // by keyboard: the lead's cell, and the two to its right take its values
  await amp(3).click()
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  await expect(page.locator('[data-range]')).toHaveAttribute('data-range', '1 3')
  await page.keyboard.press('Control+Enter')
  await expect(amp(5)).toHaveAccessibleName(storm.replace('Storm lead', 'Chase'))
  await page.keyboard.press('Control+z')
  await expect(amp(5)).not.toHaveAccessibleName(storm.replace('Storm lead', 'Chase'))

  // by mouse: a box over two rows and two snapshots
  await page.keyboard.press('Escape')
  await expect(page.locator('[data-range]')).toHaveCount(0)
  await cell(page, 1, 3).hover()
  await page.mouse.down()
  await cell(page, 2, 4).hover()
  await page.mouse.up()
  await expect(page.locator('[data-range]')).toHaveAttribute('data-range', '2 2')
  await page.getByRole('button', { name: 'Swap' }).click()
  await expect(amp(4)).toHaveAccessibleName(storm.replace('Storm lead', 'Lullaby'))
  await page.keyboard.press('Control+z')
  await expect(amp(3)).toHaveAccessibleName(storm)
  await page.getByRole('button', { name: 'Reset to base' }).click()
  await expect(amp(3)).toHaveAccessibleName(/as base/)
  await page.keyboard.press('Control+z')
  await page.getByRole('button', { name: 'Deselect' }).click()

  // through the system's clipboard into another preset
  await amp(3).click()
  await page.keyboard.press('Control+c')
  await page.goto(`${app.url}/sheet/demo-tide-lead`)
  await page.locator('[data-all-ms]').waitFor({ timeout: 60_000 })
  await cell(page, 0, 1).click()
  await page.keyboard.press('Control+v')
  await expect(cell(page, 2, 1)).toHaveAccessibleName(/Gain 6.2, Bass 4.0, Mid 7.0/)
  // below the amp there is none that could take it
  await cell(page, 7, 1).click()
  await page.keyboard.press('Control+v')
  await expect(page.getByText('From this row on there is no Lantern 15')).toBeVisible()
})

test('the sheet shows what differs, how much changes at a switch, and what a snapshot has grown from', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  const gate = page.getByRole('button', { name: 'Gate: on in the base' })
  const output = page.getByRole('button', { name: 'Output: on in the base' })
  await expect(output).toBeVisible()
  await page.getByRole('button', { name: 'Only what differs' }).click()
  await expect(output).toHaveCount(0)
  await expect(gate).toBeVisible()
  await page.getByText('1 row as the base').last().click()
  await expect(output).toBeVisible()

  await cell(page, 0, 3).click()
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await page.getByRole('button', { name: 'Duplicate', exact: true }).click()
  const grown = page.getByRole('region', { name: 'Grown from' })
  await expect(grown).toContainText('Nothing differs yet.')
  const parent = page.getByRole('columnheader', { name: /Storm lead/ }).first()
  await expect(parent.locator('[data-changes]')).toHaveAttribute('data-changes', '0')
  await cell(page, 2, 4).click()
  await page.locator('[data-param=gain] input[type=text]').fill('7.5')
  await page.keyboard.press('Enter')
  await expect(parent.locator('[data-changes]')).toHaveAttribute('data-changes', '1')
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await expect(grown).toContainText('more gain, 6.2 → 7.5')
  await expect(grown).toContainText(/[+−][\d.]+ LU/, { timeout: 40_000 })
  await grown.getByRole('button', { name: 'See all' }).click()
  await expect(page.locator('[data-differences]')).toHaveAttribute('data-differences', '1')
})
