import { readSnapshot, type Reading } from '@fulgor/core/reading'
import { restingGuitar, type Strength } from '@fulgor/core/riffs'
import type { Task } from '../background/tasks'
import { riffSource } from './riffSource'
import { loadRiff, ready, rendererFor, riffKey, type Rendering } from './sounds'

/** s of the riff that is played soft and hard, and of the resting guitar. */
const HAND_S = 4
const REST_S = 2

export const readingTasks = {
  /** Everything that sound rules go by, of one snapshot. */
  async read(task: Task, job: Rendering): Promise<Reading> {
    const { preset, snapshot, sampleRate, quality } = job
    const riff = await ready(job)
    const hand = async (strength: Strength) => {
      const source = riffSource(preset, snapshot, strength)
      return { key: `${riffKey(source, sampleRate)} start`, samples: (await loadRiff(source, sampleRate)).slice(0, HAND_S * sampleRate) }
    }
    const { pickup } = preset.guitar
    const reading = readSnapshot(
      {
        preset,
        snapshot,
        riff: { key: riffKey(job.riff, sampleRate), samples: riff },
        soft: await hand('soft'),
        hard: await hand('hard'),
        rest: { key: `rest ${pickup}`, samples: restingGuitar(REST_S, sampleRate, pickup) },
        sampleRate,
      },
      (of, id, dry) => rendererFor(sampleRate, quality).render({ preset: of, snapshot: id, dryKey: dry.key, dry: dry.samples, sampleRate }),
    )
    for (let next = reading.next(); ; next = reading.next()) {
      if (next.done) return next.value
      await task.breathe()
    }
  },
}
