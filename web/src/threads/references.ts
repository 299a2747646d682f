import { wavFrames, wavLayout, type WavLayout } from '@fulgor/core/formats'
import { inspectReference, UnfitReference, viewOf, type ReferenceReport } from '@fulgor/core/match'
import { joined, type Part, type View } from '@fulgor/core/recording'
import { resample } from '@fulgor/core/signal'
import type { Sides } from '@fulgor/core/render'
import type { Task } from '../background/tasks'

const GONE = 'This recording is not on this machine.'
const AWAY = 'The server did not give this recording; it is asked again with the next change.'
/** Bytes in which a file tells what it is. */
const HEAD = 1 << 20
/** s that are read at a time where all of a file is looked at. */
const PIECE_S = 20
/** Stretches whose samples are kept. */
const KEPT = 3

const layouts = new Map<string, Promise<WavLayout>>()
const stretches = new Map<string, Promise<Stretch>>()

interface Stretch {
  readonly sides: readonly Float32Array[]
  readonly sampleRate: number
}

/** Bytes of a stored file from `from` to before `to`. */
async function bytesOf(hash: string, from: number, to: number): Promise<{ bytes: Uint8Array; size: number }> {
  const answer = await fetch(`/api/assets/${hash}`, { headers: { Range: `bytes=${from}-${to - 1}` } }).catch(() => {
    throw new Error(AWAY)
  })
  if (answer.status === 404) throw new Error(GONE)
  if (!answer.ok) throw new Error(AWAY)
  const bytes = new Uint8Array(await answer.arrayBuffer())
  const size = Number(/\/(\d+)$/.exec(answer.headers.get('Content-Range') ?? '')?.[1] ?? bytes.length)
  return { bytes, size }
}

function kept<V>(of: Map<string, Promise<V>>, key: string, most: number, make: () => Promise<V>): Promise<V> {
  let found = of.get(key)
  if (!found) {
    found = make()
    found.catch(() => of.delete(key))
    of.set(key, found)
    if (of.size > most) of.delete([...of.keys()][0])
  }
  return found
}

const layoutOf = (hash: string): Promise<WavLayout> =>
  kept(layouts, hash, 40, async () => {
    const { bytes, size } = await bytesOf(hash, 0, HEAD)
    return wavLayout(bytes, size)
  })

async function framesOf(hash: string, layout: WavLayout, from: number, to: number): Promise<Float32Array[]> {
  const { dataAt, align } = layout
  return wavFrames((await bytesOf(hash, dataAt + from * align, dataAt + to * align)).bytes, layout)
}

/** Stretches of a stored recording as one, its own sides at its own rate. */
export const stretchOf = (hash: string, parts: readonly Part[]): Promise<Stretch> =>
  kept(stretches, JSON.stringify([hash, parts]), KEPT, async () => {
    const layout = await layoutOf(hash)
    const { sampleRate, frames } = layout
    const pieces: Float32Array[][] = []
    for (const part of parts) {
      const from = Math.min(frames - 1, Math.round(part.from * sampleRate))
      pieces.push(await framesOf(hash, layout, from, Math.min(frames, Math.max(from + 1, Math.round(part.to * sampleRate)))))
    }
    const sides = pieces[0].map((_, side) =>
      joined(
        pieces.map((piece) => piece[side]),
        sampleRate,
      ),
    )
    return { sides, sampleRate }
  })

const OUTLINE = 1_200

/** What is told of a recording, or why nothing can be. */
export type Inspection = { readonly report: ReferenceReport; readonly reason: null } | { readonly report: null; readonly reason: string }

export const referenceTasks = {
  /** Largest sample of each of so many stretches of a recording of any length. */
  async outline(task: Task, hash: string): Promise<Float32Array> {
    const layout = await layoutOf(hash)
    const { frames, sampleRate } = layout
    const out = new Float32Array(OUTLINE)
    const piece = Math.round(PIECE_S * sampleRate)
    for (let from = 0; from < frames; from += piece) {
      const channels = await framesOf(hash, layout, from, Math.min(frames, from + piece))
      for (const x of channels)
        for (let n = 0; n < x.length; n++) {
          const at = Math.floor(((from + n) * OUTLINE) / frames)
          const v = Math.abs(x[n])
          if (v > out[at]) out[at] = v
        }
      task.tell(out.slice())
      await task.breathe()
    }
    return out
  },

  /** What marked stretches are. */
  async inspect(_task: Task, hash: string, parts: readonly Part[], view: View): Promise<Inspection> {
    const { sides, sampleRate } = await stretchOf(hash, parts)
    try {
      return { report: inspectReference(sides, sampleRate, view), reason: null }
    } catch (error) {
      if (error instanceof UnfitReference) return { report: null, reason: error.message }
      throw error
    }
  },

  /** Marked stretches to be heard: both sides as they are, or the one that is looked at on both. */
  async heardStretch(_task: Task, hash: string, parts: readonly Part[], view: View, sampleRate: number): Promise<Sides> {
    const { sides, sampleRate: rate } = await stretchOf(hash, parts)
    const [left, right = left] = view === 'mid' ? sides : [viewOf(sides, view)]
    const at = (x: Float32Array) => resample(x, rate, sampleRate)
    const first = at(left)
    return [first, right === left ? first : at(right)]
  },
}
