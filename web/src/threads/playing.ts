import { cabinetResponses, synthesiseResponse } from '@fulgor/core/cabinet'
import { loudness } from '@fulgor/core/measure'
import { looped, type Part } from '@fulgor/core/recording'
import { dbToGain, resample } from '@fulgor/core/signal'
import { mixLayers, placeLayer, type MixFigures, type Placement, type Sides } from '@fulgor/core/render'
import type { Task } from '../background/tasks'
import { fetchWav, loadRiff, ready, renderWhole, type Rendering, type RiffSource } from './sounds'

/** A band to play along with: a stored file, what of it is looped (s), and how loud. */
export interface Backing {
  readonly file: string
  readonly part: Part | null
  readonly lufs: number
}

export interface Mix {
  readonly sum: Sides
  readonly figures: MixFigures
  /** Layers that are in it, in the order of the figures. */
  readonly ids: readonly string[]
}

export const playingTasks = {
  /** A dry signal, mono. */
  riff: async (_task: Task, source: RiffSource, sampleRate: number): Promise<Float32Array> => (await loadRiff(source, sampleRate)).slice(),

  /** A backing's loop at a loudness, both sides. */
  async backing(_task: Task, { file, part, lufs }: Backing, sampleRate: number): Promise<[Float32Array, Float32Array]> {
    const { channels, sampleRate: rate } = await fetchWav(file, 'The backing of this place is not on this machine.')
    const sides = [channels[0], channels.at(1) ?? channels[0]].map((x) => looped(resample(x, rate, sampleRate), part, sampleRate))
    const found = loudness(sides, sampleRate).integratedLufs
    const gain = found === null ? 1 : dbToGain(lufs - found)
    return [sides[0].map((x) => x * gain), sides[1].map((x) => x * gain)]
  },

  /** The shipped impulse responses, by id. */
  responses: (_task: Task, sampleRate: number): Record<string, Float64Array> =>
    Object.fromEntries(cabinetResponses.map(({ id }) => [id, synthesiseResponse(id, sampleRate)])),

  async render(task: Task, job: Rendering): Promise<Sides> {
    const { left, right } = await renderWhole(task, job, await ready(job))
    // the page gets samples of its own: what lies in shared memory may not go into an audio buffer
    const own = left.slice()
    return [own, right === left ? own : right.slice()]
  },

  /** Places layers in a mix and measures their sum; a shorter one is played again until the longest ends. */
  async mix(task: Task, layers: readonly { id: string; sides: Sides; placement: Placement }[], sampleRate: number): Promise<Mix> {
    const frames = Math.max(...layers.map(({ sides }) => sides[0].length))
    const placed: Sides[] = []
    for (const { sides, placement } of layers) {
      placed.push(placeLayer(sides, placement, frames, sampleRate))
      await task.breathe()
    }
    return { ...mixLayers(placed, sampleRate), ids: layers.map(({ id }) => id) }
  },

  /** One layer as it stands in a mix of so many frames. */
  stem: (_task: Task, sides: Sides, placement: Placement, frames: number, sampleRate: number): Sides =>
    placeLayer(sides, placement, frames, sampleRate),
}
