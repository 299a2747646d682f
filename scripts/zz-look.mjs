import { chromium } from 'playwright-core'
const [path, out, theme = 'paper', w = '1280', h = '800', js = ''] = process.argv.slice(2)
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--autoplay-policy=no-user-gesture-required'],
})
const page = await browser.newPage({ viewport: { width: +w, height: +h } })
page.on('pageerror', (e) => console.log('ERR', e.message))
page.on('console', (m) => m.type() === 'error' && console.log('CON', m.text()))
await page.addInitScript((t) => {
  localStorage.setItem('fulgor.theme', t)
}, theme)
await page.goto('http://127.0.0.1:5055' + path)
await page.waitForTimeout(2500)
if (js) await new (Object.getPrototypeOf(async function () {}).constructor)('page', js)(page)
await page.screenshot({ path: out })
await browser.close()
