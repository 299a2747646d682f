import { loudness, samplePeak } from '@fulgor/core/measure'
import { gainToDb } from '@fulgor/core/signal'
import type { Task } from '../background/tasks'
import { fetchWav } from './sounds'

/** What a stored recording looks like. */
export interface RecordingShape {
  /** Largest sample of each of so many stretches, both sides together, linear. */
  readonly outline: Float32Array
  readonly seconds: number
  readonly peakDbfs: number
  /** Of all of it; null where it is too short or silent. */
  readonly lufs: number | null
}

const OUTLINE = 1_200

/** Largest sample of each of so many stretches. */
export function outlineOf(channels: readonly Float32Array[], points: number): Float32Array {
  const { length } = channels[0]
  return Float32Array.from({ length: points }, (_, k) => {
    let most = 0
    const to = Math.floor(((k + 1) * length) / points)
    for (const x of channels) for (let n = Math.floor((k * length) / points); n < to; n++) most = Math.max(most, Math.abs(x[n]))
    return most
  })
}

export const recordingTasks = {
  async shape(_task: Task, hash: string): Promise<RecordingShape> {
    const { channels, sampleRate } = await fetchWav(hash, 'This recording is not on this machine.')
    const sides = [channels[0], channels.at(1) ?? channels[0]]
    return {
      outline: outlineOf(channels, OUTLINE),
      seconds: channels[0].length / sampleRate,
      peakDbfs: gainToDb(samplePeak(sides)),
      lufs: loudness(sides, sampleRate).integratedLufs,
    }
  },
}
