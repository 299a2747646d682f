import type { ResponseAsset } from '@fulgor/core/api'
import type { MicBench } from '@fulgor/core/cabinet'
import { createBench, modelOf } from '@fulgor/core/catalogue'
import {
  anyOf,
  bandWords,
  beforeAmp,
  benchFor,
  cabinetEdit,
  designsFor,
  designWords,
  eqEdit,
  FIRST_PLACES,
  heardOf,
  modelsOf,
  nearestFiles,
  ORDERS,
  placesAround,
  settingEdit,
  settingWords,
  sourceWords,
  timeProposals,
  together,
  type Aimed,
  type EqPlace,
  type Proposal,
  type Ranked,
  type Setting,
  type Source,
  type Step,
  type Where,
} from '@fulgor/core/closing'
import {
  bentDb,
  CORRECTIVE,
  CREATIVE,
  distanceOf,
  PLACES,
  type Blend,
  type EqLimits,
  type Portrait,
  type ReferenceReport,
} from '@fulgor/core/match'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { applyEdit, resolveStage, type Edit, type Preset } from '@fulgor/core/preset'
import type { Errand } from '../../background/errand'
import { newId } from '../../state/ids'
import { renderers } from '../../threads/crews'
import type { Aim, Bare, Judged, Pairs } from '../../threads/matching'
import { renderingOf } from '../../threads/riffSource'
import { figure } from '../../ui/format'
import { soundView } from './useSound'

/** What is looked for, and how. */
export interface Wanted {
  readonly order: keyof typeof ORDERS
  readonly aim: Aim
  readonly eq: {
    readonly bands: number
    readonly cutOnly: boolean
    readonly mostDb: number
    readonly mostQ: number
    readonly place: EqPlace
  }
}

/** One proposal with all that was chosen before it. */
export interface Row {
  readonly proposal: Proposal
  /** Everything up to it, as one edit. */
  readonly whole: Edit
  /** dB left, as it is heard; of what is not rendered yet, as ranking tells it. */
  readonly db: number
  readonly portrait: Portrait | null
}

export interface FoundStep {
  readonly step: Step
  readonly from: number
  /** dB left with its best row; `from` where none is nearer. */
  readonly to: number
  readonly rows: readonly Row[]
  /** Why there is none. */
  readonly why: string | null
  /** Index of the row that the next step goes on from; null: none was nearer. */
  readonly taken: number | null
}

export interface Way {
  readonly steps: readonly FoundStep[]
  /** dB before anything. */
  readonly from: number
  readonly counts: { readonly blends: number; readonly eqs: number; readonly settings: number }
  readonly gone: readonly string[]
  readonly seconds: number
  /** ms until the first candidates stood there. */
  readonly firstMs: number | null
}

/** Distance of a sound from the recording, bent by taste; null where nothing can be compared. */
export function distanceFrom(sound: Portrait, recording: Portrait, aim: Aim) {
  const bent = recording.bands.db.map((db, k) => (db === null ? null : db + bentDb(aim.tastes, THIRD_OCTAVES[k])))
  return distanceOf(sound.bands.db, bent, aim.trusted)
}

/** Files and simulated microphones that are paired. */
const FILES = 26
const MICS = 32
const DESIGNS = 2
/** Rows of a step, and first ones that are shown before anything is rendered. */
const ROWS = 4
const FIRST_ROWS = 10
/** dB that a step must win to be gone on from. */
const WORTH_DB = 0.05
/** Crest below which a recording says nothing of an amp’s, dB. */
const SQUASHED_DB = 9
const WORKERS = 2

export interface Of {
  readonly preset: Preset
  readonly snapshot: string
  readonly report: ReferenceReport
  readonly recording: Portrait
  readonly now: Portrait
  readonly wanted: Wanted
  readonly files: readonly ResponseAsset[]
  /** Files of the library as it is by then, by hash: one may be taken off it meanwhile. */
  filesNow(): Promise<ReadonlySet<string>>
}

/**
 * Looks for what brings a snapshot nearer to a recording, step by step; each goes on from the best of the one before.
 * @param show hears of what is found while it is found
 * @throws Cancelled when the errand ends
 */
export async function findWay(of: Of, errand: Errand, show: (way: Way, doing: string, share: number) => void): Promise<Way> {
  const { snapshot, report, recording, wanted, files } = of
  const { aim } = wanted
  const startedAt = performance.now()
  const from = distanceFrom(of.now, recording, aim)?.db
  if (from === undefined)
    throw new Error('Nothing of this snapshot and the recording can be compared: one of them has too little in the trusted range.')
  let way: Way = { steps: [], from, counts: { blends: 0, eqs: 0, settings: 0 }, gone: [], seconds: 0, firstMs: null }
  let current = of.preset
  let left = from
  const chosen: Edit[] = []
  const order = ORDERS[wanted.order]
  const told = (part: Partial<Way>, doing: string, share: number) => {
    way = { ...way, ...part, seconds: (performance.now() - startedAt) / 1_000 }
    show(way, doing, (way.steps.length + share) / order.length)
  }
  const count = (part: Partial<Way['counts']>) => {
    const { blends = 0, eqs = 0, settings = 0 } = part
    way = { ...way, counts: { blends: way.counts.blends + blends, eqs: way.counts.eqs + eqs, settings: way.counts.settings + settings } }
  }
  const wholeOf = (edit: Edit): Edit => ({ type: 'all', edits: [...chosen, edit] })
  const job = (preset: Preset) => renderingOf(preset, snapshot, 'live')
  const heard = async (proposals: readonly Proposal[]): Promise<Row[]> => {
    const rows = await Promise.all(
      proposals.map(async (proposal, home): Promise<Row | null> => {
        const tried = applyEdit(current, proposal.edit)
        const portrait = await errand.run(renderers, { task: 'portrait', args: [job(tried), soundView(aim.view)], key: null, home })
        const distance = portrait && distanceFrom(portrait, recording, aim)
        return portrait && distance ? { proposal, whole: wholeOf(proposal.edit), db: distance.db, portrait } : null
      }),
    )
    return rows.filter((r) => r !== null)
  }

  const cabinet = async (): Promise<readonly Proposal[] | string> => {
    const stage = heardOf(current, snapshot, 'cabinet') ?? anyOf(current, 'cabinet')
    if (!stage) return 'There is no cabinet in this preset whose response could be another one.'
    const own: MicBench = resolveStage(current, stage, snapshot).bench ?? createBench()
    told({}, 'Listening in front of the cabinet', 0.02)
    const bare: Bare = await errand.run(renderers, { task: 'bare', args: [job(current), stage.id, aim], key: null })
    const proposalOf = (bench: MicBench, id: string, name: string, detail: string, kind: string): Proposal => ({
      id,
      step: 'cabinet',
      name,
      detail,
      kind,
      edit: cabinetEdit(stage.id, snapshot, bench),
    })
    const alone = (source: Source, k: number): Proposal => aloneProposal(stage.id, snapshot, own, source, k)
    const near = nearestFiles(files, bare.bands, recording.bands.db, aim.trusted, aim.tastes)
    const fileSource = (index: number): Source => ({ kind: 'file', file: files[index].hash, name: files[index].name })
    const firstRows = (found: readonly Judged[]): Row[] =>
      found.slice(0, FIRST_ROWS).map(({ source, db }, k) => {
        const proposal = alone(source, k)
        return { proposal, whole: wholeOf(proposal.edit), db, portrait: null }
      })
    const known: Judged[] = near.slice(0, FIRST_ROWS).map(({ index, db }) => ({ source: fileSource(index), db }))
    const showFirst = (found: readonly Judged[], doing: string, share: number) =>
      told(
        { steps: [...done, { step: 'cabinet', from: left, to: left, rows: firstRows(found), why: null, taken: null }] },
        doing,
        share - 1,
      )
    const done = way.steps
    if (known.length > 0) {
      way = { ...way, firstMs: performance.now() - startedAt }
      showFirst(known, 'Trying loudspeakers', 0.1)
    }
    const spread = async (sources: readonly Source[]): Promise<Judged[]> => {
      const parts = await Promise.all(
        Array.from({ length: WORKERS }, (_, home) =>
          errand.run(renderers, {
            task: 'alone',
            args: [aim, bare, sources.filter((_, k) => k % WORKERS === home)],
            key: null,
            home,
          }),
        ),
      )
      return parts.flat().sort((a, b) => a.db - b.db)
    }
    const mic =
      (cab: MicBench['cab']) =>
      (place: (typeof PLACES)[number]): Source => ({ kind: 'mic', cab, place })
    const designs = designsFor(own.cab)
    const first = await spread(designs.flatMap((cab) => FIRST_PLACES.map(mic(cab))))
    count({ blends: first.length })
    way = { ...way, firstMs: way.firstMs ?? performance.now() - startedAt }
    showFirst(
      [...known, ...first].sort((a, b) => a.db - b.db),
      'Moving microphones',
      0.25,
    )
    const nearest = [...new Set(first.flatMap(({ source }) => (source.kind === 'mic' ? [JSON.stringify(source.cab)] : [])))]
      .slice(0, DESIGNS)
      .map((text) => JSON.parse(text) as MicBench['cab'])
    const rows: { proposal: Proposal; db: number; kind: string; files: readonly FileSource[] }[] = []
    const paired = near.slice(0, FILES).map(({ index }) => fileSource(index))
    for (const [k, cab] of nearest.entries()) {
      const placed = await spread(PLACES.map(mic(cab)))
      const around = placed.slice(0, 2).flatMap(({ source }) => (source.kind === 'mic' ? placesAround(source.place).map(mic(cab)) : []))
      const finer = [...placed, ...(await spread(around))].sort((a, b) => a.db - b.db)
      count({ blends: PLACES.length + around.length })
      told({}, `Blending pairs before the ${designWords(cab)}`, -0.6 + 0.3 * k)
      const sources = [...paired, ...pickedMics(finer)]
      const shares: Pairs[] = await Promise.all(
        Array.from({ length: WORKERS }, (_, home) =>
          errand.run(renderers, { task: 'pairs', args: [aim, bare, sources, [home, WORKERS], 24], key: null, home }),
        ),
      )
      const gone = shares.flatMap((s) => s.gone)
      count({ blends: shares.reduce((sum, s) => sum + s.blends, 0) })
      way = { ...way, gone: [...new Set([...way.gone, ...gone])] }
      const ranked: Ranked[] = sources.map((source, i) => ({ source, onsetUs: shares[0].onsetUs[i], gainDb: shares[0].gainDb[i] }))
      for (const blend of shares.flatMap((s) => s.best)) {
        if (blend.second === null || !together(ranked[blend.first].source, ranked[blend.second].source)) continue
        rows.push({
          proposal: proposalOf(
            benchFor(blend, ranked, own),
            `pair ${k} ${blend.first} ${blend.second}`,
            sourceWords(ranked[blend.first].source),
            `with ${sourceWords(ranked[blend.second].source)}, ${blendWords(blend)}; ${designWords(cab)}`,
            'pair',
          ),
          db: blend.db,
          kind: kindOf(ranked[blend.first].source, ranked[blend.second].source),
          files: filesIn(ranked[blend.first].source, ranked[blend.second].source),
        })
      }
      const best = finer.at(0)
      if (best)
        rows.push({
          proposal: alone(best.source, 100 + k),
          db: best.db,
          kind: `one ${kindOf(best.source, null)}`,
          files: filesIn(best.source),
        })
    }
    const file = known.at(0)
    if (file && !way.gone.includes(sourceWords(file.source)))
      rows.push({ proposal: alone(file.source, 99), db: file.db, kind: 'one file', files: filesIn(file.source) })
    const there = await of.filesNow()
    const still = rows.filter(({ files }) => files.every((f) => there.has(f.file)))
    const off = rows.flatMap(({ files }) => files.filter((f) => !there.has(f.file)).map((f) => f.name))
    way = { ...way, gone: [...new Set([...way.gone, ...off])] }
    return ofManyKinds(still)
  }

  const equaliser = async (): Promise<readonly Proposal[] | string> => {
    const { bands, cutOnly, mostDb, mostQ, place } = wanted.eq
    const broad: EqLimits = { ...CREATIVE, bands, cutOnly, mostDb, q: [CREATIVE.q[0], Math.min(mostQ, CREATIVE.q[1])] }
    const narrow: EqLimits = { ...CORRECTIVE, bands: Math.min(3, bands), mostDb, q: [CORRECTIVE.q[0], Math.max(CORRECTIVE.q[0], mostQ)] }
    const other: EqPlace = place === 'before the amp' ? 'behind the cabinet' : 'before the amp'
    const tries: readonly (readonly [EqLimits, EqPlace, string])[] = [
      [broad, place, 'broad'],
      ...(bands > 1 ? [[{ ...broad, bands: bands - 1 }, place, 'broad'] as const] : []),
      [narrow, place, 'narrow cuts, corrective'],
      [broad, other, 'broad'],
    ]
    const found = await Promise.all(
      tries.map(([limits], home) =>
        errand.run(renderers, {
          task: 'equaliser',
          args: [job(current), aim, limits],
          key: `${JSON.stringify(limits)} ${JSON.stringify(chosen)} ${JSON.stringify(aim)}`,
          home,
        }),
      ),
    )
    count({ eqs: found.length })
    return found.flatMap(({ bands: own }, k): Proposal[] => {
      if (own.length === 0) return []
      const [, at, kind] = tries[k]
      const edit = eqEdit(current, snapshot, own, at, [newId(), newId()])
      if (!edit) return []
      return [
        {
          id: `eq ${k}`,
          step: 'eq',
          name: `${own.length === 1 ? 'One band' : `${['', 'One', 'Two', 'Three', 'Four', 'Five'][own.length]} bands`} ${at}`,
          detail: `${bandWords(own)}; ${kind}`,
          kind: `${kind} ${at}`,
          edit,
        },
      ]
    })
  }

  const amp = async (): Promise<readonly Proposal[] | string> => {
    const own = heardOf(current, snapshot, 'amp') ?? anyOf(current, 'amp')
    const drive = heardOf(current, snapshot, 'drive') ?? anyOf(current, 'drive')
    const aimed: Aimed = { crestDb: recording.crestDb < SQUASHED_DB ? null : recording.crestDb, densityDb: recording.densityDb }
    const places: (readonly ['amp' | 'drive', Where])[] = [
      ...(own ? [['amp', { stage: own }] as const] : []),
      ...(drive ? [['drive', { stage: drive }] as const] : []),
    ]
    if (!drive) {
      const free = beforeAmp(current, own, newId())
      if (free) places.push(['drive', free])
    }
    if (places.length === 0) return 'There is neither an amp nor a drive in this preset.'
    const rows: Proposal[] = []
    for (const [k, [family, where]] of places.entries()) {
      const models = modelsOf(family)
      const tried = Array.from({ length: WORKERS }, () => 0)
      const parts = await Promise.all(
        tried.map((_, home) =>
          errand.run(renderers, {
            task: 'settings',
            args: [job(current), aim, where, models.filter((_, m) => m % WORKERS === home), aimed],
            key: null,
            home,
            onPart: (n) => {
              tried[home] = n as number
              told(
                {},
                `Trying ${family === 'amp' ? 'amps' : 'drives'}: ${tried.reduce((sum, v) => sum + v, 0)} settings`,
                0.45 * k + 0.4 * Math.min(1, (tried[0] + tried[1]) / 90),
              )
            },
          }),
        ),
      )
      count({ settings: parts.reduce((sum, p) => sum + p.tried, 0) })
      const best = parts.flatMap((p) => p.best).sort((a, b) => a.near - b.near)
      rows.push(...best.slice(0, 2).map((setting, n) => settingProposal(current, snapshot, where, setting, family, n, recording)))
    }
    return rows
  }

  const steps: Record<Step, () => Promise<readonly Proposal[] | string>> = {
    cabinet,
    eq: equaliser,
    amp,
    time: () => Promise.resolve(timeProposals(current, snapshot, report, aim.tastes, [newId(), newId(), newId()])),
  }
  for (const step of order) {
    const before = way.steps
    const found = await steps[step]()
    const proposals = typeof found === 'string' ? [] : found
    // first rows stand in the place of the step's own
    told({}, 'Listening to the best', 0.9 + before.length - way.steps.length)
    const rows = grouped(
      (await heard(proposals)).sort((a, b) => a.db - b.db),
      step,
    )
    // what belongs to time is heard and not counted: it is taken where it takes nothing away
    const best = rows.at(0)
    const worth = best !== undefined && best.db < left - WORTH_DB
    const next: FoundStep = {
      step,
      from: left,
      to: worth ? best.db : left,
      rows,
      why: typeof found === 'string' ? found : rows.length === 0 ? NOTHING[step] : null,
      taken: worth ? 0 : null,
    }
    if (worth) {
      chosen.push(best.proposal.edit)
      current = applyEdit(current, best.proposal.edit)
      left = best.db
    }
    told({ steps: [...before, next] }, '', 0)
  }
  return way
}

/** What stands in a cabinet’s place, alone, as a proposal. */
function aloneProposal(stage: string, snapshot: string, own: MicBench, source: Source, k: number): Proposal {
  const bench = benchFor(
    { first: 0, second: null, levelDb: 0, inverted: false, lateUs: 0, db: 0 },
    [{ source, onsetUs: 0, gainDb: 0 }],
    own,
  )
  return {
    id: `alone ${k}`,
    step: 'cabinet',
    name: `${sourceWords(source)}, alone`,
    detail: source.kind === 'mic' ? designWords(source.cab) : 'of the library',
    kind: source.kind,
    edit: cabinetEdit(stage, snapshot, bench),
  }
}

/** The files of the library that are nearest by their third octaves: there at once, before anything is searched. */
export async function firstCandidates(
  { preset, snapshot, recording, now, wanted: { aim }, files }: Of,
  errand: Errand,
): Promise<Way | null> {
  const startedAt = performance.now()
  const stage = heardOf(preset, snapshot, 'cabinet') ?? anyOf(preset, 'cabinet')
  const from = distanceFrom(now, recording, aim)?.db
  if (!stage || from === undefined || files.length === 0) return null
  const own = resolveStage(preset, stage, snapshot).bench ?? createBench()
  const bare = await errand.run(renderers, {
    task: 'bare',
    args: [renderingOf(preset, snapshot, 'live'), stage.id, aim],
    key: null,
    rank: 'beside',
  })
  const rows = nearestFiles(files, bare.bands, recording.bands.db, aim.trusted, aim.tastes)
    .slice(0, FIRST_ROWS)
    .map(({ index, db }, k): Row => {
      const proposal = aloneProposal(stage.id, snapshot, own, { kind: 'file', file: files[index].hash, name: files[index].name }, k)
      return { proposal, whole: proposal.edit, db, portrait: null }
    })
  const seconds = (performance.now() - startedAt) / 1_000
  const counts = { blends: files.length, eqs: 0, settings: 0 }
  return {
    steps: [{ step: 'cabinet', from, to: from, rows, why: null, taken: null }],
    from,
    counts,
    gone: [],
    seconds,
    firstMs: seconds * 1_000,
  }
}

/** Amps beside amps and drives beside drives, the nearer kind first; what is of no kind stays in its order. */
function grouped(rows: readonly Row[], step: Step): Row[] {
  if (step !== 'amp') return [...rows]
  const kinds = [...new Set(rows.map((r) => r.proposal.kind))]
  return kinds.flatMap((kind) => rows.filter((r) => r.proposal.kind === kind))
}

const NOTHING: Record<Step, string> = {
  cabinet: 'No response was found.',
  eq: 'No band is worth it.',
  amp: 'No setting was found.',
  time: 'Neither echo, doubling nor a room was found in it with any certainty.',
}

/** Microphones that are paired: the nearest, a few of each type, so that pairs are not all of one. */
function pickedMics(found: readonly Judged[]): Source[] {
  const each = new Map<string, number>()
  const picked: Source[] = []
  for (const { source } of found) {
    if (source.kind !== 'mic' || picked.length >= MICS) continue
    const count = each.get(source.place.type) ?? 0
    if (count >= MICS / 4) continue
    each.set(source.place.type, count + 1)
    picked.push(source)
  }
  return picked
}

const kindOf = (a: Source, b: Source | null): string =>
  [a, ...(b ? [b] : [])]
    .map((s) => (s.kind === 'file' ? `file ${s.file}` : s.place.type))
    .sort()
    .join(' with ')

type FileSource = Extract<Source, { kind: 'file' }>
const filesIn = (...sources: readonly Source[]): FileSource[] => sources.filter((s) => s.kind === 'file')

/** Rows of a list that one file, or one type of microphone, may be part of. */
const OFTEN = 2

/** The nearest of each kind, so that the list is one of sounds and not of the same one twelve times. */
function ofManyKinds(rows: readonly { proposal: Proposal; db: number; kind: string }[]): Proposal[] {
  const seen = new Set<string>()
  const used = new Map<string, number>()
  const kept: Proposal[] = []
  for (const { proposal, kind } of [...rows].sort((a, b) => a.db - b.db)) {
    const parts = kind.startsWith('one ') ? [] : kind.split(' with ')
    if (seen.has(kind) || kept.length >= ROWS + 2 || parts.some((part) => (used.get(part) ?? 0) >= OFTEN)) continue
    seen.add(kind)
    for (const part of parts) used.set(part, (used.get(part) ?? 0) + 1)
    kept.push(proposal)
  }
  return kept
}

/** “3.0 dB under it, 690 µs earlier, inverted”: the second of a pair beside the first, both as loud as they are through the sound. */
function blendWords({ levelDb, lateUs, inverted }: Blend): string {
  const level = Math.abs(levelDb) < 0.05 ? 'as loud' : `${figure(Math.abs(levelDb))} dB ${levelDb > 0 ? 'over' : 'under'} it`
  const time = lateUs === 0 ? 'together' : `${Math.abs(lateUs)} µs ${lateUs > 0 ? 'later' : 'earlier'}`
  return `${level}, ${time}${inverted ? ', inverted' : ''}`
}

function settingProposal(
  preset: Preset,
  snapshot: string,
  where: Where,
  setting: Setting,
  family: 'amp' | 'drive',
  n: number,
  recording: Portrait,
): Proposal {
  const { model, look } = setting
  const changes = 'stage' in where && where.stage.model !== model
  return {
    id: `${family} ${n}`,
    step: 'amp',
    name: `${modelOf(model).name}, ${settingWords(setting) || 'as it begins'}`,
    detail: `${family}; crest ${figure(look.crestDb)}, recording ${figure(recording.crestDb)} dB; density ${figure(look.densityDb)}, recording ${figure(recording.densityDb)} dB`,
    kind: family,
    edit: settingEdit(preset, snapshot, where, setting),
    ...(changes && preset.snapshots.length > 1 ? { warning: 'another model stands in every snapshot' } : {}),
  }
}
