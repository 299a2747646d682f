import { partsOf } from '../chain/chain'
import type { Preset } from '../preset'
import { findSnapshot } from '../snapshots/snapshots'
import { GESTURES, type SwitchFunction } from './description'

/** A function without what is no longer in the preset; null where nothing is left of it. */
function known(preset: Preset, fn: SwitchFunction | null): SwitchFunction | null {
  const hasControl = (id: string) => (preset.controls ?? []).some((c) => c.id === id)
  switch (fn?.do) {
    case 'snapshot':
      return findSnapshot(preset, fn.snapshot) ? fn : null
    case 'stages': {
      const there = new Set(partsOf(preset.chain).map((s) => s.id))
      const stages = fn.stages.filter((id) => there.has(id))
      return stages.length === fn.stages.length ? fn : stages.length === 0 ? null : { ...fn, stages }
    }
    case 'source':
      return hasControl(fn.control) ? fn : null
    case 'pedals': {
      const controls = fn.controls.filter(hasControl)
      return controls.length === fn.controls.length ? fn : controls.length === 0 ? null : { ...fn, controls }
    }
    default:
      return fn ?? null
  }
}

/** Forgets what switches did with snapshots, stages and sources that are gone. */
export function forgetFunctions(preset: Preset): Preset {
  const { board } = preset
  if (!board) return preset
  const switches = board.switches.map((own) => {
    const left = GESTURES.map((g) => [g, known(preset, own[g] ?? null)] as const)
    return left.every(([g, fn]) => fn === (own[g] ?? null)) ? own : { ...own, ...Object.fromEntries(left) }
  })
  return switches.every((own, i) => own === board.switches[i]) ? preset : { ...preset, board: { ...board, switches } }
}
