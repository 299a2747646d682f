import { modelOf } from '@fulgor/core/catalogue'
import { resolveStage, stripOf, type ChainNode, type Preset, type StageNode } from '@fulgor/core/preset'

/** A way that the signal takes from the guitar to the end: its amps and cabinets that are on, in order. */
export interface SignalPath {
  readonly amps: readonly string[]
  readonly cabinets: readonly string[]
  /** Cabinets after the last amp. */
  readonly after: readonly string[]
}

const START: SignalPath = { amps: [], cabinets: [], after: [] }

/** All ways through a preset in one snapshot that differ in amps or cabinets; muted lanes carry none. */
export function signalPaths(preset: Preset, snapshot: string | null): SignalPath[] {
  const isOn = (stage: StageNode): boolean => resolveStage(preset, stage, snapshot).on
  const walk = (nodes: readonly ChainNode[], paths: readonly SignalPath[]): readonly SignalPath[] =>
    nodes.reduce((now, node) => {
      if (node.kind === 'parallel') return distinct(node.lanes.filter((l) => isOn(stripOf(l))).flatMap((l) => walk(l.nodes, now)))
      return isOn(node) ? now.map((path) => step(path, node)) : now
    }, paths)
  return [...walk(preset.chain, [START])]
}

function step(path: SignalPath, stage: StageNode): SignalPath {
  const { family } = modelOf(stage.model)
  if (family === 'amp') return { ...path, amps: [...path.amps, stage.id], after: [] }
  if (family === 'cabinet') return { ...path, cabinets: [...path.cabinets, stage.id], after: [...path.after, stage.id] }
  return path
}

const distinct = (paths: readonly SignalPath[]): SignalPath[] => [...new Map(paths.map((p) => [JSON.stringify(p), p])).values()]

/** Snapshots in which something holds, as words: all of them, or their names. */
export function snapshotWords(preset: Preset, ids: readonly string[]): string {
  if (ids.length === preset.snapshots.length) return preset.snapshots.length === 1 ? '' : ' in every snapshot'
  return ` in ${preset.snapshots
    .filter((s) => ids.includes(s.id))
    .map((s) => `“${s.name}”`)
    .join(', ')}`
}
