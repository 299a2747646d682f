// Figures of the mic bench in the page: import, list, drag.
import { readFileSync } from 'node:fs'

const memoryMb = (pid) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024

export async function benchViewFigures({ browser, url, server, pack, row, median }) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`${url}/bench/demo-pit-main`)
  await page.locator('[data-shown="40"]').waitFor()
  await dragFigures(page, url, row, median)
  await page.goto(`${url}/bench/demo-pit-main`)
  await page.locator('[data-shown="40"]').waitFor()
  const before = memoryMb(server.pid)
  const start = performance.now()
  await page.getByLabel('Impulse response files').setInputFiles(pack)
  await page.locator('[data-import-report]').waitFor({ timeout: 300_000 })
  const seconds = (performance.now() - start) / 1000
  const text = await page.locator('[data-import-report]').textContent()
  row(
    'Import of 5,000 files from one archive',
    `${(5_000 / seconds).toFixed(0)} files/s`,
    `${seconds.toFixed(1)} s; ${text.trim().slice(0, 40)}`,
  )
  const heap = await page.evaluate(() => performance.memory?.usedJSHeapSize ?? 0)
  row('  memory: server, page', `${before.toFixed(0)} → ${memoryMb(server.pid).toFixed(0)} MB, ${(heap / 1e6).toFixed(0)} MB`, '')
  const opened = performance.now()
  await page.goto(`${url}/bench/demo-pit-main`)
  await page.locator('[data-response="5"]').waitFor()
  row('  bench opened to the list of 5,040 painted', `${(performance.now() - opened).toFixed(0)} ms`, '')
  await page.waitForTimeout(4_000)
  const frames = await page.evaluate(async () => {
    const list = document.querySelector('[role=listbox][aria-label^=Responses]')
    const times = []
    let last = performance.now()
    for (let i = 0; i < 120; i++) {
      list.scrollTop += 900
      await new Promise((done) => requestAnimationFrame(done))
      times.push(performance.now() - last)
      last = performance.now()
    }
    return times.sort((a, b) => a - b)
  })
  row('  a frame while scrolling by 30 rows: median, longest', `${frames[60].toFixed(0)}, ${frames[119].toFixed(0)} ms`, '≤ 50 ms')
  const typed = await page.evaluate(async () => {
    const field = document.querySelector('[aria-label="Search responses"]')
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
    const start = performance.now()
    set.call(field, 'closed 42')
    field.dispatchEvent(new Event('input', { bubbles: true }))
    await new Promise((done) => requestAnimationFrame(() => setTimeout(done)))
    return performance.now() - start
  })
  row('  a search typed to its result painted', `${typed.toFixed(0)} ms`, '')
  const grouped = performance.now()
  await page.getByRole('searchbox', { name: 'Search responses' }).fill('')
  await page.getByRole('button', { name: 'Kinds' }).click()
  await page.locator('[role=option]').filter({ hasText: 'alike' }).first().waitFor()
  row('  5,040 grouped into 40 kinds', `${(performance.now() - grouped).toFixed(0)} ms`, '')
  await page.close()
}

/** A microphone of eight is dragged while the riff plays: until the new chart, and until the audio thread has the new sound. */
async function dragFigures(page, url, row, median) {
  const { document } = await (await page.request.get(`${url}/api/presets/demo-pit-main`)).json()
  const mic = (i) => ({
    id: `m${i}`,
    source: { kind: 'mic', type: ['coil', 'ribbon', 'large-condenser', 'small-condenser'][i % 4], offset: 10 * i, distance: 25 + 20 * i },
    level: -i,
  })
  const bench = {
    cab: { driver: 'bright', size: '12', drivers: '1', back: 'open' },
    channels: Array.from({ length: 8 }, (_, i) => mic(i)),
    frames: 2048,
  }
  const chain = document.chain.map((s) => (s.model === 'cabinet' ? { ...s, bench, params: { ...s.params, response: 'bench' } } : s))
  const made = await (
    await page.request.post(`${url}/api/presets`, { data: { document: { ...document, chain } }, headers: { Origin: url } })
  ).json()
  await page.goto(`${url}/bench/${made.id}`)
  await page.locator('[data-channel="7"]').waitFor()
  await page.waitForTimeout(3_000)
  await page.keyboard.press('Space')
  await page.waitForTimeout(1_500)
  const mark = page.locator('[data-face-mic="3"]')
  await mark.focus()
  const chart = []
  const heard = []
  for (let i = 0; i < 40; i++) {
    const at = await page.evaluate(() => performance.now())
    await mark.press(i % 2 ? 'ArrowUp' : 'ArrowDown')
    await page.waitForTimeout(120)
    heard.push((await page.evaluate(() => window.fulgorAppliedAt())) - at)
    chart.push(Number(await page.locator('[data-picture-ms]').getAttribute('data-picture-ms')))
  }
  const sorted = [...chart].sort((a, b) => a - b)
  row('Blend of eight, a microphone moved: to the new chart', `${median(chart).toFixed(0)} ms, 90 % ${sorted[36].toFixed(0)} ms`, '≤ 50 ms')
  row('  to the new sound in the audio thread, key press included', `${median(heard).toFixed(0)} ms`, '≤ 50 ms')
  await page.keyboard.press('Space')
}
