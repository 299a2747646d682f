import { cabinetResponses, synthesiseResponse } from '@fulgor/core/cabinet'
import { mixLayers, placeLayer, type MixFigures, type Placement, type Sides } from '@fulgor/core/render'
import type { Task } from '../background/tasks'
import { loadRiff, ready, renderWhole, type Rendering, type RiffSource } from './sounds'

export interface Mix {
  readonly sum: Sides
  readonly figures: MixFigures
  /** Layers that are in it, in the order of the figures. */
  readonly ids: readonly string[]
}

export const playingTasks = {
  /** A dry signal, mono. */
  riff: (_task: Task, source: RiffSource, sampleRate: number): Promise<Float32Array> => loadRiff(source, sampleRate),

  /** The shipped impulse responses, by id. */
  responses: (_task: Task, sampleRate: number): Record<string, Float64Array> =>
    Object.fromEntries(cabinetResponses.map(({ id }) => [id, synthesiseResponse(id, sampleRate)])),

  async render(task: Task, job: Rendering): Promise<Sides> {
    const { left, right } = await renderWhole(task, job, await ready(job))
    return [left, right]
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
