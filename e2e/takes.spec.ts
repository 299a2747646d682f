import { writeWav } from '@fulgor/core/formats'
import { expect, measured, openPit, test } from './app'

/** A 997 Hz sine on both sides: by BS.1770 its loudness is its level in dBFS, here 3 s of it. */
function sine(dbfs: number): Buffer {
  const samples = Float32Array.from({ length: 144_000 }, (_, n) => Math.pow(10, dbfs / 20) * Math.sin((2 * Math.PI * 997 * n) / 48_000))
  return Buffer.from(writeWav([samples, samples], 48_000, 24))
}

test('takes of a device are measured, levelled in its own scale and kept', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  const takes = page.getByRole('region', { name: 'Takes' })

  const add = async (key: string, dbfs: number, setting: string) => {
    await page.keyboard.press(key)
    await takes.getByRole('button', { name: 'Add a take' }).click()
    await page.getByLabel('Recording of your device').setInputFiles({ name: `${key}.wav`, mimeType: 'audio/wav', buffer: sine(dbfs) })
    await expect(page.locator('[data-sound="3.0"]')).toBeVisible()
    await page.getByRole('textbox', { name: 'Device' }).fill('Floor board')
    await page.getByLabel('Its level control stood at').fill(setting)
    await page.getByRole('textbox', { name: 'Note', exact: true }).fill('straight into the interface')
    await page.getByRole('button', { name: 'Keep the take' }).click()
    await expect(takes.locator('[data-take]:not([data-take=""])')).toHaveAttribute('data-take', /^-\d/)
  }
  // a file that is none is told by name, and nothing is kept
  await takes.getByRole('button', { name: 'Add a take' }).click()
  await page
    .getByLabel('Recording of your device')
    .setInputFiles({ name: 'notes.wav', mimeType: 'audio/wav', buffer: Buffer.from('no sound') })
  await expect(page.getByRole('alert')).toContainText('notes.wav was not taken')
  await page.getByRole('button', { name: 'Keep the take' }).click()
  await expect(page.getByRole('alert')).toContainText('There is no recording yet')
  await page.getByRole('button', { name: 'Cancel' }).click()

  await add('1', -20, '5')
  // the sine's own level: EBU Tech 3341, 997 Hz at −20 dBFS on both sides reads −20 LUFS
  expect(Math.abs(Number(await takes.locator('[data-take]').getAttribute('data-take')) + 20)).toBeLessThan(0.1)
  await add('2', -26.0206, '5')
  await expect(takes).toContainText('Floor board')
  await expect(takes).toContainText('straight into the interface')

  await takes.getByRole('button', { name: 'Level from takes' }).click()
  await page.getByRole('link', { name: 'Change it in the Kit' }).click()
  await page.getByRole('button', { name: 'Kind of the level control' }).click()
  await page.getByRole('option', { name: /proportional/ }).click()
  await page.getByLabel('Lowest mark').fill('0')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.goBack()
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await takes.getByRole('button', { name: 'Level from takes' }).click()
  await page.getByRole('button', { name: 'Take it' }).click()
  await expect(page.getByRole('dialog')).toContainText('proportional marks, from 0.0')
  await page.getByRole('button', { name: 'Levelled to' }).click()
  await page.getByRole('option', { name: /Overture clean, which stays/ }).click()
  // half the amplitude: the control must go to twice its mark
  await expect(page.locator('[data-device-level^="Pit strum"]')).toHaveAttribute('data-device-level', /^Pit strum 6\.02 10$/)
  await expect(page.locator('[data-device-level^="Overture"]')).toHaveAttribute('data-device-level', /^Overture clean -?0\.00 5$/)
  await page.getByRole('button', { name: 'Close' }).click()

  await takes.getByRole('button', { name: 'Beside the render' }).click()
  await expect(page.locator('[data-louder]')).toHaveAttribute('data-louder', /^-?\d/, { timeout: 40_000 })
  await page.getByRole('button', { name: 'Close' }).click()

  await takes.getByRole('button', { name: 'Remove' }).click()
  await expect(takes.locator('[data-take]')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(takes.locator('[data-take]')).toHaveCount(1)
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await page.keyboard.press('1')
  await expect(takes.locator('[data-take^="-20"]')).toBeVisible({ timeout: 40_000 })
})

test('a take is recorded from the input in the page', async ({ page, app }) => {
  await openPit(page, app)
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  const takes = page.getByRole('region', { name: 'Takes' })
  await takes.getByRole('button', { name: 'Add a take' }).click()
  await page.getByRole('button', { name: 'Record from the input' }).click()
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  await page.waitForTimeout(2_500)
  await page.getByRole('button', { name: 'Stop', exact: true }).click()
  await expect(page.locator('[data-sound]')).toBeVisible()
  expect(Number(await page.locator('[data-sound]').getAttribute('data-sound'))).toBeGreaterThan(1.5)
  await page.getByRole('textbox', { name: 'Device' }).fill('Floor board')
  await page.getByRole('button', { name: 'Keep the take' }).click()
  await expect(takes.locator('[data-take]:not([data-take=""])')).toBeVisible({ timeout: 40_000 })
})
