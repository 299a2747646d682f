import { clips, modelOf, type BuildContext } from '@fulgor/core/catalogue'
import {
  partName,
  resolveValues,
  stripOf,
  type ChainNode,
  type ParallelNode,
  type Preset,
  type ResolvedStage,
  type StageNode,
} from '@fulgor/core/preset'
import { stageResponse, type StagePart } from '@fulgor/core/render'
import { NET_HZ, type Contributor } from './curve'
import { cascadesOf, fightsOf, type Cascade, type Fight } from './conflicts'

/** Everything linear between two stages that clip. */
export interface NetSection {
  /** The stage that clips before it, and the one after; null at the ends. */
  readonly behind: string | null
  readonly before: string | null
  readonly contributors: readonly Contributor[]
  /** dB at {@link NET_HZ}. */
  readonly sum: readonly number[]
  readonly fights: readonly Fight[]
  readonly cascades: readonly Cascade[]
}

/** One way from the guitar to the output. */
export interface NetPath {
  /** Lanes that it takes; empty where there is one way only. */
  readonly lanes: readonly string[]
  readonly name: string
  readonly sections: readonly NetSection[]
}

/** Ways that are summed at most: lanes in lanes multiply. */
export const MOST_WAYS = 64

/** Families whose stages are heard over time and not as one curve. */
const OVER_TIME = new Set(['modulation', 'delay', 'reverb', 'pitch'])

/** dB of one stage, or of a part of it, at {@link NET_HZ}, measured on its running processor; of a stage that clips, for small signals. */
export type ResponseOf = (stage: StageNode, tempo: number, part?: StagePart) => readonly number[]

/** A response with its phase, at {@link NET_HZ}. */
export interface PhasedResponse {
  readonly re: readonly number[]
  readonly im: readonly number[]
}

/** Measures a stage's response with its phase. */
export const phaseMeter =
  (context: BuildContext, sampleRate: number) =>
  (stage: StageNode, tempo: number, part: StagePart = 'whole'): PhasedResponse =>
    stageResponse(stage, NET_HZ, context, sampleRate, tempo, 16_384, part)

const levelOf = ({ re, im }: PhasedResponse): number[] => re.map((r, i) => 20 * Math.log10(Math.hypot(r, im[i]) + 1e-9))

/** Measures a stage's response. */
export const responseMeter = (context: BuildContext, sampleRate: number): ResponseOf => {
  const phased = phaseMeter(context, sampleRate)
  return (stage, tempo, part) => levelOf(phased(stage, tempo, part))
}

/**
 * The summed response of everything linear in a snapshot, way by way, split at the stages that clip: a cut before distortion is
 * another thing than one after it. A stage that clips is split too: what of it stands before its first clip, and the rest, each levelled to
 * 0 dB where it is loudest between 80 Hz and 8 kHz.
 * @param cabinet whether loudspeakers and microphones count
 */
export function netCurve(preset: Preset, snapshot: string, tempo: number, cabinet: boolean, responseOf: ResponseOf): NetPath[] {
  const values = resolveValues(preset, snapshot)
  const ways = waysOf(preset.chain, values).slice(0, MOST_WAYS)
  return ways.map(({ lanes, stages }) => ({
    lanes,
    name: lanes.map((id) => partName(preset, id)).join(', '),
    sections: sectionsOf(preset, stages, values, tempo, cabinet, responseOf),
  }))
}

/**
 * All lanes summed with their phases, each split as one contributor, by its strips' level, polarity and delay; pans are taken as the middle.
 * @returns null where there is no split, or a lane clips or is heard over time: such lanes do not add up to one curve
 */
export function wholeCurve(
  preset: Preset,
  snapshot: string,
  tempo: number,
  cabinet: boolean,
  responseOf: ResponseOf,
  phasedOf: (stage: StageNode, tempo: number) => PhasedResponse,
): NetPath | null {
  const values = resolveValues(preset, snapshot)
  if (!preset.chain.some((node) => node.kind === 'parallel')) return null
  const sums = new Map<string, number[]>()
  const together = (nodes: readonly ChainNode[]): PhasedResponse | null => {
    let product: PhasedResponse = { re: NET_HZ.map(() => 1), im: NET_HZ.map(() => 0) }
    for (const node of nodes) {
      const part = node.kind === 'parallel' ? lanesOf(node) : alone(node)
      if (part === null) return null
      if (part !== THROUGH) product = times(product, part)
    }
    return product
  }
  const alone = (stage: StageNode): PhasedResponse | typeof THROUGH | null => {
    const { family, linear } = modelOf(stage.model)
    if (!values[stage.id].on || (family === 'cabinet' && !cabinet)) return THROUGH
    return !linear || OVER_TIME.has(family) ? null : phasedOf({ ...stage, ...values[stage.id] }, tempo)
  }
  const lanesOf = (split: ParallelNode): PhasedResponse | null => {
    const sum = { re: NET_HZ.map(() => 0), im: NET_HZ.map(() => 0) }
    for (const lane of split.lanes) {
      const { on, params } = values[lane.id]
      if (!on) continue
      const own = together(lane.nodes)
      if (own === null) return null
      const gain = Math.pow(10, Number(params.level) / 20) * (params.polarity === 'inverted' ? -1 : 1)
      NET_HZ.forEach((hz, k) => {
        const turn = -2 * Math.PI * hz * (Number(params.delay) / 1000)
        const [c, s] = [gain * Math.cos(turn), gain * Math.sin(turn)]
        sum.re[k] += own.re[k] * c - own.im[k] * s
        sum.im[k] += own.re[k] * s + own.im[k] * c
      })
    }
    return sum
  }
  for (const node of preset.chain) {
    if (node.kind !== 'parallel') continue
    const sum = lanesOf(node)
    if (sum === null) return null
    sums.set(node.id, levelOf(sum))
  }
  const row = preset.chain.filter((node) => node.kind === 'parallel' || values[node.id].on)
  return { lanes: [], name: 'all lanes together', sections: sectionsOf(preset, row, values, tempo, cabinet, responseOf, sums) }
}

/** What changes nothing of the curve. */
const THROUGH = Symbol('through')

const times = (a: PhasedResponse, b: PhasedResponse): PhasedResponse => ({
  re: a.re.map((x, k) => x * b.re[k] - a.im[k] * b.im[k]),
  im: a.re.map((x, k) => x * b.im[k] + a.im[k] * b.re[k]),
})

interface Way {
  readonly lanes: readonly string[]
  readonly stages: readonly StageNode[]
}

/** Every way through the chain; muted lanes carry none. */
function waysOf(chain: readonly ChainNode[], values: Readonly<Record<string, ResolvedStage>>): Way[] {
  let ways: Way[] = [{ lanes: [], stages: [] }]
  for (const node of chain) {
    if (node.kind === 'stage') {
      if (values[node.id].on) ways = ways.map((way) => ({ ...way, stages: [...way.stages, node] }))
      continue
    }
    const open = node.lanes.filter((lane) => values[stripOf(lane).id].on)
    // nothing gets by where every lane is muted
    if (open.length === 0) return []
    ways = open.flatMap((lane) =>
      waysOf(lane.nodes, values).flatMap((inner) =>
        ways.map((way) => ({
          lanes: open.length === 1 ? [...way.lanes, ...inner.lanes] : [...way.lanes, lane.id, ...inner.lanes],
          stages: [...way.stages, ...inner.stages],
        })),
      ),
    )
  }
  return ways
}

/** dB between highest and lowest under which a curve counts as flat. */
const FLAT_DB = 0.2

/** Where a guitar sounds, Hz: a part is levelled by what it does there. */
const GUITAR_HZ = [80, 8_000] as const

const levelled = (db: readonly number[]): number[] => {
  const most = Math.max(...db.filter((_, k) => NET_HZ[k] >= GUITAR_HZ[0] && NET_HZ[k] <= GUITAR_HZ[1]))
  return db.map((x) => x - most)
}

function sectionsOf(
  preset: Preset,
  nodes: readonly ChainNode[],
  values: Readonly<Record<string, ResolvedStage>>,
  tempo: number,
  cabinet: boolean,
  responseOf: ResponseOf,
  splits: ReadonlyMap<string, readonly number[]> = new Map(),
): NetSection[] {
  const parts: { behind: string | null; contributors: Contributor[] }[] = [{ behind: null, contributors: [] }]
  for (const node of nodes) {
    if (node.kind === 'parallel') {
      const db = splits.get(node.id)
      const name = node.lanes.map((lane) => partName(preset, lane.id)).join(' + ')
      if (db) parts[parts.length - 1].contributors.push({ stage: node.id, name, family: 'lanes', db })
      continue
    }
    const model = modelOf(node.model)
    const { family, linear } = model
    const distorts = clips(model)
    const name = partName(preset, node.id)
    const add = (db: readonly number[], called = name) => {
      // what is flat adds nothing to look at
      if (Math.max(...db) - Math.min(...db) >= FLAT_DB)
        parts[parts.length - 1].contributors.push({ stage: node.id, name: called, family, db })
    }
    const stage = { ...node, ...values[node.id] }
    if (distorts) {
      const [ahead, whole] = [responseOf(stage, tempo, 'ahead'), responseOf(stage, tempo)]
      add(levelled(ahead), `${name}, before its clip`)
      parts.push({ behind: node.id, contributors: [] })
      add(levelled(whole.map((db, k) => db - ahead[k])))
    } else if (!OVER_TIME.has(family) && linear && (family !== 'cabinet' || cabinet)) add(responseOf(stage, tempo))
  }
  return parts.map(({ behind, contributors }, i) => ({
    behind,
    before: parts[i + 1]?.behind ?? null,
    contributors,
    sum: NET_HZ.map((_, k) => contributors.reduce((sum, c) => sum + c.db[k], 0)),
    fights: fightsOf(contributors),
    cascades: cascadesOf(contributors),
  }))
}
