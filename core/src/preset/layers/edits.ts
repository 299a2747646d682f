import { edit } from '../edit'
import { MAX_LAYERS, type Layer } from './description'

export const layerEdits = {
  addLayer: edit<{ layer: Layer }>((preset, { layer }) => {
    const { layers = [] } = preset
    if (layers.length >= MAX_LAYERS) throw new RangeError(`A mix holds at most ${MAX_LAYERS} layers.`)
    return { ...preset, layers: [...layers, layer] }
  }),
  changeLayer: edit<{ layer: string; change: Partial<Omit<Layer, 'id'>> }>(
    (preset, { layer, change }) => ({
      ...preset,
      layers: (preset.layers ?? []).map((l) => (l.id === layer ? { ...l, ...change } : l)),
    }),
    { joins: ({ layer, change }) => `${layer} ${Object.keys(change).join()}` },
  ),
  removeLayer: edit<{ layer: string }>((preset, { layer }) => ({
    ...preset,
    layers: (preset.layers ?? []).filter((l) => l.id !== layer),
  })),
}
