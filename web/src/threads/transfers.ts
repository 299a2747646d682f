import { onMade, type Preset } from '@fulgor/core/preset'
import type { Dry } from '@fulgor/core/reading'
import { columnOf, edgeOfChain, inputFor, type InputFit, type TransferColumn } from '@fulgor/core/transfer'
import type { Task } from '../background/tasks'
import { SAMPLE_RATE } from './rate'
import { riffSource } from './riffSource'
import { loadRiff, ready, rendererFor, riffKey, type RiffSource } from './sounds'

/** Keeps what it renders: the same riffs on the same guitars come again. */
const render = (preset: Preset, snapshot: string, dry: Dry) =>
  rendererFor(SAMPLE_RATE, 'live').render({ preset, snapshot, dryKey: dry.key, dry: dry.samples, sampleRate: SAMPLE_RATE })

/** @param seconds of the riff that are listened to; null: all of it */
function dryOf(source: RiffSource, samples: Float32Array, seconds: number | null): Dry {
  const key = riffKey(source, SAMPLE_RATE)
  return seconds === null ? { key, samples } : { key: `${key} ${seconds} s`, samples: samples.slice(0, seconds * SAMPLE_RATE) }
}

export const transferTasks = {
  /** What the other guitar needs at the input. @param other the preset on it, with nothing set right yet */
  async transferInput(task: Task, preset: Preset, other: Preset, seconds: number): Promise<InputFit> {
    const made = onMade(preset)
    const riffs = new Map<string, Dry>()
    for (const of of [made, other])
      for (const { id } of preset.snapshots) {
        const source = riffSource(of, id)
        riffs.set(JSON.stringify(source), dryOf(source, await loadRiff(source, SAMPLE_RATE), seconds))
        await task.breathe()
      }
    const riffOf = (of: Preset, snapshot: string): Dry => {
      const found = riffs.get(JSON.stringify(riffSource(of, snapshot)))
      if (!found) throw new Error('A riff of this preset is not there.')
      return found
    }
    return inputFor(
      made,
      other,
      preset.snapshots.map((s) => s.id),
      riffOf,
      render,
      SAMPLE_RATE,
    )
  },

  transferEdge: (_task: Task, preset: Preset, snapshot: string): number | null => edgeOfChain(preset, snapshot, render, SAMPLE_RATE),

  async transferColumn(
    _task: Task,
    preset: Preset,
    snapshot: string,
    edgeDbfs: number | null,
    seconds: number | null,
  ): Promise<TransferColumn> {
    const riff = riffSource(preset, snapshot)
    const samples = await ready({ preset, snapshot, riff, sampleRate: SAMPLE_RATE })
    return columnOf(preset, snapshot, dryOf(riff, samples, seconds), edgeDbfs, render, SAMPLE_RATE)
  },
}
