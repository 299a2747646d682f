// The server with 10,000 presets: what a write, a read, a list and a search cost, alone and at 200 requests a second.
import { readFileSync } from 'node:fs'

const PRESETS = 10_000
const cpuMs = (pid) => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')
  // user and system time in ticks of 10 ms
  return (Number(fields[11]) + Number(fields[12])) * 10
}

export async function shelfFigures({ server, url, row, median }) {
  const { document } = await (await fetch(`${url}/api/presets/demo-pit-main`)).json()
  const before = cpuMs(server.pid)
  const began = performance.now()
  const ids = await filled(url, document)
  row(
    `Writing ${PRESETS} presets over HTTP: each, processor time`,
    `${((performance.now() - began) / PRESETS).toFixed(2)}, ${((cpuMs(server.pid) - before) / PRESETS).toFixed(2)} ms`,
    '',
  )
  const cost = async (times, path) => {
    const start = cpuMs(server.pid)
    const all = []
    for (let i = 0; i < times; i++) {
      const at = performance.now()
      await (await fetch(`${url}/api/presets${path(i)}`)).text()
      all.push(performance.now() - at)
    }
    return { wall: median(all), cpu: (cpuMs(server.pid) - start) / times }
  }
  const floor = await cost(300, () => '/../health')
  row('  a request that does nothing (the floor): median, processor', words(floor), '')
  for (const [name, path] of [
    ['a preset read', (i) => `/${ids[(i * 37) % ids.length]}`],
    ['the first 100, newest first', () => '?limit=100'],
    ['100 by name', () => '?limit=100&sort=name'],
    ['100 after 9,000', () => `?limit=100&sort=name&after=${encodeURIComponent('["number 08999",""]')}`],
    ['a search that finds 1,000, by a word of two letters', (i) => `?limit=100&search=number+0${i % 10}`],
    ['a search that finds 100', (i) => `?limit=100&search=number+00${i % 10}`],
    ['a search that finds none', () => '?search=zzz'],
  ])
    row(`  ${name}: median, processor`, words(await cost(100, path)), '≤ 5 ms')
  const fresh = []
  for (let i = 0; i < 20; i++) {
    await fetch(`${url}/api/presets/${ids[i]}`, { method: 'DELETE' })
    const at = performance.now()
    await (await fetch(`${url}/api/presets?limit=100&search=number+0${i % 10}`)).text()
    fresh.push(performance.now() - at)
  }
  row('  the dearest of them right after a write: median', `${median(fresh).toFixed(1)} ms`, '')
  const load = await atRate(url, 200, 5_000)
  row('200 lists a second for 5 s: answered in time, 50 %, 99 %', load, '99 % ≤ 100 ms')
}

const words = ({ wall, cpu }) => `${wall.toFixed(1)}, ${cpu.toFixed(1)} ms`

async function filled(url, document) {
  let next = 0
  const ids = []
  const write = async () => {
    while (next < PRESETS) {
      const number = String(next++).padStart(5, '0')
      const answer = await fetch(`${url}/api/presets`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ document: { ...document, name: `Number ${number}`, tags: [`t${Number(number) % 12}`] } }),
      })
      ids.push((await answer.json()).id)
    }
  }
  await Promise.all(Array.from({ length: 8 }, write))
  return ids
}

/** Requests at a steady rate, whether answers come or not. */
async function atRate(url, perSecond, ms) {
  const times = []
  const open = []
  const start = performance.now()
  for (let i = 0; i < (perSecond * ms) / 1000; i++) {
    const due = start + (i * 1000) / perSecond
    if (due > performance.now()) await new Promise((done) => setTimeout(done, due - performance.now()))
    const at = performance.now()
    const path = i % 2 ? '?limit=100&sort=name' : `?limit=100&search=number+0${i % 10}`
    const ask = async () => {
      const answer = await fetch(`${url}/api/presets${path}`)
      await answer.text()
      if (answer.ok) times.push(performance.now() - at)
    }
    open.push(ask().catch(() => undefined))
  }
  const inTime = times.length
  await Promise.all(open)
  times.sort((a, b) => a - b)
  const at = (part) => times[Math.floor(part * (times.length - 1))].toFixed(0)
  return `${inTime} of ${open.length} (lost ${open.length - times.length}), ${at(0.5)}, ${at(0.99)} ms`
}
