import type { Page } from '@playwright/test'
import { blankPreset, createStage } from '@fulgor/core/preset'
import { expect, heardPeak, test } from './app'

const finding = (page: Page, rule: string) => page.locator(`[data-rule=${rule}]`)

async function openChecks(page: Page, url: string, id = 'demo-pit-main') {
  await page.goto(`${url}/checks/${id}`)
  await expect(page.getByRole('region', { name: 'Findings' })).toHaveAttribute('data-stale', 'false', { timeout: 60_000 })
}

test('a mend is heard level-matched before it is taken, taken, and undone', async ({ page, app }) => {
  await openChecks(page, app.url)
  const hot = finding(page, 'over-ceiling')
  await expect(hot).toContainText('Storm lead leaves at')
  await hot.getByRole('button', { name: 'Hear it' }).click()
  // it is heard where it is so
  await expect(page).toHaveURL(/snapshot=storm/)
  await expect(hot.getByRole('button', { name: 'with the mend' })).toHaveAttribute('aria-pressed', 'true')
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
  // what it is lowered by is what it is turned up by
  await expect(hot.getByText(/matched \+2\.\d dB/)).toBeVisible()
  await hot.getByRole('button', { name: 'without', exact: true }).click()
  await expect(hot.getByRole('button', { name: 'without', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await hot.getByRole('button', { name: 'Lower it to the ceiling' }).click()
  await expect(hot).toHaveCount(0, { timeout: 30_000 })
  await page.keyboard.press('Control+z')
  await expect(hot).toBeVisible({ timeout: 30_000 })
})

test('a finding is set aside with a reason, stays aside over a reload, and is asked again', async ({ page, app }) => {
  await openChecks(page, app.url, 'demo-tide-wall')
  const late = finding(page, 'late-lane')
  await late.getByRole('button', { name: 'Why' }).click()
  await expect(late).toContainText('A shifted voice must listen before it can sing')
  await late.getByRole('button', { name: 'Not here' }).click()
  await late.getByRole('textbox').fill('spread on purpose')
  await page.keyboard.press('Enter')
  await expect(late).toHaveCount(0)
  await expect(page.getByText('1 set aside here')).toBeVisible()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(page.getByText('“spread on purpose”.')).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Ask again' }).click()
  await expect(late).toBeVisible()
})

test('a gain is set by what it shall do under the hand', async ({ page, app }) => {
  await openChecks(page, app.url)
  const noise = page.getByRole('region', { name: 'Noise budget' })
  await noise.getByRole('button', { name: 'Clean: a hard strum stays under 1 %' }).click()
  await expect(noise.getByRole('status')).toHaveText(/Lantern 15, gain \d\.\d: (0\.\d|1\.0) % there|the end of its range/, {
    timeout: 30_000,
  })
  await expect(page.getByRole('region', { name: 'Findings' })).toHaveAttribute('data-stale', 'false', { timeout: 60_000 })
  await page.keyboard.press('Control+z')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
})

test('net curve, noise and the hand are told for each snapshot, and rows of the sheet say what is found there', async ({ page, app }) => {
  await openChecks(page, app.url)
  await page.keyboard.press('3')
  const before = page.getByRole('region', { name: 'Between' })
  await expect(before).toContainText('behind Mid-hump drive, into Lantern 15')
  const after = page.getByRole('region', { name: 'After' })
  // the cabinet takes the top away
  await expect.poll(async () => Number((await after.locator('[data-net-at="8000"]').innerText()).replace('−', '-'))).toBeLessThan(-12)
  await page.getByRole('checkbox', { name: 'Cabinet in' }).uncheck()
  await expect.poll(async () => Number((await after.locator('[data-net-at="8000"]').innerText()).replace('−', '-'))).toBeGreaterThan(-12)
  const noise = page.getByRole('region', { name: 'Noise budget' })
  await expect(noise.locator('[data-noise-of=""]')).toHaveText('−88.9')
  await expect(noise.locator('[data-hand]')).toContainText('below a hard strum')
  await page.getByRole('link', { name: 'Sheet' }).click()
  await page
    .locator('[data-stage=out]')
    .getByRole('link', { name: /Finding 1: Storm lead leaves/ })
    .click()
  await expect(page).toHaveURL(/\/checks\//)
  await page.getByRole('link', { name: 'Sheet' }).click()
  await page.locator('[data-stage=eq] [data-cell$=",0"]').click()
  await page.getByRole('radio', { name: 'Net curve' }).click()
  await expect(page.locator('#focus-panel').getByRole('table', { name: /dB at octave points/ })).toBeVisible()
})

test('two equalisers in a row are replaced by one, with the error that it leaves, and come back', async ({ page, app }) => {
  const eq = (id: string, params: Record<string, number>) => createStage(id, 'eq.parametric', params)
  const chain = [eq('a', { bell1: 300, gain1: -4 }), eq('b', { bell2: 2_200, gain2: 5 }), createStage('out', 'output')]
  const answer = await page.request.post(`${app.url}/api/presets`, { data: { document: { ...blankPreset('Two'), chain } } })
  await page.goto(`${app.url}/checks/${((await answer.json()) as { id: string }).id}`)
  const net = page.getByRole('region', { name: 'Net curve' })
  await expect(net.locator('[data-one-eq]')).toContainText(/does the same within 0\.[01] dB/, { timeout: 60_000 })
  const at2k = net.locator('[data-net-at="2000"]')
  const before = await at2k.innerText()
  await net.getByRole('button', { name: 'Replace these 2 by one' }).click()
  await expect(net.locator('[data-one-eq]')).toHaveCount(0)
  await expect(at2k).toHaveText(before)
  await page.keyboard.press('Control+z')
  await expect(net.getByRole('button', { name: 'Replace these 2 by one' })).toBeVisible()
})
