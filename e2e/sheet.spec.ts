import { writeWav } from '@fulgor/core/formats'
import { expect, measured, openPit, test } from './app'

test('values are typed with units, refused with the reason, and undone', async ({ page, app }) => {
  await openPit(page, app)
  const mid = page.getByRole('textbox', { name: 'Mid value' })
  await mid.fill('2:00')
  await mid.press('Enter')
  await expect(mid).toHaveValue('7.0')
  await mid.fill('14')
  await mid.press('Enter')
  await expect(page.getByRole('alert')).toHaveText('Mid runs from 0.0 to 10.0.')
  await mid.press('Escape')
  await expect(mid).toHaveValue('7.0')
  await page.locator('[data-cell="2,0"]').focus()
  await page.keyboard.press('Control+z')
  await expect(mid).toHaveValue('5.5')
  await page.keyboard.press('Control+Shift+z')
  await expect(mid).toHaveValue('7.0')
})

test('everything in the matrix works from the keyboard', async ({ page, app }) => {
  await openPit(page, app)
  const names = () => page.locator('[role=row] [data-cell$=",0"] .text-name').allTextContents()
  await page.locator('[data-cell="2,0"]').focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(page.locator('[data-cell="2,2"]')).toBeFocused()
  await expect(page).toHaveURL(/snapshot=strum/)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Gain value' })).toBeFocused()
  await page.keyboard.type('6')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-cell="2,2"]')).toHaveAccessibleName('Lantern 15 in Pit strum: Gain 6.0')
  await page.locator('[data-cell="2,2"]').focus()
  await page.keyboard.press('Delete')
  await expect(page.locator('[data-cell="2,2"]')).toHaveAccessibleName('Lantern 15 in Pit strum: as base')
  await page.keyboard.press('b')
  await expect(page.locator('[data-cell="2,2"]')).toHaveAccessibleName('Lantern 15 in Pit strum: off')
  await page.locator('[data-cell="2,0"]').focus()
  await page.keyboard.press('Alt+ArrowUp')
  expect((await names()).slice(0, 3)).toEqual(['Gate', 'Lantern 15', 'Mid-hump drive'])
  await page.locator('[data-cell="0,0"]').focus()
  await page.keyboard.press('Delete')
  expect(await names()).toHaveLength(7)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  expect((await names()).slice(0, 3)).toEqual(['Gate', 'Mid-hump drive', 'Lantern 15'])
})

test('stages are dragged and added, snapshots added, duplicated, renamed, moved and removed', async ({ page, app }) => {
  await openPit(page, app)
  const names = () => page.locator('[role=row] [data-cell$=",0"] .text-name').allTextContents()
  const grip = await page.getByRole('button', { name: 'Drag Parametric EQ, row 5' }).boundingBox()
  if (!grip) throw new Error('no grip')
  await page.mouse.move(grip.x + 8, grip.y + 10)
  await page.mouse.down()
  await page.mouse.move(grip.x + 8, grip.y - 20, { steps: 4 })
  await page.mouse.move(grip.x + 8, grip.y - 72, { steps: 6 })
  await page.mouse.up()
  await expect.poll(names).toEqual(['Gate', 'Mid-hump drive', 'Parametric EQ', 'Lantern 15', 'Cabinet', 'Delay', 'Hall', 'Output'])

  await page.getByRole('button', { name: 'Add stage' }).click()
  await page.getByRole('button', { name: /^Trim/ }).click()
  await expect(page.getByRole('heading', { name: 'Trim' })).toBeVisible()
  expect(await names()).toContain('Trim')

  const heads = () => page.locator('[data-cell^="-1,"]').evaluateAll((cells) => cells.map((c) => c.getAttribute('title')))
  await page.getByRole('button', { name: 'Add snapshot' }).click()
  await page.getByRole('button', { name: 'Actions for snapshot Storm lead' }).click()
  await page.getByRole('menuitem', { name: 'Duplicate' }).click()
  expect(await heads()).toEqual([
    'Overture clean',
    'Pit strum',
    'Storm lead',
    'Storm lead copy',
    'Lullaby',
    'Chase',
    'Finale',
    'Snapshot 7',
  ])
  await expect(page.getByRole('button', { name: 'Add snapshot' })).toHaveCount(0)
  await page.locator('[data-cell="-1,4"]').focus()
  await page.keyboard.press('Alt+ArrowLeft')
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  const name = page.getByRole('textbox', { name: 'Name of the snapshot' })
  await name.fill('Tempest')
  await name.press('Enter')
  expect((await heads()).slice(1, 5)).toEqual(['Pit strum', 'Tempest', 'Storm lead', 'Lullaby'])
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  expect(await heads()).toHaveLength(7)
})

test('versions are listed and restored, and the restoring undone', async ({ page, app }) => {
  await openPit(page, app)
  const tempo = page.getByRole('textbox', { name: 'Tempo in bpm' })
  await tempo.fill('132')
  await tempo.press('Enter')
  await page.getByRole('button', { name: 'Save version' }).click()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.getByRole('button', { name: 'Versions' }).click()
  await page.getByRole('button', { name: 'Restore' }).last().click()
  await expect(tempo).toHaveValue('96')
  await page.getByRole('button', { name: 'Undo' }).first().click()
  await expect(tempo).toHaveValue('132')
})

test('a player’s own WAV is resampled, measured and kept; a broken one is refused with the reason', async ({ page, app }) => {
  await openPit(page, app)
  const tone = Float32Array.from({ length: 44_100 * 2 }, (_, n) => 0.1 * Math.sin(n / 20))
  await page
    .getByLabel('Your own dry riff as WAV')
    .setInputFiles({ name: 'kitchen take.wav', mimeType: 'audio/wav', buffer: Buffer.from(writeWav([tone, tone], 44_100, 16)) })
  await expect(page.getByText('“kitchen take” is kept with your riffs (2.0 s, 44100 Hz).')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Dry riff' })).toContainText('kitchen take')
  await measured(page)
  await page
    .getByLabel('Your own dry riff as WAV')
    .setInputFiles({ name: 'notes.wav', mimeType: 'audio/wav', buffer: Buffer.from('not a sound') })
  await expect(page.getByText('notes.wav was not taken: this is not a WAV file (no RIFF/WAVE header).')).toBeVisible()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(page.getByRole('button', { name: 'Dry riff' })).toContainText('kitchen take')
})

test('the Focus panel draws response, transfer, tail and spectrum with their figures', async ({ page, app }) => {
  await openPit(page, app)
  await expect(page.locator('[data-chart=response] svg path').first()).toBeAttached()
  await page.getByRole('radio', { name: 'Level in and out' }).click()
  await expect(page.locator('[data-chart=transfer]')).toBeVisible()
  await page.locator('[data-cell="5,0"]').click()
  await expect(page.locator('[data-chart=tail]')).toBeVisible()
  await expect(page.getByText('6 repeats until −60 dB, 469 ms apart')).toBeVisible()
  await measured(page)
  await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
  await expect(page.locator('[data-chart=spectrum] svg path').first()).toBeAttached()
})
