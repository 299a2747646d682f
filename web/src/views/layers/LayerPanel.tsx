import type { ReactNode } from 'react'
import { layerSpecs, type LayerParam } from '@fulgor/core/catalogue'
import { firstNullHz } from '@fulgor/core/cabinet'
import { MAX_RIFF_TAKES, type Layer, type Preset } from '@fulgor/core/preset'
import { distanceOf } from '@fulgor/core/stage'
import { api } from '../../api/api'
import { isShipped } from '@fulgor/core/reading'
import { edit } from '../../state/actions'
import { riffFor, riffNames, useOwnRiffs } from '../../state/riffs'
import { notified } from '../../state/notices'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { ParamRow } from '../../ui/ParamRow'
import { Pick } from '../../ui/Pick'
import { PICKINGS } from '../../ui/riffWords'
import { Segments } from '../../ui/Segments'
import { PresetPick } from '../../desk/PresetPick'

interface Props {
  preset: Preset
  layer: Layer | null
  /** The preset that the layer is of. */
  other: Preset | null
  onRemoved: () => void
}

/** The chosen layer: what it plays, on which take, and where it stands in the mix. */
export function LayerPanel({ preset, layer, other, onRemoved }: Props) {
  const dispatch = useAppDispatch()
  const id = useAppSelector((s) => s.editor.id)
  const own = useOwnRiffs()
  const side = 'min-h-0 overflow-y-auto border-l border-ink bg-paper px-4 pt-2 pb-4 max-[1100px]:border-t max-[1100px]:border-l-0'
  if (!layer)
    return (
      <aside aria-label="Layer" className={side}>
        <p className="text-ink2">Add a layer to place it here.</p>
      </aside>
    )
  const change = (part: Partial<Layer>) => dispatch(edit({ type: 'changeLayer', layer: layer.id, change: part }))
  const choosePreset = async (chosen: string | null) => {
    if (chosen === null) return change({ preset: null, snapshot: preset.snapshots[0].id })
    const { data } = await dispatch(api.endpoints.preset.initiate(chosen, { forceRefetch: true, subscribe: false }))
    if (data) change({ preset: chosen, snapshot: data.document.snapshots[0].id })
    else dispatch(notified({ kind: 'warning', text: 'That preset could not be read; the layer stays as it was.' }))
  }
  const snapshots = (other ?? preset).snapshots
  const { metres, feet } = distanceOf(layer.delay)
  const words: Partial<Record<LayerParam, string | null>> = {
    delay:
      layer.delay > 0
        ? `${figure(metres, 1)} m or ${figure(feet, 1)} ft of air; first null in mono ${figure(firstNullHz(layer.delay * 1000), 0)} Hz`
        : null,
    detune: layer.detune === 0 ? null : `beats ${figure(440 * Math.abs(Math.pow(2, layer.detune / 1200) - 1), 2)} times a second at A 440`,
  }
  return (
    <aside aria-label="Layer" className={side}>
      <h2 className="text-title leading-tight">{snapshots.find((s) => s.id === layer.snapshot)?.name ?? 'Layer'}</h2>
      <div className="mt-1 text-[12px]">
        <Line name="Preset">
          <PresetPick
            value={layer.preset}
            name={layer.preset === null ? 'this one' : (other?.name ?? 'gone from the shelf')}
            open={id}
            onChange={(chosen) => void choosePreset(chosen)}
          />
        </Line>
        <Line name="Snapshot">
          <Pick
            label="Snapshot of the layer"
            value={layer.snapshot}
            options={snapshots.map((s) => [s.id, s.name] as const)}
            onChange={(snapshot) => change({ snapshot })}
          />
        </Line>
        <Line name="Riff">
          <Pick
            label="Riff of the layer"
            value={layer.riff.id}
            options={riffNames(own)}
            onChange={(id) => change({ riff: riffFor(other ?? preset, layer.riff, id, own) })}
          />
        </Line>
        {isShipped(layer.riff.id) && (
          <>
            <Line name="Take">
              <Segments
                label="Take of the riff"
                value={String(layer.riff.take ?? 1)}
                options={Array.from({ length: MAX_RIFF_TAKES }, (_, i) => [String(i + 1), String(i + 1)] as const)}
                onChange={(take) => change({ riff: { ...layer.riff, take: Number(take) } })}
              />
            </Line>
            <Line name="Picking">
              <Segments
                label="Picking of the layer"
                value={layer.riff.strength}
                options={PICKINGS}
                onChange={(strength) => change({ riff: { ...layer.riff, strength } })}
              />
            </Line>
          </>
        )}
      </div>
      <div className="mt-1 border-t border-rule">
        {(Object.keys(layerSpecs) as LayerParam[]).map((key) => (
          <ParamRow
            key={key}
            name={key}
            spec={layerSpecs[key]}
            value={layer[key]}
            base={null}
            own={false}
            held={null}
            inert={null}
            note={words[key] ?? null}
            onChange={(value) => change({ [key]: value })}
            onReset={() => change({ [key]: layerSpecs[key].initial })}
          />
        ))}
      </div>
      <button
        type="button"
        className="act mt-1"
        onClick={() => {
          dispatch(edit({ type: 'removeLayer', layer: layer.id }))
          onRemoved()
        }}
      >
        Remove the layer
      </button>
    </aside>
  )
}

const Line = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="flex min-h-6 items-baseline justify-between gap-2 border-t border-rule py-0.5">
    <span className="text-ink2">{name}</span>
    {children}
  </div>
)
