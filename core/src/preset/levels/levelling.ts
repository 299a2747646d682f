import { modelOf, type NumberSpec } from '@fulgor/core/catalogue'
import { findStage, partsOf } from '../chain/chain'
import { LANE_MODEL, stagesOf, type StageNode } from '../chain/description'
import type { Preset } from '../preset'
import type { Snapshot } from '../snapshots/description'
import { findSnapshot } from '../snapshots/snapshots'
import type { RiffChoice, Role } from './description'

/** LU above the target that a role has by itself: a lead stands out by 3 (common practice, no source). */
export const roleOffset = (role: Role | undefined): number => (role === 'lead' ? 3 : 0)

/** LUFS that a snapshot is levelled to. */
export const targetOf = (preset: Preset, { offset, role }: Pick<Snapshot, 'offset' | 'role'>): number =>
  preset.targetLufs + (offset ?? roleOffset(role))

/** What a snapshot is measured and heard on. */
export const riffOf = (preset: Preset, snapshotId: string | null): RiffChoice => findSnapshot(preset, snapshotId)?.riff ?? preset.riff

/** A parameter that can bring a snapshot to its target. */
export interface Trim {
  readonly stage: StageNode
  readonly param: string
  readonly spec: NumberSpec
}

function trimAt(stage: StageNode): Trim | null {
  const { family, params } = modelOf(stage.model)
  const param = family === 'amp' && 'master' in params ? 'master' : stage.model === 'output' || stage.model === LANE_MODEL ? 'level' : null
  const spec = param === null ? undefined : params[param]
  return param !== null && spec?.kind === 'number' ? { stage, param, spec } : null
}

/** Everything that levelling could turn: amps, lanes and Outputs. */
export const trimsOf = (preset: Preset): Trim[] => partsOf(preset.chain).flatMap((stage) => trimAt(stage) ?? [])

/** What levelling turns; null where the chosen one is gone and there is no Output. */
export function trimOf(preset: Preset): Trim | null {
  const chosen = preset.trim === undefined ? undefined : findStage(preset, preset.trim)
  const stage = chosen ?? stagesOf(preset.chain).findLast((s) => s.model === 'output')
  return stage ? trimAt(stage) : null
}

/** True where the trim is the last stage of the chain: then it moves the loudness by just as many dB. */
export const trimsExactly = (preset: Preset, { stage }: Trim): boolean => stage.model === 'output' && preset.chain.at(-1)?.id === stage.id
