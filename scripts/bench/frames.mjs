// How smooth the page stays while a slider of the largest demo preset is dragged, against the same page left alone.

export async function frameFigures({ browser, page, url, row }) {
  await page.goto(`${url}/sheet/demo-tide-wall`)
  await page.locator('[data-all-ms]').waitFor({ timeout: 60_000 })
  await page.waitForTimeout(2_000)
  const idle = await frames(page, () => page.waitForTimeout(1_500))
  await page.locator('[data-stage=crunch] [data-cell]').first().click()
  const slider = page.getByRole('slider', { name: 'Gain', exact: true })
  const before = await slider.inputValue()
  const box = await slider.boundingBox()
  const [left, y] = [box.x + box.width * 0.3, box.y + box.height / 2]
  await page.mouse.move(left, y)
  await page.mouse.down()
  const dragged = await frames(page, async () => {
    for (let i = 0; i < 60; i++) {
      await page.mouse.move(left + (i % 30) * 3, y)
      await page.waitForTimeout(16)
    }
  })
  await page.mouse.up()
  const after = await slider.inputValue()
  if (after === before) throw new Error('the slider did not move')
  const words = ({ median, p90, longest }) => `${median.toFixed(1)}, ${p90.toFixed(1)}, ${longest.toFixed(0)} ms`
  row('A frame while Gain is dragged, 11 stages: median, 90 %, most', words(dragged), '≤ 50 ms')
  row('  against the same page at rest', `${(dragged.median / idle.median).toFixed(2)} of ${words(idle)}`, '')
  row('  tasks over 50 ms in 60 steps', String(dragged.long), '')
  await stepFigures({ browser, page, row, slider })
  await memoryFigures({ page, row, slider })
}

const STEPS = 40

/** Processor time of the page's main thread for a step of the slider: what handles the event itself, and all that comes of it. */
async function stepFigures({ browser, page, row, slider }) {
  const box = await slider.boundingBox()
  const [left, y] = [box.x + box.width * 0.3, box.y + box.height / 2]
  await page.mouse.move(left, y)
  await page.mouse.down()
  await page.waitForTimeout(1_500)
  await browser.startTracing(page, { categories: ['devtools.timeline', 'disabled-by-default-devtools.timeline'] })
  for (let i = 1; i <= STEPS; i++) {
    await page.mouse.move(left + (i % 30) * 3, y)
    await new Promise((done) => setTimeout(done, 60))
  }
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString())
  await page.mouse.up()
  const mains = new Set(
    traceEvents.filter((e) => e.name === 'thread_name' && e.args.name === 'CrRendererMain').map((e) => `${e.pid} ${e.tid}`),
  )
  const ms = (name) => {
    const found = traceEvents
      .filter((e) => e.ph === 'X' && e.name === name && mains.has(`${e.pid} ${e.tid}`))
      .sort((a, b) => a.ts - b.ts || b.dur - a.dur)
    let [sum, end] = [0, -Infinity]
    for (const { ts, dur, tdur = 0 } of found) {
      // an event that another one sends stands within it
      if (ts < end) continue
      end = ts + dur
      sum += tdur
    }
    return sum / STEPS / 1_000
  }
  row(
    '  processor time of the page a step: its event; drawn; all',
    `${ms('EventDispatch').toFixed(1)}, ${ms('Paint').toFixed(1)}, ${ms('RunTask').toFixed(1)} ms`,
    '≤ 8 ms',
  )
}

/** What 1,000 edits leave behind in the page, once all garbage is taken away. */
async function memoryFigures({ page, row, slider }) {
  const cdp = await page.context().newCDPSession(page)
  const used = async () => {
    await page.waitForTimeout(4_000)
    for (let i = 0; i < 3; i++) await cdp.send('HeapProfiler.collectGarbage')
    const { usedSize } = await cdp.send('Runtime.getHeapUsage')
    return { megabytes: usedSize / 1e6, nodes: await page.evaluate(() => document.getElementsByTagName('*').length) }
  }
  const edits = async (count) => {
    await slider.focus()
    for (let i = 0; i < count; i++) await page.keyboard.press(i % 20 < 10 ? 'ArrowRight' : 'ArrowLeft')
  }
  // code, caches and what is kept for undo are there by then
  await edits(250)
  const before = await used()
  await edits(1_000)
  const after = await used()
  row(
    '  memory of the page over 1,000 edits, and its elements',
    `${before.megabytes.toFixed(1)} → ${after.megabytes.toFixed(1)} MB, ${before.nodes} → ${after.nodes}`,
    'flat',
  )
}

/** Times between frames, and tasks over 50 ms, while something is done. */
async function frames(page, work) {
  await page.evaluate(() => {
    const seen = { times: [], long: 0, on: true, watch: null }
    seen.watch = new PerformanceObserver((list) => (seen.long += list.getEntries().length))
    seen.watch.observe({ type: 'longtask' })
    let last = performance.now()
    const tick = (now) => {
      seen.times.push(now - last)
      last = now
      if (seen.on) requestAnimationFrame(tick)
    }
    requestAnimationFrame(tick)
    window.fulgorFrames = seen
  })
  await work()
  const { times, long } = await page.evaluate(() => {
    const seen = window.fulgorFrames
    seen.on = false
    seen.watch.disconnect()
    return { times: seen.times, long: seen.long }
  })
  const sorted = times.slice(1).sort((a, b) => a - b)
  const at = (part) => sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))]
  return { median: at(0.5), p90: at(0.9), longest: at(1), long }
}
