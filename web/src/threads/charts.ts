import { nanoid } from 'nanoid'
import {
  mergeable,
  netCurve,
  oneEqFor,
  phaseMeter,
  responseMeter,
  wholeCurve,
  type NetPath,
  type NetSection,
  type OneEq,
  type ResponseOf,
} from '@fulgor/core/net'
import { effectiveParams, resolveValues, tempoOf, type Preset, type StageNode } from '@fulgor/core/preset'
import { stageFeel, stageGain, stageResponse, stageTail, type StageFeel } from '@fulgor/core/render'
import type { Task } from '../background/tasks'
import { loadFiles } from './responseFiles'
import { context } from './sounds'

export type ChartData =
  | { kind: 'response'; hz: number[]; db: number[] }
  | ({ kind: 'feel' } & StageFeel)
  | { kind: 'gain'; inputDb: number[]; outputDb: number[] }
  | { kind: 'tail'; ms: number[]; db: number[] }

const RESPONSE_POINTS = 120
const RESPONSE_FRAMES = 8_192

/** Responses that are kept: an edit measures one of them anew. */
const MOST_RESPONSES = 300
const responses = new Map<string, readonly number[]>()

/** Measures a stage once for the same values. */
function keptResponses(sampleRate: number): ResponseOf {
  const measure = responseMeter(context(sampleRate, 'live'), sampleRate)
  return (stage, tempo, part) => {
    const key = JSON.stringify([stage.model, stage.params, part, sampleRate])
    const found = responses.get(key) ?? measure(stage, tempo, part)
    responses.delete(key)
    responses.set(key, found)
    if (responses.size > MOST_RESPONSES) responses.delete(responses.keys().next().value ?? '')
    return found
  }
}

export const chartTasks = {
  /** The sum of everything linear in a snapshot. */
  async net(_task: Task, preset: Preset, snapshot: string, cabinet: boolean, sampleRate: number): Promise<NetPath[]> {
    const values = Object.values(resolveValues(preset, snapshot))
    await loadFiles(values.flatMap(({ params: { response } }) => (typeof response === 'string' ? [response] : [])))
    const [tempo, measure] = [tempoOf(preset, snapshot), keptResponses(sampleRate)]
    const ways = netCurve(preset, snapshot, tempo, cabinet, measure)
    const whole = wholeCurve(preset, snapshot, tempo, cabinet, measure, phaseMeter(context(sampleRate, 'live'), sampleRate))
    return whole ? [...ways, whole] : ways
  },

  /** One equaliser in the place of several, for every row of them in a section. */
  async oneEqs(_task: Task, preset: Preset, snapshot: string, section: NetSection, sampleRate: number): Promise<OneEq[]> {
    const measure = keptResponses(sampleRate)
    return Promise.resolve(
      mergeable(preset, section).map((group) =>
        oneEqFor(preset, snapshot, group, section, measure, tempoOf(preset, snapshot), sampleRate, nanoid),
      ),
    )
  },

  /** What a stage does by itself, measured on its running processor. */
  async chart(_task: Task, kind: ChartData['kind'], stage: StageNode, tempo: number, sampleRate: number): Promise<ChartData> {
    const { response } = effectiveParams(stage, stage.params, tempo)
    if (typeof response === 'string') await loadFiles([response])
    const build = context(sampleRate, 'live')
    if (kind === 'response') {
      const hz = Array.from({ length: RESPONSE_POINTS }, (_, i) => 20 * Math.pow(1000, i / (RESPONSE_POINTS - 1)))
      const { re, im } = stageResponse(stage, hz, build, sampleRate, tempo, RESPONSE_FRAMES)
      return { kind, hz, db: re.map((r, i) => 20 * Math.log10(Math.hypot(r, im[i]) + 1e-9)) }
    }
    if (kind === 'feel') return { kind, ...stageFeel(stage, build, sampleRate, tempo) }
    if (kind === 'gain') return { kind, ...stageGain(stage, build, sampleRate, tempo) }
    const seconds = stage.model.startsWith('reverb') ? Math.min(8, Number(stage.params.decay) * 1.1 + 0.3) : 3
    return { kind, ...stageTail(stage, seconds, seconds * 4, build, sampleRate, tempo) }
  },
}
