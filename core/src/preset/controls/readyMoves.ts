import { modelOf } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { stagesOf, type StageNode } from '../chain/description'
import { placeOf } from '../chain/routing'
import type { Edit } from '../edits'
import type { Preset } from '../preset'
import { resolveStage } from '../snapshots/resolve'
import { createControl, createTarget, type Control, type ControlKind, type ControlTarget, type Curve } from './description'

/** An assignment that players make again and again, ready in one step. */
export interface ReadyMove {
  readonly id: string
  readonly name: string
  /** Why it is set up as it is. */
  readonly reason: string
  /** Kinds of source that it is for; the first is made where none is chosen. */
  readonly kinds: readonly ControlKind[]
  /** Targets on the chain, with the stages that it adds; or why it cannot be made. */
  build(of: Bench): Made | string
}

interface Bench {
  readonly preset: Preset
  /** The snapshot whose values it starts from. */
  readonly snapshot: string | null
  readonly newId: () => string
}

interface Made {
  readonly edits?: readonly Edit[]
  readonly targets: readonly ControlTarget[]
  readonly control?: Partial<Pick<Control, 'rest' | 'smoothing' | 'onSnapshot'>>
}

const LATE: Curve = { shape: 'exponential', heel: 0, toe: 0 }
const EARLY: Curve = { shape: 'logarithmic', heel: 0.02, toe: 0 }
const S: Curve = { shape: 's', heel: 0.03, toe: 0.03 }
/** %, share of wet sound of a lead (common practice, no source). */
const LEAD_MIX = 25
/** %, feedback that does not run away (common practice, no source). */
const TAME = 35

const find = (preset: Preset, family: string): StageNode | undefined =>
  stagesOf(preset.chain).find((s) => modelOf(s.model).family === family)
const last = (preset: Preset, test: (s: StageNode) => boolean): StageNode | undefined => stagesOf(preset.chain).findLast(test)

const aim = ({ newId }: Bench, stage: string, param: string, from: ParamValue, to: ParamValue, curve?: Curve): ControlTarget =>
  createTarget(newId(), stage, param, from, to, curve)

/** A value where it stands now. */
const now = ({ preset, snapshot }: Bench, stage: StageNode, param: string): number =>
  Number(resolveStage(preset, stage, snapshot).params[param])

/** A stage of a model that is added just before another one, or at the very start. */
function added(bench: Bench, model: string, before: StageNode | undefined): { id: string; edit: Edit } {
  const id = bench.newId()
  const place = before ? placeOf(bench.preset, before.id) : null
  return { id, edit: { type: 'addStage', stage: id, model, ...(place ?? { lane: null, index: 0 }) } }
}

const levelRange = (model: string): readonly [number, number] => {
  const spec = modelOf(model).params.level
  return spec.kind === 'number' ? [spec.min, spec.max] : [0, 0]
}

/** Volume as a stage of its own: silent, as far as it goes, at the heel. */
function volume(bench: Bench, before: StageNode | undefined, curve: Curve): Made {
  const { id, edit } = added(bench, 'trim', before)
  return { edits: [edit], targets: [aim(bench, id, 'level', levelRange('trim')[0], 0, curve)] }
}

export const readyMoves: readonly ReadyMove[] = [
  {
    id: 'delay-in',
    name: 'Delay in',
    reason: 'Silent at the heel; at the toe the share of a lead, with the feedback held where it cannot pile up.',
    kinds: ['pedal', 'knob'],
    build(bench) {
      const delay = stagesOf(bench.preset.chain).find(
        (s) => 'feedback' in s.params && 'mix' in s.params && modelOf(s.model).family === 'delay',
      )
      if (!delay) return 'There is no delay in the chain: add one first.'
      return {
        edits: [{ type: 'setOn', stage: delay.id, snapshot: null, on: true }],
        targets: [
          aim(bench, delay.id, 'mix', 0, Math.max(LEAD_MIX, now(bench, delay, 'mix')), { shape: 'linear', heel: 0.03, toe: 0 }),
          aim(bench, delay.id, 'feedback', 10, Math.min(TAME, Math.max(20, now(bench, delay, 'feedback')))),
        ],
      }
    },
  },
  {
    id: 'wah',
    name: 'Wah by position',
    reason: 'The band follows the foot; the wah stands first, before anything distorts.',
    kinds: ['pedal'],
    build(bench) {
      const wah = stagesOf(bench.preset.chain).find((s) => s.model === 'filter.wah')
      if (wah) return { targets: [aim(bench, wah.id, 'position', 0, 10)], control: { smoothing: 10 } }
      const { id, edit } = added(
        bench,
        'filter.wah',
        stagesOf(bench.preset.chain).find((s) => s.model !== 'gate'),
      )
      return { edits: [edit], targets: [aim(bench, id, 'position', 0, 10)], control: { smoothing: 10 } }
    },
  },
  {
    id: 'volume-before',
    name: 'Volume before the amp',
    reason: 'Down means cleaner as well as softer: it is the guitar’s own volume under the foot.',
    kinds: ['pedal', 'knob'],
    build(bench) {
      const amp = find(bench.preset, 'amp')
      return amp ? volume(bench, find(bench.preset, 'drive') ?? amp, LATE) : 'There is no amp in the chain.'
    },
  },
  {
    id: 'volume-after',
    name: 'Volume after the amp',
    reason: 'Down means softer and nothing else: the gain stays, and delay and reverb ring on behind it.',
    kinds: ['pedal', 'knob'],
    build(bench) {
      const effect = stagesOf(bench.preset.chain).find((s) => modelOf(s.model).trails)
      const end = effect ?? last(bench.preset, (s) => s.model === 'output')
      return end ? volume(bench, end, EARLY) : 'There is no Output to stand before.'
    },
  },
  {
    id: 'clean-up',
    name: 'Clean-up compensation',
    reason:
      'As the guitar’s volume goes down, output gain and treble come up, so that clean is as loud and as clear; at zero it stays silent.',
    kinds: ['volume'],
    build(bench) {
      const amp = find(bench.preset, 'amp')
      const output = last(bench.preset, (s) => s.model === 'output')
      if (!amp || !output) return 'It needs an amp and an Output.'
      const level = now(bench, output, 'level')
      // the last quarter of the travel takes the lift back, too slowly to be heard: a guitar that is turned off is not turned up
      const lift: Curve = {
        shape: 'points',
        heel: 0,
        toe: 0,
        points: [
          [0, 0],
          [0.25, 1],
          [1, 0],
        ],
      }
      const top = Math.min(levelRange(output.model)[1], level + 6)
      const treble = 'treble' in amp.params ? now(bench, amp, 'treble') : null
      return {
        targets: [
          aim(bench, output.id, 'level', level, top, lift),
          ...(treble === null ? [] : [aim(bench, amp.id, 'treble', treble, Math.min(10, treble + 2), lift)]),
        ],
      }
    },
  },
  {
    id: 'swell',
    name: 'Swell',
    reason: 'Before the echoes, from silence on an S: the pick is not heard, the trails are.',
    kinds: ['pedal', 'envelope'],
    build(bench) {
      const effect = stagesOf(bench.preset.chain).find((s) => modelOf(s.model).trails)
      return volume(bench, effect ?? last(bench.preset, (s) => s.model === 'output'), S)
    },
  },
  {
    id: 'fade-out',
    name: 'Fade-out',
    reason: 'Toward the toe the top closes and the level falls, evenly to the ear, and the reverb takes over: the sound leaves the room.',
    kinds: ['pedal', 'knob'],
    build(bench) {
      const output = last(bench.preset, (s) => s.model === 'output')
      if (!output) return 'There is no Output at the end.'
      const eq = last(bench.preset, (s) => s.model === 'eq.parametric')
      const reverb = last(bench.preset, (s) => modelOf(s.model).family === 'reverb' && 'mix' in s.params)
      const made = eq ? null : added(bench, 'eq.parametric', output)
      const level = now(bench, output, 'level')
      const top = eq ? now(bench, eq, 'highCut') : 12_000
      return {
        edits: made ? [made.edit] : [],
        targets: [
          aim(bench, eq?.id ?? made?.id ?? '', 'highCut', top, 1_000),
          aim(bench, output.id, 'level', level, Math.max(levelRange(output.model)[0], level - 24)),
          ...(reverb ? [aim(bench, reverb.id, 'mix', now(bench, reverb, 'mix'), 70)] : []),
        ],
      }
    },
  },
  {
    id: 'rotary',
    name: 'Rotary slow and fast',
    reason: 'The switch changes the speed; the ramp of the stage itself makes the way there.',
    kinds: ['latching', 'momentary'],
    build(bench) {
      const rotary = stagesOf(bench.preset.chain).find((s) => s.model === 'modulation.rotary')
      if (rotary) return { targets: [aim(bench, rotary.id, 'speed', 'slow', 'fast')], control: { smoothing: 0 } }
      const before = stagesOf(bench.preset.chain).find((s) => modelOf(s.model).trails) ?? last(bench.preset, (s) => s.model === 'output')
      const { id, edit } = added(bench, 'modulation.rotary', before)
      return { edits: [edit], targets: [aim(bench, id, 'speed', 'slow', 'fast')], control: { smoothing: 0 } }
    },
  },
  {
    id: 'runaway',
    name: 'Runaway delay on hold',
    reason: 'While it is held the repeats feed themselves and the dry sound stays; let go and they die down.',
    kinds: ['momentary'],
    build(bench) {
      const delay = last(bench.preset, (s) => modelOf(s.model).family === 'delay' && 'feedback' in s.params)
      if (!delay) return 'There is no delay in the chain: add one first.'
      const spec = modelOf(delay.model).params.feedback
      const most = spec.kind === 'number' ? Math.min(spec.max, 98) : 98
      return {
        targets: [
          aim(bench, delay.id, 'feedback', now(bench, delay, 'feedback'), most),
          ...('mix' in delay.params ? [aim(bench, delay.id, 'mix', now(bench, delay, 'mix'), Math.max(40, now(bench, delay, 'mix')))] : []),
        ],
        control: { smoothing: 150 },
      }
    },
  },
]

/**
 * A ready move as one edit: on the given source where it fits and moves nothing yet, or else on a new one of the right kind.
 * @throws RangeError with the reason when it cannot be made
 */
export function readyMoveEdit(move: ReadyMove, bench: Bench, control: Control | null): { edit: Edit; control: string } {
  const made = move.build(bench)
  if (typeof made === 'string') throw new RangeError(`${move.name}: ${made}`)
  const fits = control && control.targets.length === 0 && move.kinds.includes(control.kind) ? control : null
  const source = fits ?? { ...createControl(bench.newId(), move.kinds[0], move.name), ...made.control }
  return {
    control: source.id,
    edit: {
      type: 'all',
      edits: [
        ...(made.edits ?? []),
        ...(fits ? [] : [{ type: 'addControl', control: source } as const]),
        ...made.targets.map((target) => ({ type: 'addTarget', control: source.id, target }) as const),
      ],
    },
  }
}
