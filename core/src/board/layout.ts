import { modelOf } from '@fulgor/core/catalogue'
import {
  createSwitch,
  partsOf,
  resolveStage,
  type Board,
  type BoardPage,
  type BoardSwitch,
  type DeviceCapacity,
  type Preset,
  type StageNode,
  type SwitchFunction,
} from '@fulgor/core/preset'

/**
 * Stages whose state differs between snapshots first, then those of families that are switched by foot, in the order of the chain; what a source turns on
 * and off is left to it.
 */
function singleStages(preset: Preset): StageNode[] {
  const held = new Set((preset.controls ?? []).flatMap((c) => c.targets.flatMap((t) => (t.param === 'on' ? [t.stage] : []))))
  const parts = partsOf(preset.chain).filter((s) => !held.has(s.id))
  const changes = (stage: StageNode) => new Set(preset.snapshots.map((s) => resolveStage(preset, stage, s.id).on)).size > 1
  const first = parts.filter(changes)
  return [...first, ...parts.filter((s) => !first.includes(s) && modelOf(s.model).byFoot)]
}

/** Functions over the banks of a page: what matters on presses, the others where a switch is left or, held, behind what stands there. */
function spread(
  page: BoardPage,
  main: readonly SwitchFunction[],
  others: readonly SwitchFunction[],
  capacity: DeviceCapacity,
  newId: () => string,
): BoardSwitch[] {
  const { switches, hold } = capacity
  // without a hold the others need switches of their own, but never more than half of them
  const reserved = hold ? 0 : Math.min(others.length, Math.floor(switches / 2))
  const room = switches - reserved
  const banks = Math.min(capacity.banks, Math.max(1, Math.ceil(main.length / room)))
  const round: SwitchFunction[] = banks > 1 ? [{ do: 'bank', by: 1 }] : []
  const extras = [...round, ...others].slice(0, hold ? switches : reserved + Math.max(0, room * banks - main.length))
  return Array.from({ length: banks }, (_, bank) => {
    const here = main.slice(bank * room, (bank + 1) * room)
    const made = Array.from({ length: switches }, (_, index) => ({
      ...createSwitch(newId(), { page, bank, index }),
      press: here.at(index) ?? null,
    }))
    // the others keep to the right, where they are the same in every bank
    extras.forEach((fn, k) => {
      const own = made[switches - 1 - k]
      if (own.press === null) own.press = fn
      else if (hold) own.hold = fn
    })
    return made.filter((own) => own.press !== null || own.hold !== null)
  }).flat()
}

/** A layout for a board of this size: snapshots in their order on one page, stages and switched sources on the other. */
export function layOut(
  preset: Preset,
  capacity: DeviceCapacity,
  timing: Pick<Board, 'start' | 'holdMs' | 'doubleMs'>,
  newId: () => string,
): Board {
  const others: readonly SwitchFunction[] = [{ do: 'page' }, { do: 'tap' }, { do: 'tuner' }]
  const sources = (preset.controls ?? []).filter((c) => c.kind === 'momentary' || c.kind === 'latching')
  const singles: SwitchFunction[] = [
    ...sources.map((c) => ({ do: 'source', control: c.id }) as const),
    ...singleStages(preset).map((s) => ({ do: 'stages', stages: [s.id], how: 'each' }) as const),
  ]
  const snapshots = preset.snapshots.map((s) => ({ do: 'snapshot', snapshot: s.id }) as const)
  return {
    ...timing,
    switches: [...spread('snapshots', snapshots, others, capacity, newId), ...spread('singles', singles, others, capacity, newId)],
  }
}
