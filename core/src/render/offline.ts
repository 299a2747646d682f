import { modelOf, type BuildContext } from '@fulgor/core/catalogue'
import {
  asPlayed,
  GUITAR_STAGE,
  resolveValues,
  stripOf,
  type ChainNode,
  type Lane,
  type Preset,
  type ResolvedStage,
  type StageNode,
} from '@fulgor/core/preset'
import { CHUNK, createBlock, dbToGain, give, inPassing, listen, take, type Machine, type StereoBlock } from '@fulgor/core/signal'
import { buildNode, buildSeries, LaneSum, Series } from './chain'
import { contentKey } from './contentKey'
import { Piece, PIECE } from './piece'
import type { Runner } from './runner'

/** A whole rendered signal. `right` is the same array as `left` while the chain is still mono. */
export interface Sound {
  readonly left: Float32Array
  readonly right: Float32Array
  readonly stereo: boolean
  /** It is another sound times a gain: what is measured of that one tells what would be of this one. */
  readonly scaled?: { readonly of: Sound; readonly gain: number }
}

/** A sound that is another one times a gain; its samples are made when somebody asks for them. */
class ScaledSound implements Sound {
  readonly scaled: { readonly of: Sound; readonly gain: number }
  private made: Sound | null = null

  constructor(
    of: Sound,
    gain: number,
    private readonly make: () => Sound,
  ) {
    this.scaled = of.scaled ? { of: of.scaled.of, gain: gain * of.scaled.gain } : { of, gain }
  }

  get stereo(): boolean {
    return this.scaled.of.stereo
  }
  get left(): Float32Array {
    return (this.made ??= this.make()).left
  }
  get right(): Float32Array {
    return (this.made ??= this.make()).right
  }
}

/** The sound after one stage. `key` is the same for the same dry signal through the same stages, in every thread. */
export interface Tap {
  readonly stage: string
  readonly sound: Sound
  readonly key: string
}

/** Where renderers of several threads lay sounds down for each other. */
export interface SharedTaps {
  /** What another thread has made of the same. */
  readonly find: (key: string) => Sound | undefined
  /** Hears of every sound that is made here and may be asked for again. */
  readonly made: (key: string, sound: Sound) => void
  /** Hears of every sound that was made here and is asked for no more: only what runs now may still read it. */
  readonly gone: (key: string) => void
  /** Hears of every sound that nobody is to ask for again: only what runs now reads it. */
  readonly passing: (sound: Sound) => void
  /** Where all samples of a sound are written; another one's may stand there. */
  readonly room: (frames: number) => Float32Array
}

const ALONE: SharedTaps = {
  find: () => undefined,
  made: () => undefined,
  gone: () => undefined,
  passing: () => undefined,
  room: (frames) => new Float32Array(frames),
}

export interface RenderJob {
  readonly preset: Preset
  readonly snapshot: string | null
  /** Names the dry signal in the cache. */
  readonly dryKey: string
  readonly dry: Float32Array
  readonly sampleRate: number
  /** Stages that are different at every rendering: from the first of them on no sound is kept. */
  readonly passing?: ReadonlySet<string>
}

/**
 * Renders presets stage by stage and keeps the sound after every stage, so that an edit renders only from the changed stage on and
 * snapshots share the stages that they have in common. The same runners as in the live engine: the same samples.
 */
export class Renderer {
  private readonly sounds = new Map<string, Sound>()
  private readonly latencies = new Map<string, number>()
  private bytes = 0

  /** @param maxBytes of kept sound; the oldest goes first */
  constructor(
    private readonly context: BuildContext,
    private readonly maxBytes = 320e6,
    private readonly shared: SharedTaps = ALONE,
  ) {}

  /**
   * Yields the sound after each stage, each lane's strip and each sum as soon as it is there; the last one is the output. Stop
   * iterating to cancel.
   */
  *render(job: RenderJob): Generator<Tap, Tap> {
    const { dry } = job
    const start: Tap = {
      stage: '',
      sound: { left: dry, right: dry, stereo: false },
      key: contentKey(`dry ${job.dryKey} ${job.sampleRate} ${this.context.quality}`),
    }
    const preset = asPlayed(job.preset)
    const values = resolveValues(preset, job.snapshot)
    return yield* this.row(preset.chain, start, {
      values,
      sampleRate: job.sampleRate,
      dry,
      passing: job.passing ?? NONE,
      keeps: true,
    })
  }

  private *row(nodes: readonly ChainNode[], input: Tap, pass: Pass): Generator<Tap, Tap> {
    let tap = input
    for (const node of nodes) {
      if (node.kind === 'stage') {
        if (pass.passing.has(node.id)) pass.keeps = false
        const key = contentKey(`${tap.key} ${node.model} ${JSON.stringify(pass.values[node.id])}`)
        tap = { stage: node.id, key, sound: this.run(key, tap.sound, node, pass) }
        // side-chains hear the guitar behind its own knobs, as at the input of a device
        if (node.id === GUITAR_STAGE) pass.dry = tap.sound.left
        yield tap
      } else {
        const ends: Tap[] = []
        for (const lane of node.lanes) ends.push(yield* this.row([...lane.nodes, stripOf(lane)], tap, pass))
        const latencies = node.lanes.map((lane) => this.latencyOf(lane, pass.sampleRate))
        const key = contentKey(ends.map((end, k) => `${end.key}@${latencies[k]}`).join('+'))
        tap = {
          stage: node.id,
          key,
          sound:
            this.kept(key, pass) ??
            this.keep(
              key,
              sumOf(
                ends.map((end) => end.sound),
                latencies,
                this.shared.room,
              ),
              pass,
            ),
        }
        yield tap
      }
    }
    return tap
  }

  /** Latency of a lane in frames; it depends on its models alone. */
  private latencyOf(lane: Lane, sampleRate: number): number {
    const models = `${sampleRate} ${JSON.stringify(lane.nodes.map(shapeOf))}`
    const known = this.latencies.get(models)
    if (known !== undefined) return known
    const { latency } = inPassing((machine) => buildSeries(lane.nodes, this.context, sampleRate, machine))
    this.latencies.set(models, latency)
    return latency
  }

  private run(key: string, input: Sound, node: StageNode, pass: Pass): Sound {
    const kept = this.kept(key, pass)
    if (kept) return kept
    const { values, sampleRate, dry } = pass
    const make = (key: Float32Array, room: SharedTaps['room']) =>
      inPassing((machine) => {
        const runner = buildNode(node, this.context, sampleRate, machine)
        runner.apply(values, true)
        return runThrough(runner, machine, input, key, room)
      })
    const { on, params } = values[node.id]
    const turns = modelOf(node.model).onlyLevel === true && on
    // a plain level listens to no dry signal, which would else be held for as long as the sound is kept
    return this.keep(
      key,
      turns ? new ScaledSound(input, dbToGain(Number(params.level)), () => make(input.left, ALONE.room)) : make(dry, this.shared.room),
      pass,
    )
  }

  private kept(key: string, { keeps }: Pass): Sound | undefined {
    const kept = this.sounds.get(key)
    if (!kept) {
      const theirs = keeps ? this.shared.find(key) : undefined
      return theirs && this.hold(key, theirs)
    }
    this.sounds.delete(key)
    this.sounds.set(key, kept)
    return kept
  }

  private keep(key: string, sound: Sound, { keeps }: Pass): Sound {
    if (!keeps) {
      if (!sound.scaled) this.shared.passing(sound)
      return sound
    }
    // a turned sound is told by the one that it turns
    if (!sound.scaled) this.shared.made(key, sound)
    return this.hold(key, sound)
  }

  private hold(key: string, sound: Sound): Sound {
    this.sounds.set(key, sound)
    this.bytes += soundBytes(sound)
    for (const [oldest, old] of this.sounds) {
      if (this.bytes <= this.maxBytes || oldest === key) break
      this.drop(oldest, old)
    }
    return sound
  }

  /** A sound that another thread has made is not to be found here any more. */
  forget(key: string, sound: unknown): void {
    const kept = this.sounds.get(key)
    if (kept && kept === sound) this.drop(key, kept)
  }

  private drop(key: string, sound: Sound): void {
    this.sounds.delete(key)
    this.bytes -= soundBytes(sound)
    if (sound.scaled) return
    // what is a multiple of it is made of its samples
    for (const [other, multiple] of this.sounds) if (multiple.scaled?.of === sound) this.drop(other, multiple)
    this.shared.gone(key)
  }
}

// what is not made yet counts as if it were
const soundBytes = (sound: Sound): number => (sound.scaled?.of ?? sound).left.byteLength * (sound.stereo ? 2 : 1)

const NONE: ReadonlySet<string> = new Set()

/** One rendering on its way. */
interface Pass {
  readonly values: Record<string, ResolvedStage>
  readonly sampleRate: number
  dry: Float32Array
  readonly passing: ReadonlySet<string>
  /** False from the first passing stage on. */
  keeps: boolean
}

const shapeOf = (node: ChainNode): unknown => (node.kind === 'stage' ? node.model : node.lanes.map((lane) => lane.nodes.map(shapeOf)))

/** The sum of lanes' sounds as the engine makes it. */
function sumOf(sounds: readonly Sound[], latencies: readonly number[], room: SharedTaps['room']): Sound {
  const frames = sounds[0].left.length
  const left = room(frames)
  const right = room(frames)
  inPassing((machine) => {
    const sum = new LaneSum(latencies, machine)
    const lanes = sounds.map(() => createBlock(machine))
    const out = createBlock(machine)
    for (let start = 0; start < frames; start += CHUNK) {
      const count = Math.min(CHUNK, frames - start)
      sounds.forEach((sound, k) => load(sound, start, count, lanes[k]))
      sum.process(lanes, out)
      give(out.left, left, start, count)
      give(out.right, right, start, count)
    }
  })
  return { left, right, stereo: true }
}

function load(sound: Sound, start: number, count: number, block: StereoBlock): void {
  block.stereo = sound.stereo
  take(sound.left, start, count, block.left)
  if (sound.stereo) take(sound.right, start, count, block.right)
}

/**
 * A signal through one runner, from silence, chunk by chunk as the engine does it.
 * @param machine in which the runner was built
 * @param dry what side-chains listen to; the input itself unless given
 * @param room where the samples are written
 */
export function runThrough(runner: Runner, machine: Machine, input: Sound, dry = input.left, room = ALONE.room): Sound {
  const frames = input.left.length
  const left = room(frames)
  let right: Float32Array | null = null
  const { kernel } = machine
  const block = createBlock(machine)
  const side = createBlock(machine)
  listen(block, side)
  const [from, to] = [new Piece(machine), new Piece(machine)]
  const key = runner.listens ? new Piece(machine) : null
  const row = new Series([runner], machine)
  for (let start = 0; start < frames; start += PIECE) {
    const count = Math.min(PIECE, frames - start)
    from.load(input.left, input.stereo ? input.right : null, start, count)
    key?.load(dry, null, start, count)
    for (let at = 0; at < 4 * count;) {
      block.stereo = input.stereo
      const done = row.span(block, { from, to, side, key }, at, Math.ceil(count / CHUNK - at / (4 * CHUNK)))
      if (done > 0) {
        at += 4 * CHUNK * done
        continue
      }
      kernel.copy(block.leftAt, input.stereo ? block.rightAt : 0, from.leftAt + at, from.rightAt + at)
      if (key) kernel.copy(side.leftAt, 0, key.leftAt + at, 0)
      row.process(block)
      kernel.copy(to.leftAt + at, block.stereo ? to.rightAt + at : 0, block.leftAt, block.rightAt)
      at += 4 * CHUNK
    }
    if (block.stereo && !right) {
      right = room(frames)
      // so far both sides were alike
      right.set(left.subarray(0, start))
    }
    to.save(left, right, start, count)
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
