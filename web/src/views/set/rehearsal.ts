import { nanoid } from 'nanoid'
import type { ShownPreset } from '@fulgor/core/plan'
import type { Wanted } from '@fulgor/core/plan'
import { applyEdit } from '@fulgor/core/preset'
import { Errand } from '../../background/errand'
import { Cancelled, reasonOf } from '../../background/tasks'
import { rehearser } from '../../threads/crews'
import { renderingOf } from '../../threads/riffSource'
import type { Rendering, Segment } from '../../threads/shows'

/** What a rehearsal plays: the sounds in their order. */
export interface Piece {
  readonly wanted: Wanted
  readonly seconds: number
}

/** Where a rehearsal is. */
export interface Rehearsed {
  /** Place of the piece that is heard; −1 before the first. */
  readonly at: number
  readonly playing: boolean
  readonly problem: string | null
  /** LUFS of each piece that was played, and s of the gap before it. */
  readonly heard: readonly { readonly lufs: number | null; readonly gapS: number }[]
}

const SILENT: Rehearsed = { at: -1, playing: false, problem: null, heard: [] }
/** s that are ready before they are heard. */
const AHEAD = 4

/** A sound of a night as it is rendered; null where it is gone. */
export function renderingFor(wanted: Wanted, presets: readonly ShownPreset[]): Rendering | null {
  const shown = presets.find((p) => p.id === wanted.preset)
  if (!shown?.preset.snapshots.some((s) => s.id === wanted.snapshot)) return null
  try {
    const preset = Object.entries(wanted.on).reduce(
      (now, [stage, on]) => applyEdit(now, { type: 'setOn', stage, on, snapshot: wanted.snapshot }),
      shown.preset,
    )
    return renderingOf(preset, wanted.snapshot, 'live')
  } catch {
    return null
  }
}

/** Plays the changes of a night without a hand on the guitar. */
export class Rehearsal {
  state = SILENT
  private context: AudioContext | null = null
  private errand: Errand | null = null
  private sources: AudioBufferSourceNode[] = []
  private timers: ReturnType<typeof setTimeout>[] = []
  private readonly listeners = new Set<() => void>()

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
  readonly now = () => this.state

  private tell(change: Partial<Rehearsed>): void {
    this.state = { ...this.state, ...change }
    for (const listener of this.listeners) listener()
  }

  stop = (): void => {
    this.errand?.end()
    this.errand = null
    for (const timer of this.timers) clearTimeout(timer)
    this.timers = []
    for (const source of this.sources) source.stop()
    this.sources = []
    this.tell({ playing: false, at: -1 })
  }

  /** @param gapS s that the device needs to load another preset */
  async play(pieces: readonly Piece[], presets: readonly ShownPreset[], gapS: number): Promise<void> {
    this.stop()
    const errand = (this.errand = new Errand())
    const context = (this.context ??= new AudioContext())
    await context.resume()
    const run = nanoid(8)
    this.tell({ ...SILENT, playing: true })
    let end = context.currentTime + 0.15
    try {
      for (const [i, { wanted, seconds }] of pieces.entries()) {
        const rendering = renderingFor(wanted, presets)
        if (!rendering) continue
        const piece: Segment = await errand.run(rehearser, {
          task: 'runNext',
          args: [run, rendering, seconds, gapS],
          key: null,
          rank: 'now',
        })
        end = Math.max(end, context.currentTime + 0.02) + piece.gapS
        this.schedule(context, piece, end, i, rendering.sampleRate)
        end += seconds
        this.tell({ heard: [...this.state.heard, { lufs: piece.lufs, gapS: piece.gapS }] })
        const wait = end - context.currentTime - AHEAD
        if (wait > 0) await new Promise((done) => this.timers.push(setTimeout(done, 1000 * wait)))
        if (errand.isOver) return
      }
      this.timers.push(setTimeout(this.stop, 1000 * Math.max(0, end - context.currentTime)))
    } catch (error) {
      if (!(error instanceof Cancelled)) this.tell({ playing: false, problem: reasonOf(error) })
    }
  }

  private schedule(context: AudioContext, { left, right }: Segment, at: number, i: number, sampleRate: number): void {
    const buffer = context.createBuffer(2, left.length, sampleRate)
    buffer.copyToChannel(left as Float32Array<ArrayBuffer>, 0)
    buffer.copyToChannel(right as Float32Array<ArrayBuffer>, 1)
    const source = context.createBufferSource()
    source.buffer = buffer
    source.connect(context.destination)
    source.start(at)
    this.sources.push(source)
    this.timers.push(setTimeout(() => this.tell({ at: i }), 1000 * Math.max(0, at - context.currentTime)))
  }
}
