import { useEffect, useRef, useState } from 'react'
import type { Layer, Preset } from '@fulgor/core/preset'
import type { MixFigures, Sides } from '@fulgor/core/render'
import type { Quality } from '@fulgor/core/signal'
import { sourceOf } from '../../audio/riffSource'
import { renderWorkers, SAMPLE_RATE } from '../../audio/workers'

export interface Mix {
  readonly sum: Sides
  readonly figures: MixFigures
  /** Layers that are in it, in the order of the figures. */
  readonly ids: readonly string[]
}

interface State {
  readonly mix: Mix | null
  /** Renders that are still to come; 0 when the figures belong to what is set. */
  readonly waiting: number
  readonly problem: string | null
}

const KEPT = 12

/** Tells documents apart by identity: what only moves a layer leaves the chain as it was. */
const numbers = new WeakMap<object, number>()
let count = 0
function numberOf(part: object): number {
  let found = numbers.get(part)
  if (found === undefined) numbers.set(part, (found = ++count))
  return found
}

const rendered = new Map<string, Promise<Sides>>()

function render(preset: Preset, layer: Layer, quality: Quality, worker: number): Promise<Sides> {
  const parts = [preset.chain, preset.snapshots, preset.guitar].map(numberOf)
  const key = JSON.stringify([parts, preset.tempo, layer.snapshot, layer.riff, quality])
  let made = rendered.get(key)
  if (!made) {
    const riff = sourceOf(preset, layer.snapshot, layer.riff)
    const thread = renderWorkers()[worker]
    made = thread
      .render({ preset, snapshot: layer.snapshot, riff, sampleRate: SAMPLE_RATE, quality })
      .then(({ left, right }) => [left, right] as const)
    made.catch(() => rendered.delete(key))
    rendered.set(key, made)
    if (rendered.size > KEPT) rendered.delete([...rendered.keys()][0])
  }
  return made
}

/** Renders what is on, two layers at a time, and mixes it; only what changed is rendered again. */
export function useMix(layers: readonly Layer[], presetOf: (layer: Layer) => Preset | null, quality: Quality): State {
  const [state, setState] = useState<State>({ mix: null, waiting: 0, problem: null })
  const token = useRef(0)
  const on = layers.flatMap((layer) => {
    const preset = layer.on ? presetOf(layer) : null
    return preset ? [{ layer, preset }] : []
  })
  const key = JSON.stringify(on.map(({ layer, preset }) => [layer, numberOf(preset.chain), numberOf(preset.snapshots), preset.tempo]))
  const wanted = useRef(on)
  wanted.current = on
  useEffect(() => {
    const mine = ++token.current
    const now = wanted.current
    if (now.length === 0) {
      setState({ mix: null, waiting: 0, problem: null })
      return
    }
    setState((s) => ({ ...s, waiting: now.length + 1, problem: null }))
    const run = async () => {
      await new Promise((done) => setTimeout(done, 60))
      if (mine !== token.current) return
      const sounds = await Promise.all(
        now.map(async ({ layer, preset }, i) => {
          const sides = await render(preset, layer, quality, i % 2)
          if (mine === token.current) setState((s) => ({ ...s, waiting: Math.max(1, s.waiting - 1) }))
          return { sides, placement: { level: layer.level, pan: layer.pan, delay: layer.delay, detune: layer.detune } }
        }),
      )
      if (mine !== token.current) return
      const { sum, figures } = await renderWorkers()[0].mix(sounds, SAMPLE_RATE)
      if (mine === token.current) setState({ mix: { sum, figures, ids: now.map(({ layer }) => layer.id) }, waiting: 0, problem: null })
    }
    run().catch((error: unknown) => {
      if (mine === token.current) setState((s) => ({ ...s, waiting: 0, problem: error instanceof Error ? error.message : String(error) }))
    })
  }, [key, quality])
  return state
}

/** Every layer as it stands in the mix, as long as the mix. */
export async function stems(layers: readonly Layer[], presetOf: (layer: Layer) => Preset | null, quality: Quality): Promise<Sides[]> {
  const sounds = await Promise.all(
    layers.map(async (layer, i) => {
      const preset = presetOf(layer)
      if (!preset) throw new Error('A layer’s preset is not on the shelf.')
      return { layer, sides: await render(preset, layer, quality, i % 2) }
    }),
  )
  const frames = Math.max(...sounds.map(({ sides }) => sides[0].length))
  return Promise.all(
    sounds.map(({ layer: { level, pan, delay, detune }, sides }) =>
      renderWorkers()[0].stem(sides, { level, pan, delay, detune }, frames, SAMPLE_RATE),
    ),
  )
}
