import { modelOf } from '@fulgor/core/catalogue'
import { applyEdit, frozen, partsOf, resolveValues, riffOf, type Edit, type Preset, type StageNode } from '@fulgor/core/preset'

/** Something that is heard in the place of the lit snapshot, on the same take. */
export interface Candidate {
  readonly id: string
  readonly name: string
  readonly kind: 'stage' | 'snapshot' | 'preset'
  /** The preset that plays it, in the lit snapshot. */
  readonly variant: Preset
  /** What puts it in; `gainDb` makes it as loud as what was there. */
  putIn(gainDb: number): Edit
}

/** Riff and hand of the open preset: every candidate hears the same take. */
const onThisTake = (of: Preset, preset: Preset, lit: string): Preset => ({
  ...of,
  riff: riffOf(preset, lit),
  guitars: preset.guitars,
  hand: { ...preset.hand, ...preset.snapshots.find((s) => s.id === lit)?.hand },
  madeOn: preset.madeOn,
})

/** Another model in the place of a stage. It stands in every snapshot once it is put in. */
export function modelCandidate(preset: Preset, stage: StageNode, model: string): Candidate {
  const edit = (gainDb: number): Edit => ({ type: 'changeModel', stage: stage.id, model, gainDb })
  return {
    id: `stage ${stage.id} ${model}`,
    name: modelOf(model).name,
    kind: 'stage',
    variant: stage.model === model ? preset : applyEdit(preset, edit(0)),
    putIn: edit,
  }
}

/** What another snapshot of the preset plays. Put in, the lit one takes all its values. */
export function snapshotCandidate(preset: Preset, lit: string, other: string): Candidate {
  const name = preset.snapshots.find((s) => s.id === other)?.name ?? other
  const still = frozen(preset, other, resolveValues(preset, other))
  const variant = onThisTake({ ...still, tempo: preset.tempo, snapshots: [{ id: lit, name, stages: {} }] }, preset, lit)
  return {
    id: `snapshot ${other}`,
    name,
    kind: 'snapshot',
    variant,
    putIn: () => ({ type: 'fillCells', stages: partsOf(preset.chain).map((p) => p.id), from: other, to: [lit] }),
  }
}

/** What another preset plays, in its first snapshot. Put in, its chain and snapshots stand in this one; name, guitars and riff stay. */
export function presetCandidate(preset: Preset, lit: string, id: string, other: Preset): Candidate {
  const first = other.snapshots[0]
  const still = frozen(other, first.id, resolveValues(other, first.id))
  const variant = onThisTake({ ...still, tempo: preset.tempo, snapshots: [{ id: lit, name: first.name, stages: {} }] }, preset, lit)
  const { chain, snapshots, controls, board, midiPlan } = other
  const { controls: _c, board: _b, midiPlan: _m, layers: _l, trim: _t, ...own } = preset
  return {
    id: `preset ${id}`,
    name: `${other.name}, ${first.name}`,
    kind: 'preset',
    variant,
    putIn: () => ({
      type: 'replace',
      preset: {
        ...own,
        chain,
        // a snapshot's own hand is one of guitars that are not here
        snapshots: snapshots.map(({ hand: _h, takes: _k, ...s }) => s),
        ...(controls ? { controls } : {}),
        ...(board ? { board } : {}),
        ...(midiPlan ? { midiPlan } : {}),
      },
    }),
  }
}
