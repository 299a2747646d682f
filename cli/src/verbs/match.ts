import type { Command } from 'commander'
import { readdirSync } from 'node:fs'
import { extname, join } from 'node:path'
import { createBench, modelOf } from '@fulgor/core/catalogue'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import {
  bandsAt,
  bandsOfSound,
  candidateOf,
  CORRECTIVE,
  CREATIVE,
  distanceOf,
  eqFor,
  gridOf,
  inspectReference,
  longSpectrum,
  PLACES,
  placeResponse,
  placeWords,
  powerAt,
  Ranking,
  UnfitReference,
  viewOf,
  type Blend,
  type Candidate,
  type FoundEq,
  type Grid,
  type ReferenceReport,
} from '@fulgor/core/match'
import { VIEWS } from '@fulgor/core/recording'
import { applyEdit, resolveStage, stagesOf, type Preset, type Snapshot, type StageNode } from '@fulgor/core/preset'
import { Renderer } from '@fulgor/core/render'
import { InputError, readPresetFile, readWavFile } from '../input'
import { print, table } from '../output'
import { buildContext, drySignal } from '../sound'
import { readSoundFile } from '../soundFile'
import { stretchOf, viewOption } from './reference'
import { pickSnapshot, renderAll } from './render'

interface Options {
  readonly preset: string
  readonly di: string
  readonly reference: string
  readonly snapshot?: string
  readonly irs?: string
  readonly view: string
  readonly from?: string
  readonly to?: string
  readonly json?: boolean
}

/** Candidates alone from which pairs are made, and how many are told. */
const PAIRED = 160
const TOLD = 10

export function addMatch(program: Command): void {
  program
    .command('match')
    .description('how far a snapshot is from a recording, and which equaliser, responses and blends of two bring it nearer')
    .requiredOption('--preset <file>', 'preset document')
    .requiredOption('--di <file>', 'dry signal')
    .requiredOption('--reference <file>', 'recording (WAV, AIFF, FLAC)')
    .option('--snapshot <name>', 'by itself the first one')
    .option('--irs <folder>', 'impulse responses to rank instead of the simulated cabinet’s')
    .option('--view <side>', `side of the recording: ${VIEWS.join(', ')}`, 'mid')
    .option('--from <s>', 'start of the stretch')
    .option('--to <s>', 'end of the stretch')
    .option('--json', 'one JSON value')
    .action(match)
}

async function match(o: Options): Promise<void> {
  const preset = readPresetFile(o.preset)
  const snapshot = o.snapshot === undefined ? preset.snapshots[0] : pickSnapshot(preset, o.snapshot)
  const view = viewOption(o.view)
  const { dry, sampleRate } = drySignal(o.di, readWavFile(o.di))
  const { sides, sampleRate: theirs } = await stretchOf(o.reference, o)
  let report: ReferenceReport
  try {
    report = inspectReference(sides, theirs, view)
  } catch (error) {
    if (error instanceof UnfitReference) throw new InputError(`${o.reference}: ${error.message}`)
    throw error
  }
  const recording = viewOf(sides, view)
  const renderer = new Renderer(buildContext(sampleRate))
  const heard = (of: Preset) => {
    const { left, right } = renderAll(renderer, { preset: of, snapshot: snapshot.id, dryKey: 'di', dry, sampleRate })
    return left.map((x, n) => 0.5 * (x + right[n]))
  }
  const sound = heard(preset)
  const distance = distanceOf(bandsOfSound([sound], sampleRate).db, report.bands.db, report.trusted)
  if (!distance) throw new InputError(`${o.preset}: “${snapshot.name}” is silent, or nothing of the recording can be compared`)
  const grid = gridOf(report.trusted)
  const wanted = bandsAt(grid, longSpectrum([recording], theirs))
  const now = bandsAt(grid, longSpectrum([sound], sampleRate))
  const hz = Array.from(wanted, (_, b) => grid.points[8 * b + 4])
  const apart = Array.from(now, (db, b) => db - wanted[b])
  const eq = { creative: eqFor(hz, apart, CREATIVE, sampleRate), corrective: eqFor(hz, apart, CORRECTIVE, sampleRate) }
  const cabinet = stagesOf(preset.chain).findLast((s) => modelOf(s.model).family === 'cabinet')
  const ranked = cabinet ? await rank(o, preset, snapshot, cabinet, grid, wanted, heard, sampleRate) : null
  const value = {
    snapshot: snapshot.name,
    distanceDb: distance.db,
    louderDb: distance.louder,
    trusted: report.trusted,
    thirdOctave: distance.bands.map((db, k) => ({ hz: THIRD_OCTAVES[k], db, spreadDb: report.bands.spread[k] })),
    eq,
    looked: ranked?.looked ?? 0,
    responses: ranked?.responses ?? [],
    blends: ranked?.blends ?? [],
  }
  print(o.json ?? false, value, () => [
    `“${snapshot.name}” is ${distance.db.toFixed(1)} dB from the recording (root mean square of the third octaves from ${Math.round(report.trusted.fromHz)} to ${Math.round(report.trusted.toHz)} Hz, at equal loudness)`,
    ...(['creative', 'corrective'] as const).map((kind) => `${kind} equaliser: ${eqWords(eq[kind])}`),
    ...(ranked
      ? [
          `${ranked.looked.toLocaleString('en-GB')} blends looked at`,
          ...table([
            ['dB left', 'in the cabinet’s place'],
            ...[...ranked.blends, ...ranked.responses].sort((a, b) => a.db - b.db).map((b) => [b.db.toFixed(2), b.words]),
          ]),
        ]
      : ['the preset has no cabinet stage whose response could be another one']),
  ])
}

const eqWords = ({ bands, db }: FoundEq): string =>
  bands.length === 0
    ? 'none is worth it'
    : `${bands.map((b) => `${Math.round(b.hz)} Hz ${b.db < 0 ? '−' : '+'}${Math.abs(b.db).toFixed(1)} dB, Q ${b.q.toFixed(1)}`).join('; ')}: ${db.toFixed(1)} dB left`

/** Responses and blends that could stand in the cabinet's place, nearest first. */
async function rank(
  o: Options,
  preset: Preset,
  snapshot: Snapshot,
  cabinet: StageNode,
  grid: Grid,
  wanted: Float32Array,
  heard: (of: Preset) => Float32Array,
  sampleRate: number,
) {
  const bare = heard(applyEdit(preset, { type: 'setOn', stage: cabinet.id, snapshot: snapshot.id, on: false }))
  const { names, candidates } = await candidatesFor(o, resolveStage(preset, cabinet, snapshot.id).bench?.cab, grid, sampleRate)
  const ranking = new Ranking({ grid, power: powerAt(grid, longSpectrum([bare], sampleRate)), wanted }, candidates)
  const alone = ranking.alone()
  const of = alone.slice(0, PAIRED).map((b) => b.first)
  const { best, blends } = ranking.pairs(of, [...of.keys()], TOLD)
  const told = (b: Blend) => ({
    ...b,
    // both at their own level: what is set on the bench
    levelDb: b.second === null ? 0 : b.levelDb + ranking.gainDb[b.second] - ranking.gainDb[b.first],
    words:
      b.second === null
        ? names[b.first]
        : `${names[b.first]} with ${names[b.second]} at ${b.levelDb < 0 ? '−' : '+'}${Math.abs(b.levelDb).toFixed(1)} dB, ${b.lateUs} µs later${b.inverted ? ', inverted' : ''}`,
  })
  return { looked: blends + candidates.length, responses: alone.slice(0, TOLD).map(told), blends: best.map(told) }
}

async function candidatesFor(
  { irs }: Options,
  own: ReturnType<typeof createBench>['cab'] | undefined,
  grid: Grid,
  sampleRate: number,
): Promise<{ names: readonly string[]; candidates: readonly Candidate[] }> {
  if (irs === undefined) {
    const cab = own ?? createBench().cab
    return {
      names: PLACES.map(placeWords),
      candidates: PLACES.map((p) => candidateOf(grid, placeResponse(cab, p, sampleRate), sampleRate)),
    }
  }
  let files: string[]
  try {
    files = readdirSync(irs, { recursive: true, encoding: 'utf8' }).filter((f) => /\.(wave?|aiff?|aifc|flac)$/i.test(extname(f)))
  } catch (error) {
    throw new InputError(`${irs}: cannot be read (${(error as Error).message})`)
  }
  if (files.length === 0) throw new InputError(`${irs}: holds no WAV, AIFF or FLAC file`)
  const candidates: Candidate[] = []
  for (const file of files) {
    const { channels, sampleRate: rate } = await readSoundFile(join(irs, file))
    candidates.push(candidateOf(grid, channels[0], rate))
  }
  return { names: files, candidates }
}
