import { readFileSync } from 'node:fs'
import { unzipSync } from 'fflate'
import { readWav } from '@fulgor/core/formats'
import { expect, heardPeak, test } from './app'

test('a part is doubled, put beside another preset, heard, measured and written as stems', async ({ page, app }) => {
  await page.goto(`${app.url}/sheet/demo-pit-main?snapshot=storm`)
  await page.getByRole('link', { name: 'layers' }).click()
  await expect(page.getByText('Nothing is layered yet.')).toBeVisible()
  const mix = page.locator('[data-mix]:not([data-mix=""])')
  const picture = page.locator('[data-mono-loss]')

  // two takes, hard left and right: unlike sides, of which mono leaves 3 dB less
  await page.getByRole('button', { name: 'Double it' }).click()
  await expect(mix).toBeVisible({ timeout: 60_000 })
  await expect(page.locator('[data-layer]')).toHaveCount(2)
  expect(Math.abs(Number(await picture.getAttribute('data-mono-loss')) - 3)).toBeLessThan(0.8)
  expect(Math.abs(Number(await picture.getAttribute('data-gained')) - 3)).toBeLessThan(0.8)

  // the same take on both sides is mono but for the hall, and nothing is lost
  await page.locator('[data-layer="2"] button').nth(1).click()
  await page.getByRole('radio', { name: '1', exact: true }).click()
  await expect(mix).toHaveCount(0)
  await expect(mix).toBeVisible({ timeout: 60_000 })
  expect(Number(await picture.getAttribute('data-mono-loss'))).toBeLessThan(1)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => Number(await picture.getAttribute('data-mono-loss')), { timeout: 60_000 }).toBeGreaterThan(2)

  // another preset beside them
  await page.getByRole('button', { name: 'Add a layer' }).click()
  await page.getByRole('combobox', { name: 'Preset of the layer' }).fill('harb')
  await page.getByRole('option', { name: 'Harbour' }).click()
  await expect(page.locator('[data-layer="3"]')).toContainText('Harbour')
  await page.locator('[data-param=delay] input[type=text]').fill('20')
  await page.keyboard.press('Enter')
  await expect(page.getByText('first null in mono 25 Hz')).toBeVisible()
  await expect(mix).toBeVisible({ timeout: 60_000 })

  // another guitar is another sound: −19 instead of −7 dBFS for a hard strum
  const loud = async () => Number(await mix.getAttribute('data-mix', { timeout: 60_000 }))
  const before = await loud()
  await page.getByRole('button', { name: /^Guitar: / }).click()
  await page.getByRole('option', { name: /Mild single coil/ }).click()
  await expect.poll(loud, { timeout: 60_000 }).toBeLessThan(before - 0.5)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => Math.abs((await loud()) - before), { timeout: 60_000 }).toBeLessThan(0.05)

  await page.getByRole('button', { name: 'Hear the mix' }).click()
  await expect.poll(() => heardPeak(page), { timeout: 20_000 }).toBeGreaterThan(0.01)
  await page.getByRole('button', { name: 'Stop the mix' }).click()
  await expect.poll(() => heardPeak(page)).toBeLessThan(1e-4)

  const [sum] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'WAV together' }).click()])
  const whole = readWav(new Uint8Array(readFileSync(await sum.path())))
  const [zip] = await Promise.all([
    page.waitForEvent('download', { timeout: 60_000 }),
    page.getByRole('button', { name: 'WAV each' }).click(),
  ])
  const stems = Object.values(unzipSync(new Uint8Array(readFileSync(await zip.path())))).map((bytes) => readWav(bytes))
  expect(stems).toHaveLength(3)
  for (const stem of stems) expect(stem.channels[0]).toHaveLength(whole.channels[0].length)

  // it is kept with the preset
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(page.locator('[data-layer]')).toHaveCount(3)
})
