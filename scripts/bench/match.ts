// Figures of matching: how fast blends are ranked, on one thread, and whether hidden blends and equalisers are found again.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { BAND_HZ, drivers, micResponse, type CabDesign } from '@fulgor/core/cabinet'
import { nearestFiles } from '@fulgor/core/closing'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import {
  BLENDS_A_PAIR,
  candidateOf,
  COARSE,
  eqFor,
  gridOf,
  placeResponse,
  PLACES,
  powerAt,
  Ranking,
  longSpectrum,
  BANDS,
} from '@fulgor/core/match'
import { playRiff } from '@fulgor/core/riffs'
import { design, identity, sectionsDb } from '@fulgor/core/signal'

const RATE = 48_000
const GRID = gridOf({ fromHz: 100, toHz: 10_000 })
let state = 9
const random = () => {
  state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
  return state / 2 ** 32
}

const CAB = { driver: drivers[0].id, size: '12', drivers: '4', back: 'closed', second: 'same' } as CabDesign
const sound = Float32Array.from(playRiff('open-chords', RATE, { strength: 'hard', bpm: 120 }), (v) => 0.3 * Math.tanh(8 * v))
const power = powerAt(GRID, longSpectrum([sound], RATE))

/** ms in which 5,000 files of a library are ordered by what is known of them. */
function library(): number {
  const files = Array.from({ length: 5_000 }, () => ({ bands: BAND_HZ.map(() => 24 * random() - 12) }))
  const [bare, wanted] = [0, 1].map(() => THIRD_OCTAVES.map(() => 30 * random() - 60))
  const times = Array.from({ length: 9 }, () => {
    const start = performance.now()
    nearestFiles(files, bare, wanted, { fromHz: 100, toHz: 10_000 }, [])
    return performance.now() - start
  })
  return times.sort((a, b) => a - b)[4]
}

/** What is ranked natively, too: candidates as points, the aim, and the mixes. */
function speed(folder: string) {
  const count = 58
  const candidates = PLACES.slice(0, count).map((p) => candidateOf(GRID, placeResponse(CAB, p, RATE), RATE))
  const wanted = Float32Array.from({ length: BANDS }, (_, b) => -30 - 0.2 * b + 3 * Math.sin(b))
  const ranking = new Ranking({ grid: GRID, power, wanted }, candidates)
  const everyOne = candidates.map((_, k) => k)
  const pairs = (count * (count - 1)) / 2
  // only what every pair is tried as, and not what is gone on from
  const sweep = () => {
    const start = performance.now()
    for (let i = 0; i < count; i++) for (let j = i + 1; j < count; j++) ranking.pair(i, j, -1)
    return performance.now() - start
  }
  sweep()
  const ms = [sweep(), sweep(), sweep(), sweep(), sweep()].sort((a, b) => a - b)[2]
  const start = performance.now()
  ranking.pairs(everyOne, everyOne, 50)
  const wholeMs = performance.now() - start
  const root = power.map(Math.sqrt)
  const points = new Float32Array(2 * count * 512)
  candidates.forEach((c, i) => {
    for (let k = 0; k < 512; k++) {
      points[i * 1_024 + k] = c.re[k] * root[k]
      points[i * 1_024 + 512 + k] = c.im[k] * root[k]
    }
  })
  writeFileSync(join(folder, 'points.f32'), Buffer.from(points.buffer))
  writeFileSync(join(folder, 'wanted.f32'), Buffer.from(wanted.buffer))
  writeFileSync(join(folder, 'hz.f64'), Buffer.from(GRID.points.buffer as ArrayBuffer))
  return { pairs, blends: pairs * BLENDS_A_PAIR, ms, wholeMs, levels: COARSE.levels, lags: COARSE.lags }
}

/** Blends of two of a library, predicted as they are ranked: how often the right pair is among the first three. */
function hiddenBlends(rounds: number): number {
  const library = drivers
    .slice(0, 2)
    .flatMap(({ id: driver }) => PLACES.filter((_, k) => k % 7 === 0).map((p) => micResponse({ ...CAB, driver }, p, RATE, 2_048)))
  const candidates = library.map((taps) => candidateOf(GRID, taps, RATE))
  let found = 0
  for (let round = 0; round < rounds; round++) {
    const i = Math.floor(random() * (candidates.length - 1))
    const j = i + 1 + Math.floor(random() * (candidates.length - 1 - i))
    const [gain, late, sign] = [Math.pow(10, (12 * random() - 6) / 20), (600 * random() - 300) * 1e-6, random() < 0.5 ? 1 : -1]
    const norm = (c: (typeof candidates)[number]) => Math.sqrt(c.re.reduce((sum, v, k) => sum + (v * v + c.im[k] * c.im[k]) * power[k], 0))
    const [a, b] = [candidates[i], candidates[j]]
    const [na, nb] = [norm(a), norm(b)]
    const wanted = new Float32Array(BANDS)
    GRID.points.forEach((hz, k) => {
      const turn = 2 * Math.PI * hz * late
      const [br, bi] = [b.re[k] * Math.cos(turn) + b.im[k] * Math.sin(turn), b.im[k] * Math.cos(turn) - b.re[k] * Math.sin(turn)]
      const [re, im] = [a.re[k] / na + (sign * gain * br) / nb, a.im[k] / na + (sign * gain * bi) / nb]
      wanted[Math.floor(k / 8)] += (re * re + im * im) * power[k]
    })
    const ranking = new Ranking({ grid: GRID, power, wanted: wanted.map((v) => 10 * Math.log10(v + 1e-20)) }, candidates)
    const all = candidates.map((_, k) => k)
    const { best } = ranking.pairs(all, all, 3)
    if (best.some((x) => x.first === i && x.second === j)) found++
  }
  return found
}

function hiddenEqs(rounds: number): number {
  const hz = Array.from({ length: BANDS }, (_, b) => GRID.points[8 * b + 4])
  let found = 0
  for (let round = 0; round < rounds; round++) {
    const curve = (bands: readonly { hz: number; db: number; q: number }[]) => {
      const sections = bands.map((band) => {
        const section = identity()
        design.bell(section, band.hz, band.q, band.db, RATE)
        return section
      })
      return hz.map((f) => sectionsDb(sections, f, RATE))
    }
    const hidden = curve([150, 700, 3_300].map((f) => ({ hz: f * (0.7 + 0.8 * random()), db: 16 * random() - 8, q: 0.6 + 1.2 * random() })))
    const rest = curve(eqFor(hz, hidden, { bands: 3, cutOnly: false, mostDb: 12, q: [0.4, 3] }).bands).map((db, k) => db + hidden[k])
    const mean = rest.reduce((sum, v) => sum + v / rest.length, 0)
    if (Math.max(...rest.map((v) => Math.abs(v - mean))) < 1) found++
  }
  return found
}

const folder = process.argv[2]
const ROUNDS = 100
console.log(
  JSON.stringify({
    speed: speed(folder),
    rounds: ROUNDS,
    blendsFound: hiddenBlends(ROUNDS),
    eqsFound: hiddenEqs(ROUNDS),
    libraryMs: library(),
  }),
)
