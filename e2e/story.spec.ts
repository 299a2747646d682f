import { expect, heardPeak, loudness, measured, openPit, test } from './app'

test('a dry riff becomes a heard, measured, levelled and saved preset', async ({ page, app }) => {
  await openPit(page, app)

  // heard: sound really comes out, as the browser's own analyser sees it
  expect(await heardPeak(page)).toBe(0)
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)

  // changed: the amp's mid by slider, seen in the value, the trace and the loudness
  await measured(page)
  const before = await loudness(page)
  const slider = page.getByRole('slider', { name: 'Mid', exact: true })
  await slider.focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('PageUp')
  await expect(page.getByRole('textbox', { name: 'Mid value' })).toHaveValue('8.5')
  await measured(page)
  const changed = await loudness(page)
  expect(changed['Overture clean']).not.toBe(before['Overture clean'])

  // levelled: one click, every snapshot meets the target on a new measurement
  await page.getByRole('button', { name: 'Level all 6' }).click()
  await measured(page)
  for (const lufs of Object.values(await loudness(page))) expect(Math.abs(lufs + 18)).toBeLessThanOrEqual(0.1)

  // saved, reloaded, found as it was
  await page.getByRole('button', { name: 'Save version' }).click()
  await expect(page.locator('[data-sync=saved]')).toBeVisible()
  await page.reload()
  await expect(page.getByRole('textbox', { name: 'Mid value' })).toHaveValue('8.5')
  await measured(page)
  for (const lufs of Object.values(await loudness(page))) expect(Math.abs(lufs + 18)).toBeLessThanOrEqual(0.1)
})

test('live engine and offline render give the same samples', async ({ page, app }) => {
  await page.goto(`${app.url}/bench.html`)
  await page.waitForFunction(() => 'fulgorBench' in window)
  for (const snapshot of ['storm', 'lullaby']) {
    const result = await page.evaluate(
      (s) =>
        (
          window as unknown as {
            fulgorBench: { liveAgainstOffline(s: string, seconds: number): Promise<{ differenceDb: number | null; peak: number }> }
          }
        ).fulgorBench.liveAgainstOffline(s, 3),
      snapshot,
    )
    expect(result.peak).toBeGreaterThan(0.01)
    expect(result.differenceDb === null || result.differenceDb === -Infinity).toBe(true)
  }
})

// an implementation of the cookbook's sections that is not ours: the browser's BiquadFilterNode
test('EQ sections agree with the browser’s own filters', async ({ page, app }) => {
  await page.goto(`${app.url}/bench.html`)
  await page.waitForFunction(() => 'fulgorBench' in window)
  const worst = await page.evaluate(() =>
    (window as unknown as { fulgorBench: { eqAgainstBrowser(): number } }).fulgorBench.eqAgainstBrowser(),
  )
  expect(worst).toBeLessThan(0.01)
})

test('a snapshot switch while playing is heard at once and nothing stops', async ({ page, app }) => {
  await openPit(page, app)
  await page.keyboard.press('Space')
  await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.01)
  for (const key of ['3', '5', '1', '4']) {
    await page.keyboard.press(key)
    await expect.poll(() => heardPeak(page)).toBeGreaterThan(0.005)
  }
  await expect(page).toHaveURL(/snapshot=lullaby/)
  await page.keyboard.press('Space')
  await expect.poll(() => heardPeak(page), { timeout: 30_000 }).toBeLessThan(0.003)
})

test('compares with the saved version, level-matched', async ({ page, app }) => {
  await openPit(page, app)
  await measured(page)
  await page.getByRole('textbox', { name: 'Level value' }).fill('-6 dB')
  await page.keyboard.press('Enter')
  await measured(page)
  await expect(page.getByText(/matched −6\.0 dB/)).toBeVisible({ timeout: 60_000 })
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'saved' }).click()
  await expect(page.getByRole('button', { name: 'saved' })).toHaveAttribute('aria-pressed', 'true')
})
