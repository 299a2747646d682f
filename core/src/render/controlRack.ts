import { modelOf, type ParamSpec } from '@fulgor/core/catalogue'
import {
  effectiveParams,
  isLive,
  overlaid,
  partsOf,
  movedTargets,
  runsItself,
  targetSpec,
  withMacros,
  type ChainNode,
  type Control,
  type ControlTarget,
  type Moved,
  type Positions,
  type Preset,
  type ResolvedStage,
  type StageNode,
} from '@fulgor/core/preset'
import { noteMs } from '@fulgor/core/stage'
import { CHUNK, Lfo, type ParamValue } from '@fulgor/core/signal'

/** What an engine needs to move parameters by itself: plain data, so that it can be sent to another thread. */
export interface ControlPlan {
  readonly controls: readonly Control[]
  readonly snapshot: string | null
  /** bpm. */
  readonly tempo: number
  /** Values of the stages that are moved, as the player set them. */
  readonly base: Readonly<Record<string, ResolvedStage>>
  /** Where the sources that act stand; others leave their targets alone. */
  readonly positions: Positions
}

/** Chunks between two moves: 128 frames, 2.7 ms at 48 kHz; in between the processors glide. */
export const CONTROL_CHUNKS = 2

/** What a snapshot's sources need; null where nothing is moved. */
export function controlPlan(
  preset: Preset,
  snapshot: string | null,
  tempo: number,
  base: ControlPlan['base'],
  positions: Positions,
): ControlPlan | null {
  const live = (preset.controls ?? []).filter((c) => c.targets.some((t) => isLive(t, snapshot)))
  if (live.length === 0) return null
  const controls = (preset.controls ?? []).map((c) => ({
    ...c,
    targets: c.targets.filter((t) => isLive(t, snapshot) && targetSpec(preset, t) !== undefined),
  }))
  const moved = new Set(controls.flatMap((c) => c.targets.map((t) => t.stage)))
  return { controls, snapshot, tempo, base: Object.fromEntries(Object.entries(base).filter(([id]) => moved.has(id))), positions }
}

/** One source while it runs. */
class Source {
  position: number
  private readonly lfo: Lfo
  private level: number

  constructor(
    readonly control: Control,
    private readonly sampleRate: number,
    tempo: number,
    start: number,
    /** The same source in the plan before: it goes on from there. */
    running: Source | undefined,
  ) {
    this.position = running?.position ?? start
    this.level = running?.level ?? 0
    this.lfo = running?.lfo ?? new Lfo()
    if (!running) this.lfo.prepare(sampleRate / CONTROL_CHUNKS)
    this.lfo.set(control.note === 'free' ? control.hz : 1000 / noteMs(tempo, control.note), control.shape)
  }

  /**
   * @param wanted where the player has it
   * @param peak of the dry input since the last step
   * @returns whether it has moved
   */
  step(wanted: number | undefined, peak: number): boolean {
    const { kind, smoothing, low, high, attack, release } = this.control
    const seconds = (CHUNK * CONTROL_CHUNKS) / this.sampleRate
    const glide = (ms: number) => (ms <= 0 ? 1 : 1 - Math.exp((-1000 * seconds) / ms))
    let target = wanted ?? this.position
    if (kind === 'lfo') {
      this.lfo.tick()
      target = 0.5 + 0.5 * this.lfo.value
    } else if (runsItself(this.control)) {
      this.level += (peak - this.level) * glide(peak > this.level ? attack : release)
      const db = 20 * Math.log10(this.level + 1e-9)
      target = Math.min(1, Math.max(0, (db - low) / Math.max(1, high - low)))
    }
    const next = this.position + (target - this.position) * glide(smoothing)
    const before = this.position
    this.position = Math.abs(next - target) < 1e-5 ? target : next
    return this.position !== before
  }
}

/** Moves the targets of a plan's sources: their glide, what runs by itself, macros, and the values that come of it. */
export class ControlRack {
  private readonly sources: readonly Source[]
  private readonly stages: ReadonlyMap<string, StageNode>
  private wanted: Positions
  private last: Moved = new Map()
  /** Other sources act than when the values were told. */
  private isNew = true

  constructor(
    private readonly plan: ControlPlan,
    chain: readonly ChainNode[],
    sampleRate: number,
    before: ControlRack | null,
  ) {
    this.stages = new Map(partsOf(chain).map((s) => [s.id, s]))
    this.wanted = plan.positions
    this.sources = plan.controls.map((control) => {
      const running = before?.sources.find((s) => s.control.id === control.id)
      return new Source(control, sampleRate, plan.tempo, plan.positions[control.id] ?? control.rest, running)
    })
  }

  setPositions(positions: Positions): void {
    this.wanted = positions
    this.isNew = true
  }

  /**
   * A step of {@link CONTROL_CHUNKS} chunks.
   * @param peak of the dry input since the last step
   * @returns new values of the stages that moved
   */
  step(peak: number): Readonly<Record<string, ResolvedStage>> | null {
    let moves = this.isNew
    for (const source of this.sources) if (source.step(this.wanted[source.control.id], peak)) moves = true
    return moves ? this.current() : null
  }

  /** New values of the stages that have moved since they were asked for last. */
  current(): Readonly<Record<string, ResolvedStage>> | null {
    const positions: Record<string, number> = {}
    for (const { control, position } of this.sources) if (control.id in this.wanted || runsItself(control)) positions[control.id] = position
    const { controls, snapshot } = this.plan
    const moved = movedTargets(controls, withMacros(controls, snapshot, positions), (target) => this.specOf(target))
    const fresh = new Set<string>()
    for (const [stage, values] of moved) if (!sameValues(values, this.last.get(stage))) fresh.add(stage)
    // what a source has let go of goes back to the snapshot's own value
    for (const stage of this.last.keys()) if (!moved.has(stage)) fresh.add(stage)
    this.last = moved
    this.isNew = false
    if (fresh.size === 0) return null
    return Object.fromEntries(
      [...fresh].flatMap((id) => {
        const stage = this.stages.get(id)
        const base = this.plan.base[id] as ResolvedStage | undefined
        if (!stage || !base) return []
        const { on, params, bench } = overlaid(base, moved.get(id))
        return [[id, { on, params: effectiveParams({ model: stage.model, bench }, params, this.plan.tempo) }]]
      }),
    )
  }

  private specOf({ stage: id, param }: ControlTarget): ParamSpec | null | undefined {
    const stage = this.stages.get(id)
    return stage && (param === 'on' ? null : modelOf(stage.model).params[param])
  }
}

type Values = ReadonlyMap<string, ParamValue | boolean>

function sameValues(a: Values, b: Values | undefined): boolean {
  if (a.size !== b?.size) return false
  for (const [param, value] of a) if (b.get(param) !== value) return false
  return true
}
