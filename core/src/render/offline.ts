import type { BuildContext } from '@fulgor/core/catalogue'
import { resolveValues, type ChainNode, type Preset, type ResolvedStage } from '@fulgor/core/preset'
import { CHUNK, createBlock } from '@fulgor/core/signal'
import { buildNode } from './chain'
import type { Runner } from './runner'

/** A whole rendered signal. `right` is the same array as `left` while the chain is still mono. */
export interface Sound {
  readonly left: Float64Array
  readonly right: Float64Array
  readonly stereo: boolean
}

/** The sound after one stage. `key` is the same for the same dry signal through the same stages. */
export interface Tap {
  readonly stage: string
  readonly sound: Sound
  readonly key: number
}

export interface RenderJob {
  readonly preset: Preset
  readonly snapshot: string | null
  /** Names the dry signal in the cache. */
  readonly dryKey: string
  readonly dry: Float32Array
  readonly sampleRate: number
}

/**
 * Renders presets stage by stage and keeps the sound after every stage, so that an edit renders only from the changed stage on and
 * snapshots share the stages that they have in common. The same runners as in the live engine: the same samples.
 */
export class Renderer {
  private readonly sounds = new Map<number, Sound>()
  private readonly keys = new Map<string, number>()
  private bytes = 0

  /** @param maxBytes of kept sound; the oldest goes first */
  constructor(
    private readonly context: BuildContext,
    private readonly maxBytes = 320e6,
  ) {}

  /** Yields the sound after each stage as soon as it is there; the last one is the output. Stop iterating to cancel. */
  *render(job: RenderJob): Generator<Tap, Tap> {
    const left = new Float64Array(job.dry)
    const start: Tap = { stage: '', sound: { left, right: left, stereo: false }, key: this.keyOf(`dry ${job.dryKey} ${job.sampleRate}`) }
    return yield* this.row(job.preset.chain, start, resolveValues(job.preset, job.snapshot), job.sampleRate)
  }

  private *row(nodes: readonly ChainNode[], input: Tap, values: Record<string, ResolvedStage>, sampleRate: number): Generator<Tap, Tap> {
    let tap = input
    for (const node of nodes) {
      if (node.kind === 'stage') {
        const key = this.keyOf(`${tap.key} ${node.model} ${JSON.stringify(values[node.id])}`)
        tap = { stage: node.id, key, sound: this.run(key, tap.sound, values, () => buildNode(node, this.context, sampleRate)) }
        yield tap
      } else {
        const before = tap
        const ends: Tap[] = []
        for (const lane of node.lanes) ends.push(yield* this.row(lane.nodes, before, values, sampleRate))
        const key = this.keyOf(`${ends.map((end) => end.key).join('+')} ${JSON.stringify(node.lanes.map(({ nodes: _, ...lane }) => lane))}`)
        tap = { stage: node.id, key, sound: this.run(key, before.sound, values, () => buildNode(node, this.context, sampleRate)) }
      }
    }
    return tap
  }

  private run(key: number, input: Sound, values: Record<string, ResolvedStage>, build: () => Runner): Sound {
    const kept = this.sounds.get(key)
    if (kept) {
      this.sounds.delete(key)
      this.sounds.set(key, kept)
      return kept
    }
    const runner = build()
    runner.apply(values, true)
    const sound = runThrough(runner, input)
    this.keep(key, sound)
    return sound
  }

  private keep(key: number, sound: Sound): void {
    this.sounds.set(key, sound)
    this.bytes += soundBytes(sound)
    for (const [oldest, old] of this.sounds) {
      if (this.bytes <= this.maxBytes || oldest === key) break
      this.sounds.delete(oldest)
      this.bytes -= soundBytes(old)
    }
  }

  private keyOf(text: string): number {
    const known = this.keys.get(text)
    if (known !== undefined) return known
    const key = this.keys.size + 1
    this.keys.set(text, key)
    return key
  }
}

const soundBytes = (sound: Sound): number => sound.left.byteLength * (sound.stereo ? 2 : 1)

/** A signal through one runner, from silence, chunk by chunk as the engine does it. */
export function runThrough(runner: Runner, input: Sound): Sound {
  const frames = input.left.length
  const left = new Float64Array(frames)
  let right: Float64Array | null = null
  const block = createBlock()
  for (let start = 0; start < frames; start += CHUNK) {
    const count = Math.min(CHUNK, frames - start)
    block.stereo = input.stereo
    block.at = 0
    for (let i = 0; i < count; i++) block.left[i] = input.left[start + i]
    if (input.stereo) for (let i = 0; i < count; i++) block.right[i] = input.right[start + i]
    runner.tick()
    runner.process(block, count)
    for (let i = 0; i < count; i++) left[start + i] = block.left[i]
    if (block.stereo) {
      right ??= new Float64Array(frames)
      for (let i = 0; i < count; i++) right[start + i] = block.right[i]
    }
  }
  return { left, right: right ?? left, stereo: right !== null }
}

/** The whole output of a preset in one snapshot, without a cache. */
export function renderPreset(job: Omit<RenderJob, 'dryKey'>, context: BuildContext): Sound {
  const taps = new Renderer(context, 0).render({ ...job, dryKey: '' })
  let next = taps.next()
  while (!next.done) next = taps.next()
  return next.value.sound
}
