import { functionLabel, usableFunctions } from '@fulgor/core/board'
import { modelOf } from '@fulgor/core/catalogue'
import { capacityOf, EMPTY_BOARD, hasRoom, partName, processingOf, resolveStage, stagesOf, type DeviceCapacity } from '@fulgor/core/preset'
import { placeWords } from './layout'
import type { OwnSnapshot } from './propose'
import { isOnIn } from './propose'
import type { Plan, ShownPreset } from './presses'

/** How often a night uses something of a preset. */
export interface Usage {
  readonly preset: string
  readonly kind: 'snapshot' | 'stage' | 'source' | 'switch' | 'response'
  readonly id: string
  readonly name: string
  readonly times: number
  /** What it takes up, in words. */
  readonly costs: string
  /** It could give way: what belongs on every board, as tuner and tap, does not. */
  readonly frees: boolean
}

const times = (n: number): string => (n === 0 ? 'never' : n === 1 ? 'once' : `${n} times`)

/**
 * What a night uses of its presets, and how often: every snapshot, stage, source, switch and response, least used first.
 */
export function auditOf(plan: Plan, presets: readonly ShownPreset[], capacity?: DeviceCapacity): Usage[] {
  return presets.flatMap(({ id, preset }) => {
    const here = plan.changes.filter((c) => c.change.wanted.preset === id)
    if (here.length === 0) return []
    const size = capacity ?? capacityOf(preset.device)
    const board = preset.board ?? EMPTY_BOARD
    const sounds = here.filter((c) => c.change.does !== 'tap').map((c) => c.change.wanted)
    const moves = [...new Set(here.map((c) => c.change.part))].flatMap((p) => p.moves)
    const of = (kind: Usage['kind'], key: string, name: string, n: number, costs: string, frees = true): Usage => ({
      preset: id,
      kind,
      id: key,
      name,
      times: n,
      costs,
      frees,
    })
    const snapshots = preset.snapshots.map((s) => {
      const n = here.filter((c) => c.change.does === 'sound' && c.change.wanted.snapshot === s.id).length
      return of('snapshot', s.id, s.name, n, `one of ${size.snapshots} snapshots`)
    })
    const stages = stagesOf(preset.chain)
      .filter((s) => !['output', 'trim'].includes(modelOf(s.model).family))
      .map((stage) => {
        const n = sounds.filter((w) => w.on[stage.id] ?? isOnIn(preset, stage.id, w.snapshot)).length
        const moved = (preset.controls ?? []).some((c) => c.targets.some((t) => t.stage === stage.id && t.param === 'on'))
        const percent = processingOf(size, modelOf(stage.model).family)
        const costs = percent === null ? 'one stage of the chain' : `one stage, ${percent} % of the processing`
        return of('stage', stage.id, partName(preset, stage.id), moved ? Math.max(n, 1) : n, costs)
      })
    const sources = (preset.controls ?? []).map((c) => {
      const n = moves.filter((m) => m.do === 'pedal' && m.control === c.id).length
      return of('source', c.id, c.name, n, `one of ${size.sources} sources, ${c.targets.length} of ${size.assignments} targets`)
    })
    const steps = plan.changes.flatMap((c) => c.steps).filter((s) => s.preset === id)
    const switches = board.switches
      .filter((s) => hasRoom(size, s))
      .flatMap((own) =>
        usableFunctions(own, size).map(({ gesture, fn }) => {
          const n = steps.filter(
            (s) => s.gesture === gesture && s.place.page === own.page && s.place.bank === own.bank && s.place.index === own.index,
          ).length
          return of(
            'switch',
            `${own.id} ${gesture}`,
            `${own.label || functionLabel(preset, fn)}, at ${placeWords(own, gesture)}`,
            n,
            'one place of the board',
            ['snapshot', 'stages', 'source', 'pedals'].includes(fn.do),
          )
        }),
      )
    const responses = new Map<string, number>()
    for (const w of sounds)
      for (const stage of stagesOf(preset.chain)) {
        const { params, on } = resolveStage(preset, stage, w.snapshot)
        if (typeof params.response === 'string' && on) responses.set(params.response, (responses.get(params.response) ?? 0) + 1)
      }
    for (const s of preset.snapshots)
      for (const stage of stagesOf(preset.chain)) {
        const { params } = resolveStage(preset, stage, s.id)
        if (typeof params.response === 'string' && !responses.has(params.response)) responses.set(params.response, 0)
      }
    const heard = [...responses].map(([response, n]) => of('response', response, response, n, 'one response to load'))
    return [...snapshots, ...stages, ...sources, ...switches, ...heard].sort((a, b) => a.times - b.times)
  })
}

/** What of it is worth saying, in sentences: what is never used could make room for what is wanted. */
export function auditProposals(usage: readonly Usage[], own: readonly OwnSnapshot[], presets: readonly ShownPreset[]): string[] {
  return presets.flatMap(({ id, preset }) => {
    const idle = (kind: Usage['kind']) => usage.filter((u) => u.preset === id && u.kind === kind && u.times === 0)
    const wanted = own.filter((o) => o.preset === id)
    const [freeSwitch] = idle('switch').filter((u) => u.frees)
    const [freeSnapshot] = idle('snapshot')
    return [
      ...wanted
        .slice(0, 2)
        .flatMap((o) => [
          ...(freeSwitch ? [`Free ${freeSwitch.name} (${times(0)}) for ${o.name}: ${o.times} ${o.times === 1 ? 'use' : 'uses'}.`] : []),
        ]),
      ...(freeSnapshot ? [`${freeSnapshot.name} of ${preset.name} is never played: its snapshot and its switch are free.`] : []),
      ...idle('stage').map((u) => `${u.name} of ${preset.name} is never on: it takes ${u.costs} for nothing.`),
      ...idle('source').map((u) => `Nothing moves ${u.name} of ${preset.name}: ${u.costs}.`),
    ]
  })
}
