// How smooth the page stays while a slider of the largest demo preset is dragged, against the same page left alone.

export async function frameFigures({ page, url, row }) {
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
