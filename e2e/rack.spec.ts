import type { Page } from '@playwright/test'
import { expect, heardPeak, loudness, measured, openPit, test } from './app'
import { GUITAR_PEAK_DBFS } from './fakeGuitar'

const names = (page: Page) => page.locator('[role=row] [data-cell$=",0"] .text-name').allTextContents()

async function addStage(page: Page, words: string): Promise<void> {
  await page.getByRole('button', { name: 'Add stage' }).click()
  await page.getByRole('combobox', { name: 'Search the catalogue' }).fill(words)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

test('two amps left and right by keyboard, matched by loudness, and dissolved again', async ({ page, app }) => {
  await openPit(page, app)
  await page.locator('[data-cell="2,0"]').focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(page.getByRole('heading', { name: 'Lane 2' })).toBeVisible()
  await addStage(page, 'tight modern high gain')
  expect((await names(page)).slice(1, 7)).toEqual(['Mid-hump drive', 'Lane 1', 'Lantern 15', 'Lane 2', 'Ironwork 100', 'Cabinet'])

  // hard left and right, typed
  for (const [cell, side] of [
    ['2,0', '100 left'],
    ['4,0', 'r 100'],
  ] as const) {
    await page.locator(`[data-cell="${cell}"]`).click()
    await page.getByRole('textbox', { name: 'Pan value' }).fill(side)
    await page.keyboard.press('Enter')
  }
  await expect(page.getByRole('textbox', { name: 'Pan value' })).toHaveValue('100% right')
  await measured(page)
  await page.getByRole('button', { name: 'Match the sides' }).click()
  await expect(
    page.getByText(/The lanes were [\d.]+ LU apart; in every snapshot that shares their levels each now brings −[\d.]+ LUFS/),
  ).toBeVisible()
  await measured(page)
  // matched means: a second match finds them together
  await page.getByRole('button', { name: 'Match the sides' }).click()
  await expect(page.getByText(/The lanes were 0\.0 LU apart/)).toBeVisible()

  // the trace splits and comes together: every line of it has measures
  await expect(page.locator('[data-trace]')).toHaveCount(12)
  // a lane is moved, and dissolved by the keyboard
  await page.locator('[data-cell="4,0"]').focus()
  await page.keyboard.press('Alt+ArrowUp')
  expect((await names(page)).slice(2, 6)).toEqual(['Lane 1', 'Ironwork 100', 'Lane 2', 'Lantern 15'])
  await page.locator('[data-cell="2,0"]').focus()
  await page.keyboard.press('Alt+ArrowLeft')
  expect((await names(page)).slice(1, 5)).toEqual(['Mid-hump drive', 'Ironwork 100', 'Lantern 15', 'Cabinet'])
  await page.keyboard.press('Control+z')
  expect((await names(page)).slice(2, 4)).toEqual(['Lane 1', 'Ironwork 100'])
})

test('lanes are made and dissolved by dragging in the gutter', async ({ page, app }) => {
  await openPit(page, app)
  const grab = async (name: string, dx: number, dy: number) => {
    const box = await page.getByRole('button', { name }).boundingBox()
    if (!box) throw new Error(`no grip ${name}`)
    await page.mouse.move(box.x + 8, box.y + 10)
    await page.mouse.down()
    await page.mouse.move(box.x + 8 + dx / 2, box.y + 10 + dy / 2, { steps: 5 })
    await page.mouse.move(box.x + 8 + dx, box.y + 10 + dy, { steps: 5 })
    await page.mouse.up()
  }
  // the hall to the right, over the delay: a lane beside it
  await grab('Drag Hall, row 7', 60, -40)
  await expect.poll(() => names(page).then((n) => n.slice(5))).toEqual(['Lane 1', 'Delay', 'Lane 2', 'Hall', 'Output'])
  await page.getByRole('button', { name: 'Add lane' }).click()
  await expect.poll(() => names(page).then((n) => n.slice(5))).toEqual(['Lane 1', 'Delay', 'Lane 2', 'Hall', 'Lane 3', 'Output'])
  // an effect in a lane of its own is all wet
  await page.locator('[data-cell="9,0"]').click()
  await addStage(page, 'spring')
  await expect(page.getByRole('textbox', { name: 'Mix value' })).toHaveValue('100 %')
  // a lane's head to the left: no lanes
  await grab('Drag Lane 1, row 6', -60, 0)
  await expect.poll(() => names(page).then((n) => n.slice(5))).toEqual(['Delay', 'Hall', 'Spring', 'Output'])
})

test('set to unity makes a stage as loud on as off, where it stands or at the end, and tells both', async ({ page, app }) => {
  await openPit(page, app)
  await page.locator('[data-cell="1,3"]').click()
  await expect(page.getByRole('radio', { name: 'Only 3' })).toBeChecked()
  // in front of an amp that clips: where it stands by itself
  await page.getByRole('button', { name: 'Set to unity' }).click()
  await expect(
    page.getByText(
      /Mid-hump drive at unity at its own output: level −?[\d.]+ dB, before 2\.00 dB\. On and off within 0\.\d\d LU there; at the preset’s end on/,
    ),
  ).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Unity at: at its own output' }).click()
  await page.getByRole('option', { name: 'at the preset’s end' }).click()
  await page.getByRole('button', { name: 'Set to unity' }).click()
  await expect(page.getByText(/at unity at the preset’s end: .* within 0\.0\d LU there; at its own output on is [+−]/)).toBeVisible({
    timeout: 60_000,
  })
  await measured(page)
  const on = (await loudness(page))['Storm lead']
  await page.keyboard.press('Shift+B')
  await measured(page)
  expect(Math.abs((await loudness(page))['Storm lead'] - on)).toBeLessThan(0.11)
})

test('judging: dry by D, the difference by X, held B level-matched', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  await page.locator('[data-cell="2,0"]').focus()
  await page.keyboard.press('Space')
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
  const judge = page.locator('[data-judging]')
  await expect(judge).not.toHaveAttribute('data-matched', '', { timeout: 60_000 })
  await page.keyboard.down('b')
  await expect(judge).toHaveAttribute('data-judging', 'switched')
  await expect(judge).toContainText(/matched [+−][\d.]+ dB/)
  await page.keyboard.up('b')
  await expect(judge).toHaveAttribute('data-judging', 'none')

  await page.keyboard.press('x')
  await expect(judge).toContainText('only what the stage adds')
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.005)
  // a stage that changes nothing has no difference
  await page.locator('[data-cell="7,0"]').focus()
  await expect.poll(() => heardPeak(page), { timeout: 30_000 }).toBeLessThan(1e-6)
  await page.keyboard.press('x')
  await page.keyboard.press('d')
  await expect(page.getByRole('button', { name: 'Dry', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
})

test('a finer quality measures anew, and a knob that does nothing says why', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  await page.getByRole('button', { name: /^Quality:/ }).click()
  await page.getByRole('option', { name: /High quality/ }).click()
  await measured(page)
  await expect(page.getByRole('button', { name: /^Quality:/ })).toContainText('8×')
  await page.locator('[data-cell="4,0"]').click()
  await expect(page.locator('[data-param=bell1][data-inert]')).toContainText('Its gain is at 0 dB.')
  await page.getByRole('textbox', { name: 'Bell 1 gain value' }).fill('3')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-param=bell1][data-inert]')).toHaveCount(0)
})

test('plays through it: the own guitar is heard, calibrated, and recorded as a riff', async ({ page, app }) => {
  await openPit(page, app)
  await page.getByRole('button', { name: 'play through it' }).click()
  await page.getByRole('radio', { name: 'My guitar' }).click()
  await expect(page.getByRole('radio', { name: 'My guitar' })).toBeChecked()
  await page.getByRole('button', { name: 'Calibrate' }).click()
  // a hot humbucker's hard strum stands at −7 dBFS: the trim makes up the rest
  const trim = page.getByRole('textbox', { name: 'Input trim in dB' })
  await expect(trim).not.toHaveValue('0.0 dB')
  expect(Math.abs(Number.parseFloat(await trim.inputValue()) - (-7 - GUITAR_PEAK_DBFS))).toBeLessThan(1)
  // nothing is looped back here, and Fulgor says so
  await page.getByRole('button', { name: 'Measure by loopback' }).click()
  await expect(page.getByRole('alert')).toContainText('the chirp did not come back')
  await page.getByRole('button', { name: 'Record' }).click()
  await page.waitForTimeout(1500)
  await page.getByRole('button', { name: 'Stop and keep' }).click()
  await expect(page.getByText(/“Take .*” is kept with your riffs and chosen/)).toBeVisible()
  await page.keyboard.press('Escape')
  await page.locator('[data-cell="2,0"]').focus()
  await page.keyboard.press('Space')
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
  await expect(page.getByRole('button', { name: 'Dry riff' })).toContainText('Take')
  await measured(page)
})
