import type { Page } from '@playwright/test'
import { expect, heardPeak, test, withoutFeet } from './app'

async function addTarget(page: Page, stage: string, param: string): Promise<void> {
  await page.getByRole('button', { name: 'Stage to move' }).click()
  await page.getByRole('option', { name: stage, exact: true }).click()
  await page.getByRole('button', { name: 'its parameter' }).click()
  await page.getByRole('menuitem', { name: param, exact: true }).click()
}

test('a pedal is assigned, heard, measured along its travel and kept', async ({ page, app }) => {
  test.setTimeout(150_000)
  await page.goto(`${app.url}/controls/${await withoutFeet(page, app)}?snapshot=strum`)
  await expect(page.getByText('Nothing moves yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a source' }).click()
  await page.getByRole('menuitem', { name: 'Expression pedal' }).click()
  await addTarget(page, 'Output', 'Level')
  await page.getByLabel('Output, level at the toe').fill('99')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('Level runs from')
  await page.getByLabel('Output, level at the toe').fill('-20 dB')
  await page.keyboard.press('Enter')

  // measured at 21 points: the Output’s level moves the loudness by just as many dB
  const sweep = page.locator('[data-sweep]:not([data-sweep=""])')
  await expect(sweep).toBeVisible({ timeout: 80_000 })
  const lufs = ((await sweep.getAttribute('data-sweep-lufs')) ?? '').split(' ').map(Number)
  expect(lufs).toHaveLength(21)
  lufs.forEach((l, i) => expect(Math.abs(l - lufs[0] + i)).toBeLessThan(0.1))

  // the amp's master along its travel: evened out by the Output, measured again
  await page.getByRole('button', { name: 'Add a source' }).click()
  await page.getByRole('menuitem', { name: 'Knob' }).click()
  await addTarget(page, 'Lantern 15', 'Master')
  await page.getByRole('button', { name: 'Even out the loudness' }).click({ timeout: 80_000 })
  await expect(page.locator('[data-target="Output, level"]')).toBeVisible()
  await expect(sweep).toHaveCount(0)
  await expect(sweep).toBeVisible({ timeout: 80_000 })
  const even = ((await sweep.getAttribute('data-sweep-lufs')) ?? '').split(' ').map(Number)
  expect(Math.max(...even) - Math.min(...even)).toBeLessThan(0.3)
  await page.getByRole('button', { name: 'Remove the source' }).click()

  // heard: the toe is 20 dB softer than the heel
  const slider = page.getByRole('slider', { name: 'Position of Expression pedal' })
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  const loudest = async () => {
    let most = 0
    for (let i = 0; i < 25; i++) {
      most = Math.max(most, await heardPeak(page))
      await page.waitForTimeout(80)
    }
    return most
  }
  await page.waitForTimeout(500)
  const heel = await loudest()
  await slider.press('End')
  await expect(page.locator('[data-now="Output, level"]')).toHaveText('−20.0 dB')
  await page.waitForTimeout(500)
  const toe = await loudest()
  expect(20 * Math.log10(heel / toe)).toBeGreaterThan(12)
  expect(20 * Math.log10(heel / toe)).toBeLessThan(28)
  await page.getByRole('button', { name: 'Stop', exact: true }).click()

  // only in one snapshot, on a curve with a dead heel
  await page.getByRole('button', { name: 'Output, level live in Finale' }).click()
  await page.getByRole('button', { name: /Curve of Output/ }).click()
  await page.getByLabel('Dead at heel of Output, level').fill('20')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /Curve of Output/ })).toContainText('straight, from 20 %')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: /Curve of Output/ })).not.toContainText('from 20 %')
  await page.getByRole('button', { name: '6 Finale' }).click()
  await expect(page.getByText('None of its targets is live in “Finale”.')).toBeVisible()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(page.locator('[data-source="Expression pedal"]')).toContainText('1 target')
})

test('ready moves, conflicts with a mend, and a controller that is learnt', async ({ page, app }) => {
  // a pedalboard of our own in place of hardware: what it sends comes in as from a MIDI input
  await page.addInitScript(() => {
    const input: { name: string; onmidimessage: ((event: { data: Uint8Array; timeStamp: number }) => void) | null } = {
      name: 'Test board',
      onmidimessage: null,
    }
    const access = { inputs: new Map([['1', input]]), outputs: new Map(), onstatechange: null }
    Object.assign(navigator, { requestMIDIAccess: () => Promise.resolve(access) })
    Object.assign(window, {
      sendMidi: (...bytes: number[]) => input.onmidimessage?.({ data: Uint8Array.from(bytes), timeStamp: performance.now() }),
    })
  })
  const send = (...bytes: number[]) =>
    page.evaluate((b) => (window as unknown as { sendMidi: (...b: number[]) => void }).sendMidi(...b), bytes)
  await page.goto(`${app.url}/controls/${await withoutFeet(page, app)}?snapshot=storm`)
  await page.getByRole('button', { name: 'Delay in', exact: true }).click()
  await expect(page.locator('[data-target="Delay, mix"]')).toBeVisible()
  await expect(page.locator('[data-target="Delay, feedback"]')).toBeVisible()

  // storm stores a mix of its own: told, and mended
  const told = page.getByRole('list', { name: 'Findings of the source' })
  await expect(told.locator('[data-rule="stored-under-source"]').first()).toContainText('stores 24 %')
  await told.locator('[data-rule="stored-under-source"]').first().getByRole('button', { name: 'Wait for pickup' }).click()
  await expect(page.locator('[data-rule="stored-under-source"]')).toHaveCount(0)
  await expect(page.getByText('waits for pickup').first()).toBeVisible()

  await page.getByRole('button', { name: 'Learn' }).click()
  await expect(page.getByRole('button', { name: 'move it now …' })).toBeVisible()
  await send(0xb2, 11, 20)
  await expect(page.locator('[data-midi]')).toHaveAttribute('data-midi', 'cc 3 11')
  // it waits until it passes what is stored, 24 of 25 %
  await expect(page.getByText('waits for pickup').first()).toBeVisible()
  await send(0xb2, 11, 127)
  await expect(page.locator('[data-now="Delay, mix"]')).toHaveText('25 %')
  await expect(page.getByText('· waits for pickup')).toHaveCount(0)
  await send(0xb2, 12, 0)
  await send(0xb0, 11, 0)
  await expect(page.locator('[data-now="Delay, mix"]')).toHaveText('25 %')

  await page.getByRole('button', { name: 'Runaway delay on hold' }).click()
  await expect(page.locator('[data-source="Runaway delay on hold"]')).toBeVisible()
  await page.locator('[data-findings]').click()
  await expect(page.locator('[data-rule="moved-twice"]').first()).toContainText('both move Delay’s')
})

test('a curve is drawn with the mouse and by keys, and the guitar’s volume can be declared', async ({ page, app }) => {
  await page.goto(`${app.url}/controls/demo-pit-main?snapshot=storm`)
  await page.getByRole('button', { name: /^Curve of Delay, mix/ }).click()
  await page.getByRole('button', { name: 'Shape of Delay, mix' }).click()
  await page.getByRole('option', { name: 'drawn' }).click()
  const drawing = page.getByRole('group', { name: 'Points of Delay, mix, drawn' })
  await drawing.scrollIntoViewIfNeeded()
  const box = await drawing.boundingBox()
  if (!box) throw new Error('no drawing')
  // a new point at a quarter of the travel, dragged to the top
  await page.mouse.move(box.x + 70, box.y + 60)
  await page.mouse.down()
  await page.mouse.move(box.x + 70, box.y + 9, { steps: 6 })
  await page.mouse.up()
  const points = page.getByLabel('Points of Delay, mix', { exact: true })
  await expect(points).toHaveValue('0:0 25:100 50:50 100:100')
  // one step of undo takes the whole drag back
  await drawing.getByRole('slider', { name: 'Point 3 of Delay, mix' }).focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Shift+ArrowLeft')
  await expect(points).toHaveValue('0:0 25:100 40:49 100:100')
  await page.keyboard.press('Delete')
  await expect(points).toHaveValue('0:0 25:100 100:100')
  // the pedal at a quarter of the way behind its dead heel of 3 %: all the way up
  const slider = page.getByRole('slider', { name: 'Position of Delay in' })
  await slider.focus()
  for (let i = 0; i < 3; i++) await slider.press('PageUp')
  await expect(page.locator('[data-now="Delay, mix"]')).toHaveText('32 %')
  await expect(page.locator('[data-sync=saved]')).toBeVisible()

  // the sheet says who moves a stage, and leads there
  await page.getByRole('link', { name: 'Sheet' }).click()
  await page.locator('[data-cell="5,3"]').click()
  await expect(page.locator('[data-moved-by="Delay in"]')).toContainText('moves mix 0 % to 32 %, feedback 24 % to 38 % in Storm lead')
  // in a snapshot's cell a digit would be typed
  await page.locator('[data-cell="5,0"]').click()
  await page.keyboard.press('1')
  await expect(page.locator('[data-moved-by]')).toHaveCount(0)
  await page.keyboard.press('3')
  await page.getByRole('link', { name: 'Delay in' }).click()

  await page.getByLabel('Rest', { exact: true }).fill('150')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('Rest runs from 0 % to 100 %')
  await page.keyboard.press('Escape')

  await page.getByRole('button', { name: 'Clean-up compensation' }).click()
  await expect(page.locator('[data-source="Clean-up compensation"]')).toContainText('listens, does not send')
  await page.getByRole('button', { name: 'How the guitar’s volume is known' }).click()
  await page.getByRole('option', { name: 'as I say' }).click()
  const volume = page.getByRole('slider', { name: 'Position of Clean-up compensation' })
  await volume.press('Home')
  await expect(page.locator('[data-now="Output, level"]')).toHaveText('0.0 dB')
  for (let i = 0; i < 3; i++) await volume.press('PageUp')
  // the lift is whole at a quarter of the travel, and falls evenly to the toe: 6·0.7/0.75
  await expect(page.locator('[data-now="Output, level"]')).toHaveText('5.6 dB')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.locator('[data-source="Clean-up compensation"]')).toContainText('listens, does not send')
})
