import { zipSync } from 'fflate'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { writeWav } from '@fulgor/core/formats'
import { createLayer, findSnapshot, MAX_LAYERS, MAX_RIFF_TAKES, riffOf, type Layer, type Preset } from '@fulgor/core/preset'
import type { Sides } from '@fulgor/core/render'
import { session } from '../../audio/session'
import { isShipped } from '@fulgor/core/reading'
import { SAMPLE_RATE } from '../../threads/rate'
import { edit, newId, presentPreset } from '../../state/actions'
import { notified } from '../../state/notices'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { download, fileName } from '../../ui/files'
import { WarningMark } from '../../ui/marks'
import { LayerPanel } from './LayerPanel'
import { LayerTable } from './LayerTable'
import { MixPicture } from './MixPicture'
import { stems, useMix } from './useMix'
import { usePresets } from './usePresets'
import { reasonOf } from '../../background/tasks'

/** A preset together with others, each on a take of its own: what they are as a sum. */
export function LayersView() {
  const dispatch = useAppDispatch()
  const { player } = session
  const preset = useAppSelector(presentPreset)
  const id = useAppSelector((s) => s.editor.id)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const quality = useAppSelector((s) => s.player.quality)
  const playing = useAppSelector((s) => s.player.playing)
  const [chosen, setChosen] = useState<string | null>(null)
  const [hearing, setHearing] = useState(false)
  const layers = preset?.layers ?? []
  const others = usePresets(layers)
  const presetOf = (layer: Layer): Preset | null => {
    const found = layer.preset === null || layer.preset === id ? preset : (others.get(layer.preset) ?? null)
    return found && findSnapshot(found, layer.snapshot) ? found : null
  }
  const { mix, waiting, problem } = useMix(layers, presetOf, quality)
  const sum = mix?.sum ?? null

  useEffect(() => {
    if (hearing && sum) void player.playSound(sum)
  }, [hearing, sum, player])
  useEffect(() => () => player.stopSound(), [player])
  // the riff's own playing ends the mix
  useEffect(() => {
    if (playing) setHearing(false)
  }, [playing])

  if (!preset) return null
  const selected = layers.find((l) => l.id === chosen) ?? layers.at(0)
  const add = (layer: Layer, ...more: Layer[]) => {
    dispatch(edit({ type: 'all', edits: [layer, ...more].map((l) => ({ type: 'addLayer', layer: l }) as const) }))
    setChosen(layer.id)
  }
  const fresh = (): Layer => {
    const snapshot = findSnapshot(preset, lit)?.id ?? preset.snapshots[0].id
    return createLayer(newId(), null, snapshot, riffOf(preset, snapshot))
  }
  /** The same part played twice, one to each side. */
  const double = () => {
    const first = selected ?? fresh()
    const second = { ...first, id: newId(), pan: 100, riff: nextTake(first) }
    if (selected)
      dispatch(
        edit({
          type: 'all',
          edits: [
            { type: 'changeLayer', layer: first.id, change: { pan: -100 } },
            { type: 'addLayer', layer: second },
          ],
        }),
      )
    else add({ ...first, pan: -100 }, second)
  }
  const attempt = (work: () => Promise<void>) =>
    work().catch((error: unknown) => dispatch(notified({ kind: 'warning', text: `Nothing was written: ${reasonOf(error)}` })))
  const wav = ([left, right]: Sides) =>
    writeWav(
      [left, right].map((side) => Float32Array.from(side)),
      SAMPLE_RATE,
      24,
    )
  const together = () => {
    if (!mix) return
    download(`${fileName(preset.name, 'layers')}.wav`, wav(mix.sum), 'audio/wav')
  }
  const apart = async () => {
    const on = layers.filter((l) => l.on)
    const sounds = await stems(on, presetOf, 'highest')
    const files = Object.fromEntries(
      sounds.map((sides, i) => [
        `${i + 1}-${fileName(presetOf(on[i])?.name ?? '', findSnapshot(presetOf(on[i]) as Preset, on[i].snapshot)?.name ?? '')}.wav`,
        wav(sides),
      ]),
    )
    download(`${fileName(preset.name, 'stems')}.zip`, zipSync(files, { level: 0 }), 'application/zip')
  }
  const peak = mix?.figures.output.truePeakDbtp ?? null
  return (
    <main className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_var(--focus-w)] overflow-hidden max-[1100px]:grid-cols-1 max-[1100px]:overflow-auto max-[700px]:block">
      <section
        aria-label="Layers"
        className="min-h-0 min-w-0 overflow-auto px-3.5 pt-[9px] pb-4"
        data-mix={waiting === 0 && mix ? mix.figures.output.integratedLufs?.toFixed(2) : ''}
      >
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="text-title leading-[1.15]">
            Layers <Explain term="layers" />
          </h1>
          <span className="eyebrow">what is heard together, as in a mix</span>
          <Link className="act ml-auto text-[12px]" to={`/sheet/${id}`}>
            Back to the sheet
          </Link>
        </div>
        {layers.length === 0 ? (
          <p className="mt-3 max-w-[56ch] text-ink2">
            Nothing is layered yet. Add the lit snapshot, double it with a second take, or put other presets beside it: the sum’s loudness,
            width, what mono takes away and what piles up are measured.
          </p>
        ) : (
          <LayerTable layers={layers} presetOf={presetOf} mix={mix} selected={selected?.id ?? null} onSelect={setChosen} />
        )}
        <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <button
            type="button"
            className="btn btn-filled"
            disabled={!mix}
            aria-pressed={hearing}
            onClick={() => (hearing ? (setHearing(false), player.stopSound()) : setHearing(true))}
          >
            {hearing ? 'Stop the mix' : 'Hear the mix'}
          </button>
          <button type="button" className="act" disabled={layers.length >= MAX_LAYERS} onClick={() => add(fresh())}>
            Add a layer
          </button>
          <button
            type="button"
            className="act"
            disabled={layers.length >= MAX_LAYERS}
            onClick={double}
            title="The same notes struck again, one take to each side"
          >
            Double it
          </button>
          <button type="button" className="act" disabled={!mix || waiting > 0} onClick={together}>
            WAV together
          </button>
          <button
            type="button"
            className="act"
            disabled={!mix || waiting > 0}
            onClick={() => void attempt(apart)}
            title="One WAV each in a zip, highest quality"
          >
            WAV each
          </button>
          <span className="text-label text-ink3" aria-live="polite">
            {waiting > 0 && `rendering, ${waiting} to go`}
          </span>
        </div>
        {problem && (
          <p role="alert" className="mt-1 font-semibold">
            <WarningMark /> {problem}
          </p>
        )}
        {peak !== null && peak > 0 && (
          <p className="mt-1">
            <WarningMark /> The sum peaks {peak.toFixed(1)} dB above full scale: a WAV of it clips. Take the layers down.
          </p>
        )}
        {mix && <MixPicture mix={mix} stale={waiting > 0} />}
      </section>
      <LayerPanel preset={preset} layer={selected ?? null} other={selected ? presetOf(selected) : null} onRemoved={() => setChosen(null)} />
    </main>
  )
}

/** Another performance of the same part, where there is one. */
const nextTake = ({ riff }: Layer): Layer['riff'] =>
  isShipped(riff.id) ? { ...riff, take: ((riff.take ?? 1) % MAX_RIFF_TAKES) + 1 } : riff
