import { test as base, expect, type Page } from '@playwright/test'
import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { demoPresets } from '@fulgor/core/demo'

const root = fileURLToPath(new URL('..', import.meta.url))

/** The product as it is shipped: the built server with the demo data on a port of its own. */
export class App {
  private process: ChildProcess | null = null
  private readonly data = mkdtempSync(join(tmpdir(), 'fulgor-e2e-'))
  url = ''
  private port = '0'

  /** @param demo with the demo's presets, or an empty data folder */
  constructor(private readonly demo: boolean) {}

  async start(): Promise<void> {
    const child = spawn('node', ['server/dist/main.js'], {
      cwd: root,
      env: { ...process.env, NODE_ENV: 'production', PORT: this.port, FULGOR_DEMO: this.demo ? '1' : '', FULGOR_DATA: this.data },
    })
    this.process = child
    this.url = await new Promise<string>((done, fail) => {
      let said = ''
      const listen = (text: Buffer) => {
        said += text.toString()
        const url = /http:\/\/[^/\s]+/.exec(said)?.[0]
        if (url) done(url)
      }
      child.stdout.on('data', listen)
      child.stderr.on('data', listen)
      child.once('exit', () => fail(new Error(said)))
    })
    this.port = new URL(this.url).port
  }

  async stop(): Promise<void> {
    const child = this.process
    if (!child) return
    await new Promise((done) => {
      child.once('exit', done)
      child.kill('SIGKILL')
    })
  }

  forget(): void {
    rmSync(this.data, { recursive: true, force: true })
  }
}

export const test = base.extend<{ app: App; demo: boolean }>({
  demo: [true, { option: true }],
  app: async ({ page, demo }, use, info) => {
    const app = new App(demo)
    await app.start()
    const problems: string[] = []
    const said: string[] = []
    page.on('pageerror', (error) => problems.push(error.message))
    page.on('console', (message) => {
      if (message.type() === 'error') said.push(message.text())
    })
    await use(app)
    if (info.status !== info.expectedStatus) await tellWhatWasSeen(page, said)
    expect(problems).toEqual([])
    await app.stop()
    app.forget()
  },
})

export { expect }

/** Where a failed test left the page: its address, what it shows, what its console said. */
async function tellWhatWasSeen(page: Page, said: string[]): Promise<void> {
  const shown = await page
    .locator('body')
    .innerText({ timeout: 5_000 })
    .catch((error: unknown) => String(error))
  console.log(`left at ${page.url()}\n${said.slice(-10).join('\n')}\n${shown.slice(0, 1_500)}`)
}

export const openPit = async (page: Page, app: App): Promise<void> => {
  await page.goto(`${app.url}/sheet/demo-pit-main`)
  await expect(page.getByRole('heading', { name: 'Lantern 15' })).toBeVisible()
}

/** Waits until every snapshot's figures belong to the sheet as it stands. */
export async function measured(page: Page): Promise<void> {
  // a sheet that is not there yet has no stale figures either
  await expect(page.locator('[data-loudness]').first()).toBeAttached()
  await expect(page.locator('[data-loudness][data-fresh=false]')).toHaveCount(0, { timeout: 60_000 })
}

/** The loudness row of the footer, LUFS by snapshot name. */
export const loudness = async (page: Page): Promise<Record<string, number>> =>
  Object.fromEntries(
    await page
      .locator('[data-loudness]')
      .evaluateAll((cells) =>
        cells.map((cell) => [
          cell.getAttribute('data-loudness') ?? '',
          Number((cell.children[1].textContent ?? '').replace('\u2212', '-')),
        ]),
      ),
  )

export const heardPeak = (page: Page): Promise<number> =>
  page.evaluate(() => (window as unknown as { fulgorHeardPeak?: () => number }).fulgorHeardPeak?.() ?? 0)

/** A preset like the pit's, but with nothing that feet move yet. @returns its id */
export async function withoutFeet(page: Page, app: App): Promise<string> {
  const document = { ...demoPresets[0].preset, name: 'Bare pit', controls: undefined, board: undefined }
  const answer = await page.request.post(`${app.url}/api/presets`, { data: { document } })
  expect(answer.ok()).toBe(true)
  return ((await answer.json()) as { id: string }).id
}
