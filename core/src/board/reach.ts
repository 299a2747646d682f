import {
  functionsOf,
  hasRoom,
  partsOf,
  resolveStage,
  type Board,
  type BoardPlace,
  type BoardSwitch,
  type DeviceCapacity,
  type Gesture,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'

/** A function where the foot can get at it. */
export interface Reached {
  readonly own: BoardSwitch
  readonly gesture: Gesture
  readonly fn: SwitchFunction
}

export interface Reach {
  /** Faces of the board that can be shown, from the one that a preset begins with. */
  readonly faces: readonly Omit<BoardPlace, 'index'>[]
  readonly functions: readonly Reached[]
}

/** Switches of a row of the board: more than six stand in two rows. */
export const columnsOf = (switches: number): number => (switches > 6 ? Math.ceil(switches / 2) : switches)

/** The switch beside this one, to the right in its row; null at its end. */
export const nextInRow = (index: number, switches: number): number | null =>
  index + 1 < switches && (index + 1) % columnsOf(switches) !== 0 ? index + 1 : null

/** Whether the device knows a gesture of a switch. */
export function isUsable(
  gesture: Gesture,
  { index }: Pick<BoardPlace, 'index'>,
  { switches, hold, double, both }: DeviceCapacity,
): boolean {
  const known = { press: true, hold, double, both: both === true && nextInRow(index, switches) !== null }
  return known[gesture]
}

/** What the foot does with a switch: “3”, “hold 3”, “twice 3”, “3 + 4”. */
export function footWords(gesture: Gesture, { index }: Pick<BoardPlace, 'index'>): string {
  const number = index + 1
  return { press: `${number}`, hold: `hold ${number}`, double: `twice ${number}`, both: `${number} + ${number + 1}` }[gesture]
}

/** What a switch does by the gestures that the device knows. */
export const usableFunctions = (own: BoardSwitch, capacity: DeviceCapacity): { gesture: Gesture; fn: SwitchFunction }[] =>
  functionsOf(own).filter(({ gesture }) => isUsable(gesture, own, capacity))

/** Where a page or bank switch leads from a face; the banks go round. */
export function faceAfter(face: Omit<BoardPlace, 'index'>, fn: SwitchFunction, banks: number): Omit<BoardPlace, 'index'> | null {
  if (fn.do === 'page') return { page: face.page === 'snapshots' ? 'singles' : 'snapshots', bank: face.bank }
  if (fn.do === 'bank') return { page: face.page, bank: (face.bank + fn.by + banks) % banks }
  return null
}

/** Every face and function that a foot can reach, page by page and bank by bank. */
export function reachOf(board: Board, capacity: DeviceCapacity): Reach {
  const faces: Omit<BoardPlace, 'index'>[] = [{ page: board.start, bank: 0 }]
  const functions: Reached[] = []
  for (const face of faces) {
    for (const own of board.switches) {
      if (own.page !== face.page || own.bank !== face.bank || !hasRoom(capacity, own)) continue
      for (const { gesture, fn } of usableFunctions(own, capacity)) {
        functions.push({ own, gesture, fn })
        const next = faceAfter(face, fn, capacity.banks)
        if (next && !faces.some((f) => f.page === next.page && f.bank === next.bank)) faces.push(next)
      }
    }
  }
  return { faces, functions }
}

/** Snapshots that no switch loads. */
export function unreachableSnapshots(preset: Preset, { functions }: Reach): string[] {
  const loaded = new Set(functions.flatMap(({ fn }) => (fn.do === 'snapshot' ? [fn.snapshot] : [])))
  return preset.snapshots.flatMap((s) => (loaded.has(s.id) ? [] : [s.id]))
}

/** Stages and lanes that are off in every snapshot and that neither a switch nor a source turns on: they never sound. */
export function silentStages(preset: Preset, functions: readonly Reached[]): string[] {
  const switched = new Set(functions.flatMap(({ fn }) => (fn.do === 'stages' ? fn.stages : [])))
  const moved = new Set((preset.controls ?? []).flatMap((c) => c.targets.flatMap((t) => (t.param === 'on' ? [t.stage] : []))))
  return partsOf(preset.chain).flatMap((stage) => {
    if (switched.has(stage.id) || moved.has(stage.id)) return []
    return preset.snapshots.some((s) => resolveStage(preset, stage, s.id).on) ? [] : [stage.id]
  })
}
