// The stage view: how soon it is painted, and what it keeps over the minutes that a night takes. The Set with 300 songs: opened, edited.

/** @param minutes that the memory of the stage is watched */
export async function stageFigures({ browser, url, row, median, minutes }) {
  const paints = []
  for (let i = 0; i < 5; i++) {
    const context = await browser.newContext({ serviceWorkers: 'block' })
    const page = await context.newPage()
    await page.goto(`${url}/stage/demo-salt-road?night=evening`)
    await page.locator('[data-cue]').waitFor()
    paints.push(await page.evaluate(() => performance.getEntriesByName('first-contentful-paint')[0].startTime))
    await context.close()
  }
  row('Stage: first paint, nothing kept by the browser', `${median(paints).toFixed(0)} ms`, '')
  const page = await browser.newPage()
  await page.goto(`${url}/stage/demo-salt-road?night=evening`)
  await page.locator('[data-cue]').waitFor()
  const session = await page.context().newCDPSession(page)
  const heap = async () => {
    await session.send('HeapProfiler.collectGarbage')
    return (await session.send('Runtime.getHeapUsage')).usedSize / 1e6
  }
  await page.waitForTimeout(5_000)
  const seen = [await heap()]
  for (let minute = 0; minute < minutes; minute++) {
    // a cue every twenty seconds: more than any night has
    for (let i = 0; i < 3; i++) {
      await page.keyboard.press(minute % 20 < 10 ? 'ArrowRight' : 'ArrowLeft')
      await page.waitForTimeout(20_000)
    }
    seen.push(await heap())
  }
  const nodes = await page.evaluate(() => document.querySelectorAll('*').length)
  const half = seen[Math.floor(seen.length / 2)]
  row(
    `  memory over ${minutes} min, three cues a minute: begin, half, end`,
    `${seen[0].toFixed(1)}, ${half.toFixed(1)}, ${seen.at(-1).toFixed(1)} MB`,
    '',
  )
  row('  elements of the page', String(nodes), '')
  await page.close()
  await bigSet({ browser, url, row, median })
}

/** A night of 300 songs of four parts each. */
async function bigSet({ browser, url, row, median }) {
  const { document } = await (await fetch(`${url}/api/shows/demo-salt-road`)).json()
  const base = document.songs[0]
  const songs = Array.from({ length: 300 }, (_, i) => ({
    ...base,
    id: `s${i}`,
    name: `Song ${i + 1}`,
    parts: base.parts.map((p) => ({ ...p, id: `${i}-${p.id}` })),
  }))
  const night = { ...document.orders[0], items: songs.map((s, i) => ({ song: s.id, cue: String(i + 1), gap: 20 })) }
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const made = await page.request.post(`${url}/api/shows`, {
    data: { document: { ...document, name: 'Three hundred', songs, orders: [night], locked: {} } },
    headers: { Origin: url },
  })
  const { id } = await made.json()
  const began = performance.now()
  await page.goto(`${url}/set/${id}`)
  await page.locator('[data-song]').nth(299).waitFor({ state: 'attached' })
  const shown = performance.now() - began
  await page.locator('[data-planned=done]').waitFor({ timeout: 60_000 })
  row('Set of 300 songs: all rows there, presses counted', `${shown.toFixed(0)}, ${(performance.now() - began).toFixed(0)} ms`, '')
  await page.locator(`#part-0-${base.parts[1].id}`).click()
  const keys = []
  for (let i = 0; i < 9; i++) {
    const bar = page.getByRole('textbox', { name: 'Where the part begins' })
    const before = await bar.inputValue()
    const at = performance.now()
    await page.keyboard.press(i % 2 === 0 ? 'Alt+ArrowRight' : 'Alt+ArrowLeft')
    await page.waitForFunction((old) => document.querySelector('[aria-label="Where the part begins"]').value !== old, before, {
      polling: 10,
    })
    keys.push(performance.now() - at)
  }
  row('  a part moved by a key, until it stands there: median', `${median(keys).toFixed(0)} ms`, '')
  await page.close()
}
