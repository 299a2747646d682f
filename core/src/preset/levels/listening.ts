import { clips, modelOf } from '@fulgor/core/catalogue'
import { partsOf, stripOf } from '../chain/chain'
import { stagesOf, type ChainNode, type StageNode } from '../chain/description'
import { pathTo, rowsOf } from '../chain/routing'
import type { Preset } from '../preset'
import { resolveStage, tempoOf, type ResolvedStage } from '../snapshots/resolve'

type Values = Readonly<Record<string, ResolvedStage>>

/** Families that are judged apart from the dry sound. */
const isEffect = (model: string): boolean => modelOf(model).wet === true

/**
 * The values with all modulation, delay and reverb silent: their mix at zero, so that no trail is heard either; a lane that holds
 * nothing else is muted, because its dry sound is not meant to pass.
 */
export function judgedDry(chain: readonly ChainNode[], values: Values): Values {
  const next: Record<string, ResolvedStage> = { ...values }
  for (const { id, model } of partsOf(chain)) {
    if (!isEffect(model)) continue
    const { params } = values[id]
    next[id] = { on: false, params: 'mix' in params ? { ...params, mix: 0 } : params }
  }
  for (const row of rowsOf(chain)) {
    if (row.kind !== 'lane') continue
    const stages = stagesOf(row.lane.nodes)
    if (stages.length > 0 && stages.every((s) => isEffect(s.model))) next[row.id] = { ...values[row.id], on: false }
  }
  return next
}

/** The values with one stage switched over. */
export const withStage = (values: Values, id: string, on: boolean): Values => ({ ...values, [id]: { ...values[id], on } })

/** The values with one stage switched over and turned by so many dB where it stands, whether it is heard then or passed by. */
export function withStageMatched(values: Values, id: string, db: number): Values {
  const { on, params } = values[id]
  return { ...values, [id]: on ? { on: false, params, passDb: db } : { on: true, params: { ...params, level: Number(params.level) + db } } }
}

/** Stages that are on in a snapshot and stand in no muted lane, in their order. */
export const heardStages = (preset: Preset, snapshot: string, nodes: readonly ChainNode[] = preset.chain): StageNode[] =>
  nodes.flatMap((node) =>
    node.kind === 'stage'
      ? resolveStage(preset, node, snapshot).on
        ? [node]
        : []
      : node.lanes.flatMap((lane) => (resolveStage(preset, stripOf(lane), snapshot).on ? heardStages(preset, snapshot, lane.nodes) : [])),
  )

/** Drives and amps that are heard in a snapshot and distort, in their order. */
export const clippingStages = (preset: Preset, snapshot: string): StageNode[] =>
  heardStages(preset, snapshot).filter((s) => clips(modelOf(s.model)))

/** The first stage that clips behind another: it evens out what that one does to the level. */
export const clippingBehind = (preset: Preset, snapshot: string, stage: string): StageNode | undefined =>
  clippingStages(preset, snapshot).find((s) => s.id !== stage && partsOf(pathTo(preset.chain, s.id)).some(({ id }) => id === stage))

/** The values with stages switched over by foot. */
export const withToggled = (values: Values, toggled: Readonly<Record<string, boolean>>): Values =>
  Object.entries(toggled).reduce((now, [id, on]) => (id in now ? withStage(now, id, on) : now), values)

/** A preset that holds just these values, in one snapshot: for measuring what no snapshot of the preset says. */
export function frozen(preset: Preset, snapshot: string, values: Values): Preset {
  const freeze = (nodes: readonly ChainNode[]): readonly ChainNode[] =>
    nodes.map((node) => {
      if (node.kind === 'stage') return { ...node, ...values[node.id] }
      return { ...node, lanes: node.lanes.map((lane) => ({ ...lane, ...values[lane.id], nodes: freeze(lane.nodes) })) }
    })
  return {
    ...preset,
    tempo: tempoOf(preset, snapshot),
    chain: freeze(preset.chain),
    snapshots: [{ id: snapshot, name: snapshot, stages: {} }],
  }
}
