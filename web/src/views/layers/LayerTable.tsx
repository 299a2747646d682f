import { formatValue, layerSpecs } from '@fulgor/core/catalogue'
import { findSnapshot, type Layer, type Preset } from '@fulgor/core/preset'
import { riffNames, useOwnRiffs } from '../../state/riffs'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { figure } from '../../ui/format'
import { Dot, WarningMark } from '../../ui/marks'
import type { Mix } from '../../threads/playing'

interface Props {
  layers: readonly Layer[]
  presetOf: (layer: Layer) => Preset | null
  mix: Mix | null
  selected: string | null
  onSelect: (id: string) => void
}

/** All layers, a row each; the chosen one is edited beside. */
export function LayerTable({ layers, presetOf, mix, selected, onSelect }: Props) {
  const dispatch = useAppDispatch()
  const own = useOwnRiffs()
  const riffName = ({ riff }: Layer) =>
    `${riffNames(own).find(([id]) => id === riff.id)?.[1] ?? 'a riff that is not here'}${(riff.take ?? 1) > 1 ? `, take ${riff.take}` : ''}`
  return (
    <table className="mt-2 w-full text-[12px]" aria-label="Layers of the mix">
      <thead>
        <tr className="border-t border-ink text-label text-ink3 [&>th]:py-1 [&>th]:pl-2 [&>th]:text-right [&>th]:font-normal">
          <th className="w-8" aria-label="On" />
          <th className="!text-left">Snapshot</th>
          <th className="!text-left max-[700px]:hidden">Take</th>
          <th>level</th>
          <th>pan</th>
          <th>delay</th>
          <th>detune</th>
          <th>LUFS in it</th>
        </tr>
      </thead>
      <tbody>
        {layers.map((layer, i) => {
          const preset = presetOf(layer)
          const at = mix?.ids.indexOf(layer.id) ?? -1
          const name = preset ? (findSnapshot(preset, layer.snapshot)?.name ?? '') : 'not there any more'
          return (
            <tr
              key={layer.id}
              aria-selected={layer.id === selected}
              data-layer={i + 1}
              onClick={() => onSelect(layer.id)}
              className={`cursor-pointer border-t border-rule [&>td]:py-1 [&>td]:pl-2 ${layer.id === selected ? 'bg-lit' : 'hover:bg-deep'} ${layer.on ? '' : 'text-ink3'}`}
            >
              <td className="pl-1">
                <button
                  type="button"
                  aria-pressed={layer.on}
                  aria-label={`Layer ${i + 1} ${layer.on ? 'is heard' : 'is silent'}`}
                  className="grid size-6 place-items-center"
                  onClick={(event) => {
                    event.stopPropagation()
                    dispatch(edit({ type: 'changeLayer', layer: layer.id, change: { on: !layer.on } }))
                  }}
                >
                  <Dot on={layer.on} />
                </button>
              </td>
              <td>
                <button type="button" className="text-left" onClick={() => onSelect(layer.id)}>
                  {!preset && <WarningMark />} <b className="font-semibold">{name}</b> <span className="text-ink2">{preset?.name}</span>
                </button>
              </td>
              <td className="text-ink2 max-[700px]:hidden">{riffName(layer)}</td>
              {(['level', 'pan', 'delay', 'detune'] as const).map((key) => (
                <td key={key} className="num text-right">
                  {formatValue(layerSpecs[key], layer[key])}
                </td>
              ))}
              <td className="num text-right">{layer.on && at >= 0 ? figure(mix?.figures.layers[at]?.integratedLufs) : '–'}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
