import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import type { Page } from '@playwright/test'
import type { AxeResults } from 'axe-core'
import { expect, openPit, test, type App } from './app'

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']

/** What axe finds, a line each. */
async function violations(page: Page): Promise<string[]> {
  // the page's policy lets no foreign script in
  await page.evaluate(AXE)
  const found = await page.evaluate(async (values) => {
    const { axe } = window as unknown as { axe: { run: (context: Document, options: object) => Promise<AxeResults> } }
    return (await axe.run(document, { runOnly: { type: 'tag', values } })).violations
  }, RULES)
  return found.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')}: ${n.html.slice(0, 160)}`))
}

const VIEWS: readonly (readonly [name: string, open: (page: Page, app: App) => Promise<void>])[] = [
  ['sheet', (page, app) => openPit(page, app)],
  [
    'snapshot panel',
    async (page, app) => {
      await openPit(page, app)
      await page.getByRole('radio', { name: 'Snapshot', exact: true }).click()
    },
  ],
  [
    'add a stage',
    async (page, app) => {
      await openPit(page, app)
      await page.getByRole('button', { name: 'Add stage' }).click()
    },
  ],
  [
    'menu of a stage',
    async (page, app) => {
      await openPit(page, app)
      await page.getByRole('button', { name: 'Actions', exact: true }).click()
    },
  ],
  [
    'keys',
    async (page, app) => {
      await openPit(page, app)
      await page.getByRole('button', { name: 'Keys', exact: true }).click()
    },
  ],
  [
    'find and do',
    async (page, app) => {
      await openPit(page, app)
      await page.keyboard.press('Control+k')
      await expect(page.getByRole('combobox', { name: 'Find an action' })).toBeVisible()
    },
  ],
  [
    'another model',
    async (page, app) => {
      await openPit(page, app)
      await page.getByRole('button', { name: 'Another model' }).click()
    },
  ],
  [
    'mic bench',
    async (page, app) => {
      await page.goto(`${app.url}/bench/demo-tide-lead`)
      await expect(page.locator('.bench')).not.toHaveAttribute('data-picture-ms', '')
    },
  ],
  [
    'guitars',
    async (page, app) => {
      await page.goto(`${app.url}/kit/guitars/demo-plank`)
      await expect(page.locator('[data-positions]')).toBeVisible()
    },
  ],
  [
    'places',
    async (page, app) => {
      await page.goto(`${app.url}/kit/places/demo-house-pa-mono`)
      await expect(page.locator('[data-difference]')).toBeVisible()
    },
  ],
  [
    'play it on',
    async (page, app) => {
      await page.goto(`${app.url}/play-on/demo-pit-main`)
      await expect(page.locator('[data-proposals]')).toBeVisible({ timeout: 60_000 })
    },
  ],
  [
    'devices',
    async (page, app) => {
      await page.goto(`${app.url}/kit/devices/demo-pit-rack`)
      await expect(page.getByRole('textbox', { name: 'Name of the device' })).toBeVisible()
    },
  ],
  [
    'backings',
    async (page, app) => {
      await page.goto(`${app.url}/kit/backings`)
      await expect(page.locator('[data-wave]')).toBeVisible()
    },
  ],
  [
    'references',
    async (page, app) => {
      await page.goto(`${app.url}/kit/references`)
      await expect(page.locator('[data-inspected=done]')).toBeVisible({ timeout: 40_000 })
    },
  ],
  [
    'match',
    async (page, app) => {
      await page.goto(`${app.url}/match/demo-tide-lead`)
      await expect(page.locator('[data-match=ready]')).toBeVisible({ timeout: 40_000 })
      await page.getByRole('button', { name: 'Find a way' }).click()
      await expect(page.locator('[data-step=cabinet] [role=option]').first()).toBeVisible({ timeout: 40_000 })
      await page.getByRole('button', { name: 'Cancel' }).click()
    },
  ],
  [
    'candidates',
    async (page, app) => {
      await page.goto(`${app.url}/match/demo-harbour-clean`)
      await page.getByRole('button', { name: 'Add all of its family' }).click()
      await expect(page.locator('[data-measured=done]')).toBeVisible({ timeout: 40_000 })
    },
  ],
  [
    'riffs',
    async (page, app) => {
      await page.goto(`${app.url}/kit/riffs`)
      await expect(page.getByRole('heading', { name: 'Shipped' })).toBeVisible()
    },
  ],
  [
    'sources',
    async (page, app) => {
      await page.goto(`${app.url}/controls/demo-pit-main`)
      await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible()
    },
  ],
  [
    'foot controller',
    async (page, app) => {
      await page.goto(`${app.url}/controls/demo-pit-main/board`)
      await expect(page.locator('[data-switch]').first()).toBeVisible()
    },
  ],
  [
    'messages',
    async (page, app) => {
      await page.goto(`${app.url}/controls/demo-pit-main/midi`)
      await expect(page.getByRole('group', { name: 'Messages of the preset' })).toBeVisible()
    },
  ],
  [
    'layers',
    async (page, app) => {
      await page.goto(`${app.url}/layers/demo-tide-lead`)
      await expect(page.getByRole('heading').first()).toBeVisible()
    },
  ],
  [
    'checks',
    async (page, app) => {
      await page.goto(`${app.url}/checks/demo-tide-wall`)
      await expect(page.locator('[data-noise=there]')).toBeVisible({ timeout: 60_000 })
      await expect(page.locator('[data-net=there]')).toBeVisible()
    },
  ],
  [
    'brief',
    async (page, app) => {
      await page.goto(`${app.url}/brief/demo-salt-road`)
      await expect(page.locator('[data-answered="8"]')).toBeVisible()
    },
  ],
  [
    'set',
    async (page, app) => {
      await page.goto(`${app.url}/set/demo-salt-road`)
      await expect(page.locator('[data-planned=done]')).toBeVisible()
    },
  ],
  [
    'song of the set',
    async (page, app) => {
      await page.goto(`${app.url}/set/demo-salt-road?panel=song&at=1&part=brine-2`)
      await expect(page.locator('[data-of-part]')).toBeVisible()
    },
  ],
  [
    'stage',
    async (page, app) => {
      await page.goto(`${app.url}/stage/demo-salt-road`)
      await expect(page.locator('main[data-cue]')).toBeVisible()
    },
  ],
  [
    'first page',
    async (page, app) => {
      await page.goto(app.url)
      await expect(page.getByRole('button', { name: /^Hear “/ })).toBeVisible()
    },
  ],
  [
    'shelf',
    async (page, app) => {
      await page.goto(`${app.url}/shelf`)
      await expect(page.getByRole('link', { name: 'Salt Road, pit main' }).first()).toBeVisible()
    },
  ],
]

for (const theme of ['paper', 'dusk']) {
  for (const [name, open] of VIEWS) {
    test(`nothing for axe to find: ${name}, ${theme}`, async ({ page, app }) => {
      await page.addInitScript((t) => localStorage.setItem('fulgor.theme', t), theme)
      await open(page, app)
      await page.waitForTimeout(400)
      expect(await violations(page)).toEqual([])
    })
  }
}
