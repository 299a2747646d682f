import { modelOf } from '@fulgor/core/catalogue'
import {
  effectiveParams,
  isLive,
  overlaid,
  partsOf,
  POSITION,
  targetSpec,
  targetValue,
  withMacros,
  type ChainNode,
  type Control,
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

/** Sources that move by themselves, whatever the player does. */
const runsItself = (kind: Control['kind']): boolean => kind === 'lfo' || kind === 'envelope' || kind === 'volume'

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
  private readonly lfo = new Lfo()
  private level = 0

  constructor(
    readonly control: Control,
    private readonly sampleRate: number,
    tempo: number,
    start: number,
  ) {
    this.position = start
    this.lfo.prepare(sampleRate / CONTROL_CHUNKS)
    this.lfo.set(control.note === 'free' ? control.hz : 1000 / noteMs(tempo, control.note), control.shape)
  }

  /** @param wanted where the player has it; @param peak of the dry input since the last step */
  step(wanted: number | undefined, peak: number): void {
    const { kind, smoothing, low, high, attack, release } = this.control
    const seconds = (CHUNK * CONTROL_CHUNKS) / this.sampleRate
    const glide = (ms: number) => (ms <= 0 ? 1 : 1 - Math.exp((-1000 * seconds) / ms))
    let target = wanted ?? this.position
    if (kind === 'lfo') {
      this.lfo.tick()
      target = 0.5 + 0.5 * this.lfo.value
    } else if (kind === 'envelope' || kind === 'volume') {
      this.level += (peak - this.level) * glide(peak > this.level ? attack : release)
      const db = 20 * Math.log10(this.level + 1e-9)
      target = Math.min(1, Math.max(0, (db - low) / Math.max(1, high - low)))
    }
    const next = this.position + (target - this.position) * glide(smoothing)
    this.position = Math.abs(next - target) < 1e-5 ? target : next
  }
}

/** Moves the targets of a plan's sources: their glide, what runs by itself, macros, and the values that come of it. */
export class ControlRack {
  private readonly sources: readonly Source[]
  private readonly stages: ReadonlyMap<string, StageNode>
  private wanted: Positions
  private last = new Map<string, ParamValue | boolean>()

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
      return new Source(control, sampleRate, plan.tempo, running?.position ?? plan.positions[control.id] ?? control.rest)
    })
  }

  setPositions(positions: Positions): void {
    this.wanted = positions
  }

  /**
   * A step of {@link CONTROL_CHUNKS} chunks.
   * @param peak of the dry input since the last step
   * @returns new values of the stages that moved
   */
  step(peak: number): Readonly<Record<string, ResolvedStage>> | null {
    const positions: Record<string, number> = {}
    for (const source of this.sources) {
      const { id, kind } = source.control
      source.step(this.wanted[id], peak)
      if (id in this.wanted || runsItself(kind)) positions[id] = source.position
    }
    return this.changed(withMacros(this.plan.controls, this.plan.snapshot, positions))
  }

  private changed(positions: Positions): Record<string, ResolvedStage> | null {
    const moved = new Map<string, Map<string, ParamValue | boolean>>()
    const fresh = new Set<string>()
    const now = new Map<string, ParamValue | boolean>()
    for (const { id, targets } of this.plan.controls) {
      if (!(id in positions)) continue
      for (const target of targets) {
        if (target.param === POSITION) continue
        const stage = this.stages.get(target.stage)
        if (!stage) continue
        const spec = specOf(stage, target.param)
        const raw = targetValue(spec, target, positions[id])
        const value = target.param === 'on' ? Number(raw) >= 0.5 : raw
        const values = moved.get(target.stage) ?? new Map<string, ParamValue | boolean>()
        moved.set(target.stage, values.set(target.param, value))
        now.set(`${target.stage} ${target.param}`, value)
      }
    }
    for (const [key, value] of now) if (this.last.get(key) !== value) fresh.add(key.split(' ')[0])
    // what a source has let go of goes back to the snapshot's own value
    for (const key of this.last.keys()) if (!now.has(key)) fresh.add(key.split(' ')[0])
    this.last = now
    if (fresh.size === 0) return null
    return Object.fromEntries(
      [...fresh].flatMap((id) => {
        const stage = this.stages.get(id)
        const base = this.plan.base[id] as ResolvedStage | undefined
        if (!stage || !base) return []
        const { on, params } = overlaid(base, moved.get(id))
        return [[id, { on, params: effectiveParams(stage, params, this.plan.tempo) }]]
      }),
    )
  }
}

const specOf = (stage: StageNode, param: string) => (param === 'on' ? null : modelOf(stage.model).params[param])
