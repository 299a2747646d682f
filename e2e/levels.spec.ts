import { expect, loudness, measured, openPit, test } from './app'

test('each snapshot to a target of its own, by the Output and by the amp’s master', async ({ page, app }) => {
  await openPit(page, app)
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await page.keyboard.press('3')
  await expect(page.getByRole('region', { name: 'Loudness plan' })).toBeVisible()
  await page.getByRole('button', { name: 'Role of the snapshot' }).click()
  await page.getByRole('option', { name: 'Lead, +3 dB' }).click()
  await expect(page.getByText('−15.0 LUFS')).toBeVisible()
  await measured(page)
  await page.getByRole('button', { name: 'Level all 6' }).click()
  await measured(page)
  const levelled = await loudness(page)
  for (const [name, lufs] of Object.entries(levelled)) expect(Math.abs(lufs - (name === 'Storm lead' ? -15 : -18))).toBeLessThanOrEqual(0.1)

  // its own offset, typed; a word where it makes no sense
  await page.getByRole('textbox', { name: 'dB against the target' }).fill('99')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('It runs from −20 to +20 dB.')
  await page.getByRole('textbox', { name: 'dB against the target' }).fill('1.5')
  await page.keyboard.press('Enter')
  await expect(page.getByText('−16.5 LUFS')).toBeVisible()

  // soft and hard picking as a range
  await measured(page)
  await expect(page.locator('[data-picking]')).toBeVisible({ timeout: 40_000 })
  const [soft, hard] = ((await page.locator('[data-picking]').getAttribute('data-picking')) ?? '').split(' ').map(Number)
  expect(hard).toBeGreaterThan(soft)

  // by the amp's master: what follows compresses, so it is rendered until it fits
  await page.getByRole('button', { name: 'Levelling turns' }).click()
  await page.getByRole('option', { name: 'Lantern 15, master' }).click()
  await measured(page)
  await page.getByRole('button', { name: 'Level this one' }).click()
  await expect(page.getByText(/Levelled within 0\.0\d LU of the targets\./)).toBeVisible({ timeout: 60_000 })
  await measured(page)
  expect(Math.abs((await loudness(page))['Storm lead'] + 16.5)).toBeLessThanOrEqual(0.1)
  await page.keyboard.press('Control+z')
  await measured(page)
  expect((await loudness(page))['Storm lead']).toBeCloseTo(-15, 0)

  // another riff for this snapshot alone, and left alone by Level all
  await page.getByRole('button', { name: 'Riff of the snapshot' }).click()
  await page.getByRole('option', { name: 'Single-note lead' }).click()
  await page.getByRole('button', { name: 'Leave it alone' }).click()
  await expect(page.locator('[data-loudness="Storm lead"]')).toContainText('left alone')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Riff of the snapshot' })).toContainText('Single-note lead')
})

test('the switches between all snapshots are measured, worst first, and a tail is cut or goes on', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await page.getByRole('button', { name: 'Measure the switches' }).click()
  await expect(page.locator('[data-switching-ms]:not([data-switching-ms=""])')).toBeVisible({ timeout: 80_000 })
  await expect(page.locator('[data-pair]')).toHaveCount(30)
  // the demo is not levelled: from the softest to the loudest is the worst of all
  await expect(page.locator('[data-pair]').first()).toContainText('Lullaby')
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click()
  await page.getByRole('radio', { name: 'Stage', exact: true }).click()
  await page.locator('[data-cell="6,0"]').click()
  await page.getByRole('button', { name: 'Trails' }).click()
  await page.getByRole('option', { name: 'Off' }).click()
  await expect(page.getByRole('button', { name: 'Trails' })).toContainText('Off')
  await measured(page)
})

test('time: tapped, a tempo of its own for one snapshot, repeats over beats, and echoes that blur the notes', async ({ page, app }) => {
  await openPit(page, app)
  await page.locator('[data-cell="5,0"]').click()
  await expect(page.getByRole('region', { name: 'Echoes' })).toContainText('ms apart')
  await expect(page.locator('[data-param=time]')).toContainText('Dotted eighth at 96 bpm')
  const pressed: number[] = []
  for (let i = 0; i < 6; i++) {
    pressed.push(performance.now())
    await page.keyboard.press('t')
    await page.waitForTimeout(380)
  }
  const tempo = page.getByRole('textbox', { name: 'Tempo in bpm' })
  const tapped = Number(await tempo.inputValue())
  const played = 60_000 / ((pressed[5] - pressed[0]) / 5)
  expect(Math.abs(tapped - played) / played).toBeLessThan(0.12)
  expect(tapped).not.toBe(96)
  await expect(page.locator('[data-param=time]')).toContainText(`Dotted eighth at ${tapped} bpm`)
  // all taps together are one step
  await page.keyboard.press('Control+z')
  await expect(tempo).toHaveValue('96')

  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await page.keyboard.press('4')
  await page.getByRole('region', { name: 'Time' }).getByRole('button', { name: 'its own' }).click()
  await tempo.fill('72')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Time' })).toContainText('72 bpm')
  await page.locator('[data-cell="0,1"]').click()
  await page.keyboard.press('3')
  await expect(tempo).toHaveValue('96')
  await page.keyboard.press('4')
  await expect(tempo).toHaveValue('72')

  // quarters that fall on quarters, loud: told, and mended by the mix
  await page.getByRole('radio', { name: 'Stage', exact: true }).click()
  await page.locator('[data-cell="5,0"]').click()
  await page.getByRole('button', { name: 'Note value' }).click()
  await page.getByRole('option', { name: 'Quarter', exact: true }).click()
  await page.getByRole('textbox', { name: 'Mix value' }).fill('40')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-masking]')).toContainText('and blur them')
  await page.getByRole('button', { name: /^Mix to \d+ %/ }).click()
  await expect(page.locator('[data-masking]')).toContainText('clear')
})
