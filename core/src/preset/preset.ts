import { modelOf } from '@fulgor/core/catalogue'
import type { MicBench } from '@fulgor/core/cabinet'
import type { PickupKind, Strength, Tuning } from '@fulgor/core/riffs'
import type { ParamValue } from '@fulgor/core/signal'
import type { Board } from './board'
import type { Control } from './controls'
import type { DeviceProfile } from './device'
import type { Layer } from './layers'
import type { MidiPlan } from './midiPlan'
import type { Take } from './takes'

export const PRESET_FORMAT = 'fulgor.preset'
export const PRESET_VERSION = 1
export const MAX_SNAPSHOTS = 8
export const MAX_STAGES = 40
/** Parallel lanes may stand inside parallel lanes, not deeper. */
export const MAX_LANE_DEPTH = 2
export const MAX_LANES = 4

export type ParamMap = Readonly<Record<string, ParamValue>>

/** One model in the chain with its base values. */
export interface StageNode {
  readonly kind: 'stage'
  readonly id: string
  readonly model: string
  /** What the player calls it; by itself what its model is called. */
  readonly name?: string
  readonly on: boolean
  readonly params: ParamMap
  /** Of a cabinet: what its blend is made of, once the player has been at the bench. */
  readonly bench?: MicBench
}

/** One branch of a split. Its strip at the end (level, pan, polarity, delay; off is mute) is a stage of the model {@link LANE_MODEL}. */
export interface Lane {
  readonly id: string
  readonly on: boolean
  readonly params: ParamMap
  readonly nodes: readonly ChainNode[]
}

/** A split whose lanes are summed. */
export interface ParallelNode {
  readonly kind: 'parallel'
  readonly id: string
  readonly lanes: readonly Lane[]
}

export type ChainNode = StageNode | ParallelNode

/** What a snapshot changes on one stage. */
export interface StageOverride {
  readonly on?: boolean
  readonly params?: ParamMap
  /** Of a cabinet: microphones that stand elsewhere in this snapshot. */
  readonly bench?: MicBench
}

/** What a snapshot is for. */
export const ROLES = ['rhythm', 'lead', 'clean', 'ambience', 'effect'] as const
export type Role = (typeof ROLES)[number]

export interface Snapshot {
  readonly id: string
  readonly name: string
  readonly role?: Role
  /** LU above the preset's target; by itself what the role has. */
  readonly offset?: number
  /** What it is measured and heard on, instead of the preset's riff. */
  readonly riff?: RiffChoice
  /** Levelling leaves it alone. */
  readonly ignored?: boolean
  /** bpm, instead of the preset's. */
  readonly tempo?: number
  /** Note value that one tap of the player stands for; a quarter by itself. */
  readonly tap?: string
  /** The snapshot that this one has grown from. */
  readonly parent?: string
  /** Recordings of the player's own device, oldest first; the last one counts. */
  readonly takes?: readonly Take[]
  readonly stages: Readonly<Record<string, StageOverride>>
}

export interface RiffChoice {
  /** A shipped riff's id, or the content hash of the player's own file. */
  readonly id: string
  readonly strength: Strength
  /** Of a shipped riff: another performance of the same notes, from 2 on. */
  readonly take?: number
  /** Of a shipped riff: the pickup that it is played on; the guitar's by itself. */
  readonly pickup?: PickupKind
  /** Of a shipped riff: how the guitar is tuned; to E by itself. */
  readonly tuning?: Tuning
}

/** The guitar that a preset is made for: how hot its pickup is. */
export interface GuitarProfile {
  readonly name: string
  /** Peak of a hard strum at the input, dBFS. */
  readonly hardPeakDbfs: number
  /** What riffs are played on; the bridge humbucker by itself. */
  readonly pickup?: PickupKind
}

/** A preset: base values, and per snapshot only what differs. Times that follow the tempo keep their note value. */
export interface Preset {
  readonly format: typeof PRESET_FORMAT
  readonly version: typeof PRESET_VERSION
  readonly name: string
  readonly tags: readonly string[]
  readonly notes: string
  /** bpm. */
  readonly tempo: number
  /** LUFS that every snapshot is levelled to. */
  readonly targetLufs: number
  readonly riff: RiffChoice
  readonly guitar: GuitarProfile
  /** The stage or lane that levelling turns: an Output's or lane's level, an amp's master. By itself the last Output. */
  readonly trim?: string
  /** The player's device. */
  readonly device?: DeviceProfile
  /** What moves parameters. */
  readonly controls?: readonly Control[]
  /** What the foot controller's switches do. */
  readonly board?: Board
  readonly midiPlan?: MidiPlan
  /** What it is heard together with. */
  readonly layers?: readonly Layer[]
  readonly chain: readonly ChainNode[]
  readonly snapshots: readonly Snapshot[]
}

/** The model of a lane's strip: not to be added by itself. */
export const LANE_MODEL = 'lane'

/** A lane's strip as the stage that it behaves as: its values are edited, overridden by snapshots and measured like any other's. */
export const stripOf = ({ id, on, params }: Lane): StageNode => ({ kind: 'stage', id, model: LANE_MODEL, on, params })

export const createLane = (id: string, nodes: readonly ChainNode[] = [], params: ParamMap = {}): Lane => ({
  id,
  on: true,
  params: { ...defaultParams(LANE_MODEL), ...params },
  nodes,
})

/** All splits of a chain, outer ones first. */
export function splitsOf(nodes: readonly ChainNode[]): ParallelNode[] {
  return nodes.flatMap((node) => (node.kind === 'stage' ? [] : [node, ...node.lanes.flatMap((lane) => splitsOf(lane.nodes))]))
}

/** Stages and lane strips: everything that has values. */
export const partsOf = (nodes: readonly ChainNode[]): StageNode[] =>
  nodes.flatMap((node) => (node.kind === 'stage' ? [node] : node.lanes.flatMap((lane) => [stripOf(lane), ...partsOf(lane.nodes)])))

/** All stages of a chain, top to bottom, lanes one after another. */
export function stagesOf(nodes: readonly ChainNode[]): StageNode[] {
  return nodes.flatMap((node) => (node.kind === 'stage' ? [node] : node.lanes.flatMap((lane) => stagesOf(lane.nodes))))
}

/** A stage, or the strip of a lane. */
export const findStage = (preset: Preset, id: string): StageNode | undefined => partsOf(preset.chain).find((s) => s.id === id)
export const findSnapshot = (preset: Preset, id: string | null): Snapshot | undefined => preset.snapshots.find((s) => s.id === id)

/** The catalogue's defaults of a model. */
export function defaultParams(model: string): ParamMap {
  return Object.fromEntries(Object.entries(modelOf(model).params).map(([key, spec]) => [key, spec.initial]))
}

/** A new stage with the catalogue's defaults. */
export const createStage = (id: string, model: string, params: ParamMap = {}): StageNode => ({
  kind: 'stage',
  id,
  model,
  on: true,
  params: { ...defaultParams(model), ...params },
})

/** Shipped guitar profiles: hard strums near the ends of what pickups give (common practice, no source). */
export const GUITARS: readonly GuitarProfile[] = [
  { name: 'Hot humbucker', hardPeakDbfs: -7, pickup: 'bridge' },
  { name: 'Mild humbucker', hardPeakDbfs: -11, pickup: 'bridge' },
  { name: 'Fat single coil', hardPeakDbfs: -14, pickup: 'split' },
  { name: 'Mild single coil', hardPeakDbfs: -19, pickup: 'middle-neck' },
]

/** A blank preset: amp, cabinet and output, one snapshot, so that it sounds at once. */
export function blankPreset(name: string): Preset {
  return {
    format: PRESET_FORMAT,
    version: PRESET_VERSION,
    name,
    tags: [],
    notes: '',
    tempo: 120,
    targetLufs: -18,
    riff: { id: 'open-chords', strength: 'hard' },
    guitar: GUITARS[0],
    chain: [createStage('amp', 'amp.lantern'), createStage('cab', 'cabinet'), createStage('out', 'output')],
    snapshots: [{ id: 's1', name: 'Main', stages: {} }],
  }
}
