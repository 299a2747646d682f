import { describe, expect, it } from 'vitest'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { checkPreset, sparing } from '@fulgor/core/checks'
import { demoPresets } from '@fulgor/core/demo'
import { effectOf, layOut, midiList, reachOf } from '@fulgor/core/board'
import { controlPlan } from '@fulgor/core/render'
import {
  BOARD_PAGES,
  CAPACITIES,
  capacityOf,
  commit,
  copyStages,
  CONTROL_KINDS,
  createControl,
  createHistory,
  createLayer,
  createSwitch,
  CURVE_SHAPES,
  DEFAULT_MIDI,
  DEFAULT_SCALE,
  EMPTY_BOARD,
  freshBlock,
  functionsOf,
  LANE_MODEL,
  partsOf,
  POSITION,
  readPreset,
  readyMoveEdit,
  readyMoves,
  resolveStage,
  resolveValues,
  ROLES,
  splitsOf,
  stagesOf,
  undo,
  type ControlTarget,
  type Edit,
  type Preset,
  type SwitchFunction,
} from '.'

/** Random numbers that are the same at every run. */
function dice(seed: number) {
  let state = seed * 2_654_435_761 || 1
  const below = (n: number): number => {
    state = (state * 48_271) % 2_147_483_647
    return Math.abs(state) % n
  }
  return {
    below,
    of: <T>(list: readonly T[]): T | undefined => list.at(list.length === 0 ? 0 : below(list.length)),
    yes: () => below(2) === 0,
  }
}
type Dice = ReturnType<typeof dice>

function anyFunction(preset: Preset, roll: Dice): SwitchFunction | null {
  const control = roll.of(preset.controls ?? [])
  const stages = [...new Set([roll.of(partsOf(preset.chain))?.id, roll.of(partsOf(preset.chain))?.id])].filter((id) => id !== undefined)
  return (
    roll.of<SwitchFunction | null>([
      { do: 'snapshot', snapshot: (roll.of(preset.snapshots) ?? preset.snapshots[0]).id },
      stages.length > 0 ? { do: 'stages', stages, how: roll.yes() ? 'each' : 'together' } : null,
      control ? { do: 'source', control: control.id } : null,
      control ? { do: 'pedals', controls: [control.id] } : null,
      { do: 'tap' },
      { do: 'tuner' },
      { do: 'page' },
      { do: 'bank', by: roll.yes() ? 1 : -1 },
      { do: 'preset', by: 1 },
    ]) ?? null
  )
}

function anyTarget(preset: Preset, roll: Dice, id: string): ControlTarget | null {
  const macro = roll.of((preset.controls ?? []).filter((c) => c.kind === 'macro'))
  const part = roll.of(partsOf(preset.chain))
  const shape = roll.of(CURVE_SHAPES) ?? 'linear'
  const curve = {
    shape,
    heel: roll.below(5) / 20,
    toe: roll.below(5) / 20,
    ...(shape === 'points'
      ? {
          points: [
            [0, 0],
            [0.4, 1],
            [1, 0.2],
          ] as const,
        }
      : {}),
  }
  const snapshots = roll.yes() ? null : preset.snapshots.filter(() => roll.yes()).map((s) => s.id)
  if (macro && roll.below(4) === 0) return { id, stage: macro.id, param: POSITION, from: 0, to: 1, curve, snapshots }
  if (!part) return null
  if (roll.below(5) === 0) return { id, stage: part.id, param: 'on', from: 0, to: 1, curve, snapshots }
  const found = roll.of(Object.entries(modelOf(part.model).params).filter(([key]) => key !== 'response' && key !== 'into'))
  if (!found) return null
  const [param, spec] = found
  const [from, to] = spec.kind === 'number' ? [spec.min, spec.max] : [spec.options[0].value, spec.options[spec.options.length - 1].value]
  return { id, stage: part.id, param, from, to, curve, snapshots }
}

/** Some edit that the page could make of this preset; null where there is nothing for it. */
function anyEdit(preset: Preset, roll: Dice, newId: () => string): Edit | null {
  const snapshot = roll.of(preset.snapshots) ?? preset.snapshots[0]
  const stages = stagesOf(preset.chain)
  const stage = roll.of(stages)
  const part = roll.of(partsOf(preset.chain))
  const control = roll.of(preset.controls ?? [])
  const target = control && roll.of(control.targets)
  const own = roll.of(preset.board?.switches ?? [])
  const layer = roll.of(preset.layers ?? [])
  const place = { page: roll.of(BOARD_PAGES) ?? 'singles', bank: roll.below(3), index: roll.below(12) }
  const free = !(preset.board?.switches ?? []).some((s) => s.page === place.page && s.bank === place.bank && s.index === place.index)
  const made = anyTarget(preset, roll, newId())
  const kind = roll.of(CONTROL_KINDS) ?? 'pedal'
  const model = roll.of(catalogue.filter((m) => m.id !== LANE_MODEL))?.id ?? 'output'
  const lane = roll.of([null, ...splitsOf(preset.chain).flatMap((s) => s.lanes.map((l) => l.id))]) ?? null
  const move = roll.of(readyMoves)
  const kinds: readonly (() => Edit | null | undefined)[] = [
    () => ({ type: 'addStage', stage: newId(), model, lane, index: roll.below(6) }),
    () => stage && { type: 'removeStage', stage: stage.id },
    () => stage && { type: 'moveStage', stage: stage.id, lane: null, index: roll.below(8) },
    () => {
      const several = partsOf(preset.chain)
        .filter(() => roll.yes())
        .map((p) => p.id)
      if (roll.yes()) return { type: 'removeStages', stages: several.slice(0, 2) }
      const { nodes, cells } = freshBlock(copyStages(preset, several), newId)
      return { type: 'insertNodes', nodes, cells, lane, index: roll.below(4) }
    },
    () => stage && { type: 'split', stage: stage.id, split: newId(), lanes: [newId(), newId()] },
    () => (lane === null ? null : { type: 'removeLane', lane }),
    () => part && { type: 'setOn', stage: part.id, snapshot: roll.yes() ? snapshot.id : null, on: roll.yes() },
    () => ({ type: 'addSnapshot', snapshot: newId(), name: 'New' }),
    () => ({ type: 'duplicateSnapshot', source: snapshot.id, snapshot: newId(), name: 'Copy' }),
    () => ({ type: 'removeSnapshot', snapshot: snapshot.id }),
    () => ({ type: 'moveSnapshot', snapshot: snapshot.id, index: roll.below(8) }),
    () => ({ type: 'setPlan', snapshot: snapshot.id, plan: { role: roll.of(ROLES) ?? null, tempo: roll.yes() ? 77 : null } }),
    () => ({ type: 'addControl', control: createControl(newId(), kind, kind) }),
    () => control && { type: 'removeControl', control: control.id },
    () =>
      control && {
        type: 'changeControl',
        control: control.id,
        change: {
          rest: roll.below(5) / 4,
          onSnapshot: roll.of(['jump', 'pickup', 'keep'] as const) ?? 'jump',
          midi: roll.yes() ? { type: 'cc', channel: roll.below(17), number: roll.below(128) } : null,
        },
      },
    () => (control && made ? { type: 'addTarget', control: control.id, target: made } : null),
    () => (control && target ? { type: 'removeTarget', control: control.id, target: target.id } : null),
    () => (control && target ? { type: 'changeTarget', control: control.id, target: target.id, change: { snapshots: null } } : null),
    () => (free ? { type: 'addSwitch', own: { ...createSwitch(newId(), place), press: anyFunction(preset, roll) } } : null),
    () =>
      own && {
        type: 'changeSwitch',
        id: own.id,
        change: { hold: anyFunction(preset, roll), double: anyFunction(preset, roll), both: anyFunction(preset, roll), label: roll.yes() ? 'Mine' : '' },
      },
    () => own && { type: 'moveSwitch', id: own.id, to: place },
    () => own && { type: 'removeSwitch', id: own.id },
    () => ({ type: 'setBoard', board: layOut(preset, capacityOf(preset.device), preset.board ?? EMPTY_BOARD, newId) }),
    () => ({ type: 'changeBoard', change: { start: place.page, holdMs: 150 + roll.below(500) } }),
    () => ({ type: 'setDevice', device: { ...DEFAULT_SCALE, capacity: roll.of(CAPACITIES)?.capacity ?? CAPACITIES[0].capacity } }),
    () => ({
      type: 'setMidiPlan',
      plan: {
        ...DEFAULT_MIDI,
        channel: 1 + roll.below(16),
        snapshots: { by: roll.yes() ? 'program' : 'controller', controller: roll.below(120), first: roll.below(121) },
      },
    }),
    () => ({ type: 'addLayer', layer: createLayer(newId(), null, snapshot.id, preset.riff) }),
    () => layer && { type: 'removeLayer', layer: layer.id },
    () => (part && modelOf(part.model).params.level ? { type: 'setTrim', stage: part.id } : null),
    () => {
      if (!move) return null
      try {
        return readyMoveEdit(move, { preset, snapshot: snapshot.id, newId }, control ?? null).edit
      } catch (error) {
        if (error instanceof RangeError) return null
        throw error
      }
    },
  ]
  // sources and what they move are rare otherwise
  if (roll.below(3) === 0)
    return control && made
      ? { type: 'addTarget', control: control.id, target: made }
      : { type: 'addControl', control: createControl(newId(), kind, kind) }
  return roll.of(kinds)?.() ?? null
}

/** Everything that reads a preset must be able to read this one. */
function readByAll(preset: Preset): void {
  expect(readPreset(JSON.parse(JSON.stringify(preset)))).toEqual(JSON.parse(JSON.stringify(preset)))
  let n = 0
  const findings = checkPreset(preset, () => `check${++n}`)
  for (const { mends } of findings) for (const { edits } of mends) commit(createHistory(preset), { type: 'all', edits }, 0)
  const positions = Object.fromEntries((preset.controls ?? []).map((c, i) => [c.id, (i % 5) / 4]))
  for (const { id } of preset.snapshots) {
    const values = resolveValues(preset, id, positions)
    for (const part of partsOf(preset.chain))
      for (const [key, spec] of Object.entries(modelOf(part.model).params)) {
        const value = values[part.id].params[key]
        if (spec.kind === 'number')
          expect(Number(value) >= spec.min - 1e-9 && Number(value) <= spec.max + 1e-9, `${part.model} ${key}`).toBe(true)
      }
    const base = Object.fromEntries(partsOf(preset.chain).map((s) => [s.id, resolveStage(preset, s, id)]))
    controlPlan(preset, id, 120, base, positions)
    for (const own of preset.board?.switches ?? [])
      for (const { fn } of functionsOf(own)) expect(effectOf(preset, fn, id).words).not.toContain('gone')
  }
  reachOf(preset.board ?? EMPTY_BOARD, capacityOf(preset.device))
  expect(midiList(preset).some((row) => row.name.includes('gone'))).toBe(false)
}

/** No mend that is offered makes something else go wrong. */
function mendsSpare(preset: Preset): void {
  let n = 0
  const newId = () => `spare${++n}`
  const wrong = (of: Preset) => checkPreset(of, newId).flatMap((f) => (f.severity === 'warning' ? [f.rule] : []))
  const before = wrong(preset)
  for (const { rule, mends } of sparing(preset, checkPreset(preset, newId), newId).slice(0, 12))
    for (const { label, edits } of mends)
      for (const other of wrong(commit(createHistory(preset), { type: 'all', edits }, 0).present))
        expect(before, `${rule}, ${label}`).toContain(other)
}

describe('any edits in any order', () => {
  it.each(Array.from({ length: 24 }, (_, i) => i + 1))('keep the preset whole, and are undone to the start (walk %i)', (seed) => {
    const roll = dice(seed)
    let n = 0
    const newId = () => `w${seed}-${++n}`
    const start = demoPresets[seed % demoPresets.length].preset
    let history = createHistory(start)
    for (let step = 0; step < 110; step++) {
      const edit = anyEdit(history.present, roll, newId)
      if (!edit) continue
      try {
        history = commit(history, edit, step * 10_000)
      } catch (error) {
        // what cannot be done says so in a sentence, and changes nothing
        if (!(error instanceof RangeError)) throw error
        expect(error.message).toMatch(/^[A-Z].*\.$/)
      }
      if (step % 7 === 0) readByAll(history.present)
    }
    readByAll(history.present)
    mendsSpare(history.present)
    while (history.past.length > 0) history = undo(history)
    expect(history.present).toBe(start)
  })
})
