// Prints the figures of speed as ratios against native peers, each pair measured in turn in fresh processes, median of five.
import { execFile, execFileSync, spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { gzipSync } from 'node:zlib'
import { ensureBuilt, ensureInstalled, root } from './lib/setup.mjs'

ensureInstalled()
ensureBuilt()
if (spawnSync('ffmpeg', ['-version']).status !== 0) {
  console.log('Installing Debian’s ffmpeg …')
  spawnSync('apt-get', ['update', '-qq'])
  spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'ffmpeg'])
}
const folder = mkdtempSync(join(tmpdir(), 'fulgor-bench-'))
const RUNS = 5
/** A block of 128 at 48 kHz. */
const BLOCK_US = (128 / 48_000) * 1e6
/**
 * What a whole chain may cost, in ten plain biquads: 100, 45 and 45 times real time on the machine on which the engine before kernels of one
 * instance (7c7a704) reached 36, 12 and 11 times; that one costs 11.3, 32.8 and 32.1 of them here.
 */
const WHOLE_AIMS = { 'demo live': 4.05, 'dearest live': 8.7, 'wall live': 7.9 }
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]
const row = (name, value, aim) => console.log(`${name.padEnd(58)} ${value.padStart(22)}   ${aim}`)
/** A script of the bench, bundled once, so that every process runs what a browser would run, without the loader's helpers. */
function bundled(name) {
  const file = join(folder, `${name}.mjs`)
  if (!existsSync(file))
    execFileSync(
      'npx',
      ['esbuild', `scripts/bench/${name}.ts`, '--bundle', '--platform=node', '--format=esm', `--outfile=${file}`, '--log-level=error'],
      { cwd: root },
    )
  return file
}
/** What a script prints. */
const printed = (name, ...args) =>
  JSON.parse(execFileSync('node', ['--expose-gc', bundled(name), ...args.map(String)], { cwd: root, maxBuffer: 1e8 }))
const own = (...args) => printed('engine', ...args)
/** The same by `count` processes at once. */
const printedAtOnce = async (count, name, ...args) =>
  (
    await Promise.all(Array.from({ length: count }, () => promisify(execFile)('node', ['--expose-gc', bundled(name), ...args.map(String)])))
  ).map(({ stdout }) => JSON.parse(stdout))
const ofBench = (...args) => printed('micbench', ...args)
const ofLevels = (...args) => printed('levels', ...args)
// `npm run bench -- profile [keep]` prints the CPU time of every block of a chain beside the kept baseline, or keeps it
// `npm run bench -- peers` prints only those against ffmpeg and the browser's own nodes
// `npm run bench -- feel [PART …]` prints the tables of riffs, gain laws, silence and decays
// `npm run bench -- page` prints only the frames while a slider is dragged, `-- shelf` only those of 10,000 presets
// `npm run bench -- checks` prints only those of the checks
// `npm run bench -- kit` prints only those of guitars and places
// `npm run bench -- show` prints only those of presses and layouts
// `npm run bench -- stage [MINUTES]` prints only those of the stage view, watched for so long (2), and of a Set of 300 songs
// `npm run bench -- match` prints only those of ranking and fitting
// `npm run bench -- controls` prints only those of the controls
// `npm run bench -- levels` prints only those of levels and time
// `npm run bench -- micbench` prints only the mic bench's figures
const only = process.argv[2]
const parts = {
  profile: profileFigures,
  peers: peerFigures,
  feel: feelFigures,
  micbench: micBenchFigures,
  levels: levelFigures,
  checks: checkFigures,
  kit: kitFigures,
  match: matchFigures,
  show: showFigures,
  controls: controlFigures,
  page: pageFigures,
  shelf: shelfFigures,
  stage: stagePart,
}
if (only in parts) {
  await parts[only]()
  rmSync(folder, { recursive: true, force: true })
  process.exit(0)
}
/**
 * The engine block by block. µs are of this machine on this day; what is kept and compared is each figure over that of ten plain biquads
 * in the same process.
 */
async function profileFigures() {
  const file = join(root, 'scripts/bench/profile.baseline.json')
  const kept = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {}
  const jobs = [
    ['demo', 'live'],
    ['demo', 'high'],
    ['dearest', 'live'],
    ['wall', 'live'],
  ]
  const runs = jobs.map(() => [])
  // in turn, in fresh processes: a disturbance meets all alike
  for (let turn = 0; turn < RUNS; turn++) jobs.forEach((job, k) => runs[k].push(printed('profile', ...job, 4)))
  const now = {}
  jobs.forEach(([chain, quality], k) => {
    const name = `${chain} ${quality}`
    const figure = (of) => ({ us: median(runs[k].map(of)), ratio: median(runs[k].map((run) => of(run) / run.peer)) })
    const whole = figure((run) => run.whole)
    now[name] = { whole: whole.ratio }
    const beside = (part, ratio) => {
      const before = kept[name]?.[part]
      return before ? `${(ratio / before).toFixed(2)} of the baseline` : ''
    }
    row(`Engine, ${name}: a block of 128`, `${whole.us.toFixed(1)} µs, ${(BLOCK_US / whole.us) | 0}x`, beside('whole', whole.ratio))
    const aim = WHOLE_AIMS[name]
    row('  against ten biquads in plain f64', whole.ratio.toFixed(2), aim ? `≤ ${aim}` : '')
    for (const [words, key] of [
      ['its first half second, cold', 'cold'],
      ['silence behind the riff', 'silence'],
    ]) {
      const { us, ratio } = figure((run) => run[key])
      now[name][key] = ratio
      row(`  ${words}`, `${us.toFixed(1)} µs`, beside(key, ratio))
    }
    runs[k][0].stages.forEach(([stage], n) => {
      const { us, ratio } = figure((run) => run.stages[n][1])
      now[name][stage] = ratio
      row(`  ${stage}`, `${us.toFixed(1)} µs`, beside(stage, ratio))
    })
  })
  // two processors of a rented machine are often one core: what two threads gain here
  const slower = []
  for (let turn = 0; turn < RUNS; turn++) {
    const [[alone], both] = [await printedAtOnce(1, 'profile', 'demo', 'live', 4), await printedAtOnce(2, 'profile', 'demo', 'live', 4)]
    slower.push((both[0].whole + both[1].whole) / 2 / alone.whole)
  }
  row('Two such chains at once, each against one alone', median(slower).toFixed(2), '1 on two cores, quiet')
  if (process.argv[3] === 'keep') {
    const rounded = (figures) => Object.fromEntries(Object.entries(figures).map(([part, ratio]) => [part, Number(ratio.toFixed(3))]))
    writeFileSync(file, `${JSON.stringify(Object.fromEntries(Object.entries(now).map(([name, of]) => [name, rounded(of)])), null, 2)}\n`)
  }
}

/** Convolution, loudness and true peak against ffmpeg; worklet, convolution and clipping against the browser's own nodes. */
async function peerFigures() {
  const sound = join(folder, 'sound.wav')
  const response = join(folder, 'response.wav')
  noiseWav(sound, 60, 1, () => 0.2)
  noiseWav(response, 2048 / 48_000, 1, (t) => Math.exp(-6 * t) * 0.1)
  const afir = (partition) =>
    ffmpegMs(['-i', sound, '-i', response, '-lavfi', `afir=gtype=none:minp=${partition}:maxp=${partition}`, '-f', 'null', '-']).ms
  const pairs = Array.from({ length: RUNS }, () => [own('convolution', sound, response), afir(128)])
  const convolution = median(pairs.map((p) => p[0]))
  row('Convolution, 60 s, 2,048 taps, partitions of 64 and 256: ours', `${convolution.toFixed(0)} ms`, '')
  row(
    '  against ffmpeg afir at partition 128',
    `${(convolution / median(pairs.map((p) => p[1]))).toFixed(2)} of ${median(pairs.map((p) => p[1])).toFixed(0)} ms`,
    '≤ 1.0',
  )

  const stereo = join(folder, 'stereo.wav')
  noiseWav(stereo, 60, 2, (t) => 0.05 + 0.3 * Math.abs(Math.sin(t * 40)))
  const meters = Array.from({ length: RUNS }, () => {
    const { ms, text } = ffmpegMs(['-i', stereo, '-filter_complex', 'ebur128=peak=true', '-f', 'null', '-'])
    return {
      ours: own('loudness', stereo),
      ms,
      lufs: Number(/I:\s+(-?[\d.]+) LUFS/.exec(text.slice(text.lastIndexOf('Summary')))[1]),
      peak: Number(/Peak:\s+(-?[\d.]+) dBFS/.exec(text.slice(text.lastIndexOf('Summary')))[1]),
    }
  })
  const ourMs = median(meters.map((m) => m.ours.ms))
  const [{ ours, lufs, peak }] = meters
  row('Loudness and true peak, 60 s stereo: ours', `${ourMs.toFixed(0)} ms`, '')
  row(
    '  against ffmpeg ebur128',
    `${(ourMs / median(meters.map((m) => m.ms))).toFixed(2)} of ${median(meters.map((m) => m.ms)).toFixed(0)} ms`,
    '≤ 1.0',
  )
  row(
    '  difference of loudness, of true peak',
    `${Math.abs(ours.lufs - lufs).toFixed(2)} LU, ${Math.abs(ours.dbtp - peak).toFixed(2)} dB`,
    '≤ 0.1',
  )
  await browserFigures(convolution)
}

function showFigures() {
  const { changes, planMs, ms, over, after, demo } = printed('show')
  row(`Night of 30 songs, ${changes} changes: its presses counted`, `${planMs.toFixed(0)} ms`, '')
  row('  layout for 12 switches, 4 banks', `${(ms / 1000).toFixed(1)} s`, '≤ 3 s')
  row('  over a bound that no layout goes below', `${(100 * over).toFixed(1)} %`, '')
  row('  presses of it, while singing', `${after.presses}, ${after.sung}`, '')
  const told = ({ presses, sung, troubles }) => `${presses}, ${sung}, ${troubles}`
  row('The demo’s show: presses, while singing, remarks', `${told(demo.before)} → ${told(demo.after)}`, '')
}
async function stagePart() {
  const product = await openProduct('stage')
  if (!product) return
  const { browser, server, url } = product
  try {
    const { stageFigures } = await import('./bench/stage.mjs')
    await stageFigures({ browser, url, row, median, minutes: Number(process.argv[3] ?? 2) })
  } finally {
    await browser.close()
    server.kill()
  }
}
function checkFigures() {
  const { rules, valueMs, mendsMs, readMs, rulesMs, one } = printed('checks')
  row('Checks: rules of values, of sound', `${rules.values} + ${rules.sound}`, '')
  row('  rules of values after an edit, eight snapshots', `${valueMs.toFixed(1)} ms`, '≤ 20 ms')
  row('  their mends tried, once the sound is read', `${mendsMs.toFixed(0)} ms`, '')
  row('  eight snapshots read, one thread, nothing kept', `${(readMs / 1000).toFixed(1)} s`, '')
  row('  rules of sound on them', `${rulesMs.toFixed(1)} ms`, '')
  row('  one EQ for two of six bells: error, middle and largest', `${one.middleDb.toFixed(2)}, ${one.largestDb.toFixed(2)} dB`, '')
  row('  one such fit', `${one.ms.toFixed(0)} ms`, '')
}

/** Guitars, what is left after a transfer, places, and the table of a transfer in the page. */
async function kitFigures() {
  const found = printed('kit')
  row('A dropped recording of 60 s measured, one thread', `${found.measureMs.toFixed(0)} ms`, '')
  row(`Transfer over ${found.pairs} pairs of shipped guitars: edge left`, `${found.edgeDb.toFixed(2)} dB`, '≤ 0.5')
  row('  brightness before the amp left', `${found.brightnessPercent.toFixed(2)} %`, '≤ 3')
  row('Guitar’s knobs and bands, live, a block of 128', `${found.guitarUs.toFixed(1)} µs`, '')
  row('Listening place, both sides, a block of 128', `${found.placeUs.toFixed(1)} µs`, '')
  const product = await openProduct('kit-data')
  if (!product) return
  const { browser, server, url } = product
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const times = []
    for (let i = 0; i < 3; i++) {
      await page.goto(`${url}/sheet/demo-pit-main`)
      await page.locator('[data-all-ms]').waitFor({ timeout: 60_000 })
      // the checks listen to the preset first
      await page.waitForTimeout(15_000)
      await page.getByTitle('Play it on another guitar').click()
      const table = page.locator('[data-whole]:not([data-whole=working])')
      await table.waitFor({ timeout: 90_000 })
      times.push([Number(await table.getAttribute('data-transfer')), Number(await table.getAttribute('data-whole'))])
    }
    row('“Play it on …”, six snapshots, two threads: first 4 s', `${median(times.map((t) => t[0])).toFixed(0)} ms`, '≤ 3,000 ms')
    row('  with loudness over whole riffs', `${median(times.map((t) => t[1])).toFixed(0)} ms`, '')
  } finally {
    await browser.close()
    server.kill()
  }
}

/** Ranking of blends against the same arithmetic in numpy, in turn on one thread, and how often what is hidden is found. */
function matchFigures() {
  if (spawnSync('python3', ['-c', 'import numpy']).status !== 0) {
    console.log('Installing Debian’s numpy …')
    spawnSync('apt-get', ['update', '-qq'])
    spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'python3-numpy'])
  }
  const { speed, rounds, blendsFound, eqsFound, libraryMs } = printed('match', folder)
  const one = { OPENBLAS_NUM_THREADS: '1', OMP_NUM_THREADS: '1' }
  const peer = JSON.parse(
    execFileSync('python3', ['scripts/bench/rank.py', folder, JSON.stringify(speed)], { cwd: root, env: { ...process.env, ...one } }),
  )
  row(`${speed.blends.toLocaleString('en-GB')} blends ranked in 64 bands, of numpy’s time`, (speed.ms / peer.ms).toFixed(3), '≤ 0.25')
  row('  here, and there', `${speed.ms.toFixed(0)}, ${peer.ms.toFixed(0)} ms`, '')
  row('  with the way down from the best valleys', `${speed.wholeMs.toFixed(0)} ms`, '')
  row(`Hidden blends among the first three, of ${rounds}`, String(blendsFound), '')
  row(`Hidden three-band EQs within 1 dB, of ${rounds}`, String(eqsFound), '')
  row('5,000 responses in the order of what is known of them', `${libraryMs.toFixed(0)} ms`, '')
}

/** Plain tables: nothing here is timed against a peer but silence against sound. */
function feelFigures() {
  spawnSync('node', [bundled('feel'), ...process.argv.slice(3)], { cwd: root, stdio: 'inherit' })
}
const medianOf = (work) => median(Array.from({ length: RUNS }, work))

/** Seconds of processor time that ffmpeg says it used, less what decoding alone takes. */
function ffmpegMs(args) {
  const cpu = (a) => {
    const { stderr } = spawnSync('ffmpeg', ['-hide_banner', '-nostats', '-benchmark', '-y', ...a], { encoding: 'utf8' })
    const [, user, system] = /utime=([\d.]+)s stime=([\d.]+)s/.exec(stderr)
    return { ms: (Number(user) + Number(system)) * 1000, text: stderr }
  }
  const whole = cpu(args)
  const plain = cpu(['-i', args[args.indexOf('-i') + 1], '-f', 'null', '-'])
  return { ms: Math.max(1, whole.ms - plain.ms), text: whole.text }
}

function noiseWav(path, seconds, channels, envelope) {
  const frames = Math.round(seconds * 48_000)
  const body = new Float32Array(frames * channels)
  let seed = 7
  for (let n = 0; n < body.length; n++)
    body[n] = (((seed = (seed * 16807) % 2147483647) / 2147483647) * 2 - 1) * envelope(Math.floor(n / channels) / frames)
  const header = Buffer.alloc(44)
  header.write('RIFF', 0)
  header.writeUInt32LE(36 + body.byteLength, 4)
  header.write('WAVEfmt ', 8)
  header.writeUInt32LE(16, 16)
  header.writeUInt16LE(3, 20)
  header.writeUInt16LE(channels, 22)
  header.writeUInt32LE(48_000, 24)
  header.writeUInt32LE(48_000 * channels * 4, 28)
  header.writeUInt16LE(channels * 4, 32)
  header.writeUInt16LE(32, 34)
  header.write('data', 36)
  header.writeUInt32LE(body.byteLength, 40)
  writeFileSync(path, Buffer.concat([header, Buffer.from(body.buffer)]))
}

console.log(`${'figure'.padEnd(58)} ${'measured'.padStart(22)}   aim\n${'-'.repeat(100)}`)

for (const [what, name] of [
  ['rtf', 'Demo preset (storm)'],
  ['dearest', 'Dearest chain (12 stages)'],
])
  for (const quality of ['live', 'high'])
    row(
      `${name}, ${quality}, one thread, Node: seconds a second`,
      medianOf(() => own(what, quality)).toFixed(1),
      what === 'rtf' && quality === 'live' ? '≥ 40' : '',
    )

await peerFigures()
await micBenchFigures()
await levelFigures()
checkFigures()
await kitFigures()
await controlFigures()
await pageFigures()
await shelfFigures()

console.log(
  '\nWorst alias below 16 kHz under the fundamental at full drive, dB, for sines of 1,244.5 Hz and 5 kHz (aim at 1,244.5: −60 live, −80 high):',
)
const aliases = ['live', 'high', 'highest'].map((quality) => own('aliases', quality))
for (const id of Object.keys(aliases[0]))
  row(`  ${id}`, '', aliases.map((a, i) => `${['live', 'high', 'highest'][i]} ${a[id].join('/')}`.padEnd(20)).join(''))

console.log(`\nCost of each model, µs a block of 128 at 48 kHz, live (a block lasts 2,667 µs):`)
for (const [id, us] of Object.entries(own('models', 'live'))) row(`  ${id}`, us.toFixed(1), '')

const seconds = Number(process.env.FULGOR_BENCH_LIVE_S ?? 3600)
console.log(`\nSimulated live playing, ${seconds} s through the dearest chain, a control moved every third of a second:`)
const live = own('live', seconds)
row('  seconds a second', live.rtf.toFixed(1), '')
row('  moves of controls', `${live.moves} of ${live.controls}`, '')
row('  silence after sound against sound (denormal numbers)', own('silence').toFixed(2), '≤ 1.2')
row('  samples that are no number', String(live.notFinite), '0')
row('  loudest click (above 16 kHz, over its surroundings)', `${live.clickDb.toFixed(0)} dBFS`, '≤ −60')
row('  growth of memory', `${live.growthMb.toFixed(1)} MB`, '≤ 5')
row('  block: median, 99th percentile', `${live.medianUs.toFixed(0)}, ${live.p99Us.toFixed(0)} µs`, '')
rmSync(folder, { recursive: true, force: true })

/** The built server on a fresh data folder. */
async function startServer(data) {
  const server = spawn('node', ['server/dist/main.js'], {
    cwd: root,
    env: { ...process.env, PORT: '0', FULGOR_DEMO: '1', FULGOR_DATA: join(folder, data) },
  })
  const url = await new Promise((done) => server.stdout.on('data', (text) => done(/http:\/\/[^/\s]+/.exec(text.toString())[0])))
  return { server, url }
}

/** The built product on a fresh data folder and a browser for it; null where there is no chromium. */
async function openProduct(data) {
  const { chromium } = await import('@playwright/test')
  const executablePath = process.env.CHROMIUM ?? '/usr/bin/chromium'
  if (!existsSync(executablePath)) {
    console.log('No chromium here: `npm test` installs it; the browser figures are left out.')
    return null
  }
  const { server, url } = await startServer(data)
  const browser = await chromium.launch({
    executablePath,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  })
  return { server, url, browser }
}

/** Microphones, files and their list: what the note of the mic bench tells. */
async function micBenchFigures() {
  const { worst, median: middle, wrongPolarity } = ofBench('alignment')
  row('Alignment of 1,000 known delays: worst, median', `${worst.toExponential(1)}, ${middle.toExponential(1)} samples`, '≤ 0.1')
  row('  polarity wrong', String(wrongPolarity), '0')
  const { tried, read, refused, crashed } = ofBench('malformed')
  row(`Malformed files, ${tried} tried: read, refused, crashed`, `${read}, ${refused}, ${crashed}`, 'none crashes')
  const turns = Array.from({ length: RUNS }, () => ofBench('convolution'))
  row('Convolution: a blend of eight against one channel', median(turns.map((t) => t.eight / t.one)).toFixed(2), '1')
  const product = await openProduct('bench-data')
  if (!product) return
  const pack = join(folder, 'pack.zip')
  ofBench('pack', pack)
  const { benchViewFigures } = await import('./bench/benchView.mjs')
  try {
    await benchViewFigures({ ...product, pack, row, median })
  } finally {
    await product.browser.close()
    product.server.kill()
  }
}

/** How smooth the sheet stays under the hand. */
async function pageFigures() {
  const product = await openProduct('page-data')
  if (!product) return
  const { browser, server, url } = product
  const { frameFigures } = await import('./bench/frames.mjs')
  try {
    await frameFigures({ browser, page: await browser.newPage({ viewport: { width: 1280, height: 800 } }), url, row })
  } finally {
    await browser.close()
    server.kill()
  }
}

/** What a long shelf costs the server. */
async function shelfFigures() {
  const { server, url } = await startServer('shelf-data')
  const { shelfFigures: measured } = await import('./bench/shelf.mjs')
  try {
    await measured({ server, url, row, median })
  } finally {
    server.kill()
  }
}

/** Levelling, loudness and switching, and how long a sheet of eight snapshots takes. */
async function levelFigures() {
  const left = ofLevels('residual')
  row('Level all on 50 random presets, left over: by the Output', `${left.level.toFixed(3)} LU`, '≤ 0.1')
  row('  by the amp’s master; ranges that ended before', `${left.master.toFixed(3)} LU; ${left.limited}`, '≤ 0.1')
  const meter = ofLevels('ffmpeg', join(folder, 'riff.wav'))
  row('Loudness of 100 rendered riffs against ffmpeg ebur128', `${meter.lufs.toFixed(2)} LU`, '≤ 0.1')
  row('  loudness range', `${meter.range.toFixed(2)} LU`, '≤ 0.5')
  const table = ofLevels('switching')
  row(`Gap, jump and click of ${table.pairs} switches, one thread`, `${(table.ms / 1000).toFixed(1)} s`, '')
  row(
    '  worst of them',
    `${table.gapDb.toFixed(1)} dB, ${table.jumpLu.toFixed(1)} LU, ${table.clickDbfs === null ? 'no click' : `${table.clickDbfs.toFixed(0)} dBFS`}`,
    '',
  )
  const product = await openProduct('levels-data')
  if (!product) return
  const { browser, server, url } = product
  try {
    await eightSnapshots(await browser.newPage({ viewport: { width: 1280, height: 800 } }), url)
  } finally {
    await browser.close()
    server.kill()
  }
}

/** From a message to the sound, what many assignments cost, zipper noise, and a sweep in the page. */
async function controlFigures() {
  const found = printed('controls')
  row(
    'From a control message to the changed sound',
    `${found.latency.frames} frames, ${found.latency.blocks} ${found.latency.blocks === 1 ? 'block' : 'blocks'}`,
    '',
  )
  row(
    `Processor share with ${found.load.assignments} assignments moving, and without`,
    `${(100 * found.load.share).toFixed(1)} %, ${(100 * found.load.without).toFixed(1)} %`,
    '',
  )
  row('Zipper noise of a swept sine: highest line', `${found.zipperDb.toFixed(0)} dB`, '≤ −80')
  const product = await openProduct('controls-data')
  if (!product) return
  const { browser, server, url } = product
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    const { document } = await (await page.request.get(`${url}/api/presets/demo-pit-main`)).json()
    const aim = (stage, param, from, to) => ({
      id: `${stage}-${param}`,
      stage,
      param,
      from,
      to,
      curve: { shape: 'linear', heel: 0, toe: 0 },
      snapshots: null,
    })
    const targets = [
      aim('amp', 'gain', 2, 7.5),
      aim('eq', 'gain2', -4, 2),
      aim('delay', 'mix', 8, 34),
      aim('hall', 'decay', 1.4, 3.6),
      aim('out', 'level', 0, -2.6),
    ]
    const swept = { ...document, board: undefined, controls: [{ id: 'p1', name: 'Pedal 1', kind: 'pedal', targets }] }
    const made = await (await page.request.post(`${url}/api/presets`, { data: { document: swept }, headers: { Origin: url } })).json()
    const times = []
    for (let i = 0; i < RUNS; i++) {
      await page.goto(`${url}/controls/${made.id}?snapshot=storm`)
      const sweep = page.locator('[data-sweep]:not([data-sweep=""])')
      await sweep.waitFor({ timeout: 80_000 })
      times.push(Number(await sweep.getAttribute('data-sweep')))
    }
    row('Sweep of five targets at 21 points on a 10 s riff', `${median(times).toFixed(0)} ms`, '≤ 2,000 ms')
  } finally {
    await browser.close()
    server.kill()
  }
}

/** Eight snapshots on a 10 s riff: all figures from scratch, and after an edit of one value in the base. */
async function eightSnapshots(page, url) {
  const { document } = await (await page.request.get(`${url}/api/presets/demo-pit-main`)).json()
  const [first, second] = document.snapshots
  const eight = {
    ...document,
    snapshots: [...document.snapshots, { ...first, id: 'x1', name: 'Seventh' }, { ...second, id: 'x2', name: 'Eighth' }],
  }
  eight.snapshots.forEach((s, i) => (s.stages = { ...s.stages, eq: { params: { gain1: (i - 4) / 2 } } }))
  const made = await (await page.request.post(`${url}/api/presets`, { data: { document: eight }, headers: { Origin: url } })).json()
  const footer = page.locator('[data-all-ms]')
  const scratch = []
  const warm = []
  const strokes = ['Soft', 'Normal', 'Hard']
  for (let i = 0; i < RUNS; i++) {
    await page.goto(`${url}/sheet/${made.id}`)
    await footer.waitFor({ timeout: 60_000 })
    scratch.push(Number(await footer.getAttribute('data-all-ms')))
    // two strokes that this page has not heard yet: all is rendered again, by threads that have worked before
    for (let k = 0; k < 2; k++) {
      await page.waitForTimeout(2_000)
      await page.getByRole('radio', { name: strokes[(2 * i + k) % 3], exact: true }).click()
      await page.waitForTimeout(100)
      await footer.waitFor({ timeout: 60_000 })
      warm.push(Number(await footer.getAttribute('data-all-ms')))
    }
    await page.waitForTimeout(1_500)
  }
  row('Eight snapshots of a 10 s riff, from scratch in a fresh page', `${median(scratch).toFixed(0)} ms`, '≤ 1,500 ms')
  row('  from scratch in threads that are warm, riff and all', `${median(warm).toFixed(0)} ms`, '≤ 700 ms')
  await page.waitForTimeout(2_000)
  const edits = { 'EQ, above the base’s delay': ['Low shelf', '4,0'], 'amp’s bass': ['Bass', '2,0'] }
  for (const [name, [slider, cell]] of Object.entries(edits)) {
    await page.locator(`[data-cell="${cell}"]`).click()
    const all = []
    for (let i = 0; i < RUNS; i++) {
      await page.getByRole('slider', { name: slider, exact: true }).first().press('ArrowRight')
      await page.waitForTimeout(100)
      await footer.waitFor({ timeout: 60_000 })
      all.push(Number(await footer.getAttribute('data-all-ms')))
      await page.waitForTimeout(800)
    }
    row(`  after an edit of the ${name}`, `${median(all).toFixed(0)} ms`, '≤ 700 ms')
  }
}

/** @param convolution ms that ours took for the same */
async function browserFigures(convolution) {
  const product = await openProduct('data')
  if (!product) return
  const { browser, server, url } = product
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`${url}/bench.html`)
    await page.waitForFunction(() => 'fulgorBench' in window)
    const worklet = []
    const native = []
    for (let i = 0; i < RUNS; i++) {
      worklet.push(await page.evaluate(() => window.fulgorBench.workletRtf(80)))
      native.push(await page.evaluate(() => window.fulgorBench.convolverNodeMs(60, 2048)))
    }
    row('Demo preset (storm), live, in the worklet: seconds a second', median(worklet).toFixed(1), '')
    for (const [which, quality] of [
      ['storm', 'high'],
      ['dearest', 'live'],
      ['dearest', 'high'],
    ])
      row(
        `  ${which === 'storm' ? 'demo preset' : 'dearest chain'}, ${quality}`,
        (await page.evaluate(([w, q]) => window.fulgorBench.workletRtf(15, w, q), [which, quality])).toFixed(1),
        '',
      )
    const amps = []
    for (let i = 0; i < RUNS; i++)
      amps.push(await page.evaluate(async () => [window.fulgorBench.ampMs(10), await window.fulgorBench.waveShapersMs(10)]))
    row(
      'Amp stage, 10 s, against three native WaveShapers at 4x',
      `${(median(amps.map((a) => a[0])) / median(amps.map((a) => a[1]))).toFixed(2)} of ${median(amps.map((a) => a[1])).toFixed(0)} ms`,
      '≤ 0.35',
    )
    row(
      'Convolution against Chromium’s ConvolverNode',
      `${(convolution / median(native)).toFixed(2)} of ${median(native).toFixed(0)} ms`,
      '≤ 0.5',
    )
    const live = await page.evaluate(() => window.fulgorBench.liveAgainstOffline('storm', 5))
    row(
      'Live worklet against offline engine, difference',
      live.differenceDb === null || live.differenceDb === -Infinity ? 'none' : `${live.differenceDb} dB`,
      'none',
    )

    await firstLoad(page, url)
    await editToFigures(page, url)
  } finally {
    await browser.close()
    server.kill()
  }
}

/** Bytes that a first visit fetches before any chart, worker or worklet: scripts and styles by gzip, fonts as they are. */
async function firstLoad(page, url) {
  for (const [name, path, aim] of [
    ['first page', '/', '≤ 250 kB'],
    ['Sheet', '/sheet/demo-pit-main', ''],
  ]) {
    const context = await page.context().browser().newContext({ serviceWorkers: 'block' })
    const visit = await context.newPage()
    let scripts = 0
    let fonts = 0
    const pending = []
    visit.on('response', (response) => {
      const { pathname } = new URL(response.url())
      if (pathname.startsWith('/api/') || pathname.includes('Chart-') || /worker|worklet/.test(pathname)) return
      const add = (body) => (pathname.endsWith('woff2') ? (fonts += body.length) : (scripts += gzipSync(body).length))
      pending.push(response.body().then(add, () => undefined))
    })
    await visit.goto(`${url}${path}`)
    await visit.waitForTimeout(3_000)
    await Promise.all(pending)
    await context.close()
    row(`First load, ${name}: page, scripts, styles`, `${(scripts / 1000).toFixed(0)} kB gzip`, aim)
    row('  with fonts', `${((scripts + fonts) / 1000).toFixed(0)} kB`, '')
  }
}

/** From an edit of the amp's bass (which neither snapshot overrides) to the figures of the lit snapshot and of both, on a preset with two snapshots and a 10 s riff. */
async function editToFigures(page, url) {
  const { document } = await (await page.request.get(`${url}/api/presets/demo-pit-main`)).json()
  // sources and switches name snapshots that are left out here
  const two = { ...document, tempo: 96, snapshots: document.snapshots.slice(2, 4), controls: [], board: undefined }
  const made = await (await page.request.post(`${url}/api/presets`, { data: { document: two }, headers: { Origin: url } })).json()
  await page.goto(`${url}/sheet/${made.id}`)
  const footer = page.locator('[data-all-ms]')
  await footer.waitFor({ timeout: 60_000 })
  await page.waitForTimeout(3000)
  const slider = page.getByRole('slider', { name: 'Bass', exact: true })
  const active = []
  const all = []
  for (let i = 0; i < RUNS + 2; i++) {
    await slider.press('ArrowRight')
    await page.waitForTimeout(100)
    await footer.waitFor({ timeout: 60_000 })
    active.push(Number(await footer.getAttribute('data-active-ms')))
    all.push(Number(await footer.getAttribute('data-all-ms')))
    await page.waitForTimeout(800)
  }
  row('Edit of the amp’s bass to the lit snapshot’s figures', `${median(active).toFixed(0)} ms`, '≤ 400 ms')
  row('  to the figures of both snapshots', `${median(all).toFixed(0)} ms`, '≤ 800 ms')
}
