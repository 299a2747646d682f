import { gzipSync } from 'node:zlib'
import { expect, heardPeak, measured, test } from './app'

test('the first page asks for little: what edits and measures a preset comes with the first view of one', async ({ page, app }) => {
  const bodies: Promise<number>[] = []
  page.on('response', (response) => {
    const { pathname } = new URL(response.url())
    if (!/^\/(?:assets\/.*\.(?:js|css))?$/.test(pathname)) return
    bodies.push(response.body().then((body) => gzipSync(body).length))
  })
  await page.goto(app.url)
  await expect(page.getByRole('button', { name: /^Hear “/ })).toBeVisible()
  const bytes = (await Promise.all(bodies)).reduce((sum, one) => sum + one, 0)
  expect(bytes).toBeGreaterThan(100e3)
  expect(bytes).toBeLessThan(170e3)
})

test('the first page says what this is, and one press sounds', async ({ page, app }) => {
  await page.goto(app.url)
  await expect(page.getByRole('heading', { level: 1 })).toContainText('A guitar preset as a score')
  await page.getByRole('button', { name: /^Hear “/ }).click()
  await expect.poll(() => heardPeak(page), { timeout: 30_000 }).toBeGreaterThan(0.01)
  await measured(page)
  // a reload opens it quietly
  await page.reload()
  await measured(page)
  expect(await heardPeak(page)).toBe(0)
})

test.describe('with an empty data folder', () => {
  test.use({ demo: false })

  test('no link leads into nothing, and the demo is loaded from the page', async ({ page, app }) => {
    await page.goto(app.url)
    await expect(page.getByRole('button', { name: 'Load the demo and hear it' })).toBeVisible()
    for (const view of ['Sheet', 'Mic bench', 'Controls']) {
      await page.getByRole('link', { name: view, exact: true }).click()
      await expect(page.getByRole('button', { name: 'Load the demo and hear it' })).toBeVisible()
    }
    await page.getByRole('button', { name: 'Load the demo and hear it' }).click()
    await expect(page.getByRole('textbox', { name: 'Name of the preset' })).toHaveValue('Salt Road, pit main')
    await expect.poll(() => heardPeak(page), { timeout: 30_000 }).toBeGreaterThan(0.01)
  })
})
