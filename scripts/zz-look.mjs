import { chromium } from '@playwright/test'
import { existsSync } from 'node:fs'
const [,, out, path, w = '1280', h = '800', theme = 'paper', ...acts] = process.argv
const browser = await chromium.launch({ executablePath: existsSync('/usr/bin/chromium') ? '/usr/bin/chromium' : undefined, args: ['--no-sandbox', '--autoplay-policy=no-user-gesture-required'] })
const page = await browser.newPage({ viewport: { width: +w, height: +h }, hasTouch: +w < 700 })
await page.addInitScript((t) => localStorage.setItem('fulgor.theme', t), theme)
await page.goto('http://localhost:5055' + path)
await page.waitForTimeout(2500)
if (path.startsWith('/sheet')) await page.waitForFunction(() => document.querySelectorAll('[data-loudness]').length > 0 && document.querySelectorAll('[data-loudness][data-fresh=false]').length === 0, null, { timeout: 60000 })
for (const act of acts) { await eval(`(async (page) => { ${act} })`)(page); await page.waitForTimeout(500) }
await page.waitForTimeout(700)
await page.screenshot({ path: out })
await browser.close()
