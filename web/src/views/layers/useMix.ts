import type { Layer, Preset } from '@fulgor/core/preset'
import type { Sides } from '@fulgor/core/render'
import type { Quality } from '@fulgor/core/signal'
import { SAMPLE_RATE } from '../../threads/rate'
import { sourceOf } from '../../threads/riffSource'
import { renderers } from '../../threads/crews'
import type { Job } from '../../background/crew'
import type { Mix } from '../../threads/playing'
import type { RenderTasks } from '../../threads/render.worker'
import { useWish, useWishes } from '../../background/useWish'

interface State {
  readonly mix: Mix | null
  /** Renders that are still to come; 0 when the figures belong to what is set. */
  readonly waiting: number
  readonly problem: string | null
}

/** Tells documents apart by identity: what only moves a layer leaves the chain as it was. */
const numbers = new WeakMap<object, number>()
let count = 0
function numberOf(part: object): number {
  let found = numbers.get(part)
  if (found === undefined) numbers.set(part, (found = ++count))
  return found
}

/** All of a layer's preset that its sound depends on. */
const soundKey = (preset: Preset, layer: Layer, quality: Quality): string =>
  JSON.stringify([
    [preset.chain, preset.snapshots, preset.guitars, preset.hand].map(numberOf),
    preset.tempo,
    layer.snapshot,
    layer.riff,
    quality,
  ])

const renderJob = (preset: Preset, layer: Layer, quality: Quality, home: number): Job<RenderTasks, 'render'> => ({
  task: 'render',
  args: [{ preset, snapshot: layer.snapshot, riff: sourceOf(preset, layer.snapshot, layer.riff), sampleRate: SAMPLE_RATE, quality }],
  key: soundKey(preset, layer, quality),
  home,
  keep: 12,
})

const placementOf = ({ level, pan, delay, detune }: Layer) => ({ level, pan, delay, detune })

/** Renders what is on, two layers at a time, and mixes it; only what changed is rendered again. */
export function useMix(layers: readonly Layer[], presetOf: (layer: Layer) => Preset | null, quality: Quality): State {
  const on = layers.flatMap((layer) => {
    const preset = layer.on ? presetOf(layer) : null
    return preset ? [{ layer, preset }] : []
  })
  const sounds = useWishes(
    renderers,
    [on.map(({ layer, preset }) => soundKey(preset, layer, quality)).join()],
    () => on.map(({ layer, preset }, i) => renderJob(preset, layer, quality, i)),
    { afterMs: 60 },
  )
  const whole = sounds.fresh && sounds.answers.every((s) => s !== undefined)
  const mixed = useWish(
    renderers,
    [sounds.answers, JSON.stringify(on.map(({ layer }) => [layer.id, placementOf(layer)]))],
    () =>
      whole && on.length > 0
        ? renderers.job(
            'mix',
            [on.map(({ layer }, i) => ({ id: layer.id, sides: sounds.answers[i] as Sides, placement: placementOf(layer) })), SAMPLE_RATE],
            { key: null },
          )
        : null,
    { hold: true, afterMs: 30 },
  )
  const problem = sounds.problems.find((p) => p !== undefined) ?? mixed.problem
  const open = (sounds.fresh ? 0 : Math.max(1, sounds.waiting)) + (mixed.fresh && whole ? 0 : 1)
  return { mix: on.length === 0 ? null : mixed.answer, waiting: on.length === 0 || problem !== null ? 0 : open, problem }
}

/** Every layer as it stands in the mix, as long as the mix. */
export async function stems(layers: readonly Layer[], presetOf: (layer: Layer) => Preset | null, quality: Quality): Promise<Sides[]> {
  const sounds = await Promise.all(
    layers.map((layer, i) => {
      const preset = presetOf(layer)
      if (!preset) throw new Error('A layer’s preset is not on the shelf.')
      return renderers.run(renderJob(preset, layer, quality, i))
    }),
  )
  const frames = Math.max(...sounds.map((sides) => sides[0].length))
  return Promise.all(
    layers.map((layer, i) => renderers.run({ task: 'stem', args: [sounds[i], placementOf(layer), frames, SAMPLE_RATE], key: null })),
  )
}
