import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import type { ResponseAsset } from '@fulgor/core/api'
import { BLEND_FRAMES, type CabDesign, type MicBench } from '@fulgor/core/cabinet'
import { cabSpecs, modelOf } from '@fulgor/core/catalogue'
import { placeOf, resolveStage, stagesOf, type Preset, type StageNode } from '@fulgor/core/preset'
import { cabinetMaker } from '../../threads/crews'
import { useWish } from '../../background/useWish'
import { edit, newId, presentPreset } from '../../state/actions'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { Segments } from '../../ui/Segments'
import { benchFor, cabinetsOf, changeBench } from './bench'
import { ChannelPanel } from './ChannelPanel'
import { ChannelTable } from './ChannelTable'
import { ExportDialog } from './ExportDialog'
import { ConeMap } from './ConeMap'
import { ResponseChart } from './ResponseChart'
import { ResponseList } from './ResponseList'
import { SideView } from './SideView'
import { useAudition } from './useAudition'
import { useBenchPicture } from './useBenchPicture'
import { HeardLine, Loss, CabChoice } from './HeardLine'

/** Loudspeaker, microphones, impulse responses and their blend, for one cabinet of the preset. */
export function BenchView() {
  const preset = useAppSelector(presentPreset)
  const [search, setSearch] = useSearchParams()
  if (!preset) return null
  const cabinets = cabinetsOf(preset)
  const stage = cabinets.find((c) => c.id === search.get('stage')) ?? cabinets.at(0)
  if (!stage) return <NoCabinet preset={preset} />
  const choose = (id: string) =>
    setSearch(
      (now) => {
        now.set('stage', id)
        return now
      },
      { replace: true },
    )
  return <Bench key={stage.id} preset={preset} stage={stage} cabinets={cabinets} onChoose={choose} />
}

function NoCabinet({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const amp = stagesOf(preset.chain).findLast((s) => modelOf(s.model).family === 'amp')
  const place = amp ? placeOf(preset, amp.id) : null
  return (
    <main className="p-6">
      <h1 className="text-title">No cabinet to put microphones at</h1>
      <p className="my-2 max-w-prose text-ink2">The bench belongs to a cabinet stage, and this preset has none.</p>
      <button
        type="button"
        className="btn"
        onClick={() =>
          dispatch(
            edit({
              type: 'addStage',
              stage: newId(),
              model: 'cabinet',
              lane: place?.lane ?? null,
              index: place ? place.index + 1 : preset.chain.length,
            }),
          )
        }
      >
        Add a cabinet{amp ? ' after the amp' : ''}
      </button>
    </main>
  )
}

interface BenchProps {
  preset: Preset
  stage: StageNode
  cabinets: readonly StageNode[]
  onChoose: (id: string) => void
}

function Bench({ preset, stage, cabinets, onChoose }: BenchProps) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const heard = useMemo(() => resolveStage(preset, stage, lit), [preset, stage, lit])
  const bench = benchFor(heard)
  const [chosen, setChosen] = useState<string | null>(null)
  const channel = bench.channels.find((c) => c.id === chosen) ?? bench.channels.at(0)
  const { picture, problem, ms } = useBenchPicture(bench, channel?.id ?? '')
  const [saving, setSaving] = useState(false)
  const [candidate, setCandidate] = useState<ResponseAsset | null>(null)
  const { play, stop } = useAudition(preset, stage)
  const change = (next: MicBench, touched: string) => dispatch(changeBench(stage, next, touched))
  const setCab = (key: keyof CabDesign, value: string) => change({ ...bench, cab: { ...bench.cab, [key]: value } }, `cab ${key}`)
  const curve = useWish(
    cabinetMaker,
    [candidate?.hash],
    () => candidate && cabinetMaker.job('curveOf', [candidate.hash], { keep: 64 }),
  ).answer
  const select = (id: string) => setChosen(id)
  return (
    <main
      data-picture-ms={ms === null ? '' : ms.toFixed(1)}
      className="bench grid min-h-0 min-w-0 grid-cols-[404px_minmax(0,1fr)] max-[1100px]:block max-[1100px]:overflow-y-auto"
    >
      <section aria-label="Microphones" className="min-h-0 overflow-y-auto border-r border-ink px-3 pt-2 pb-3 max-[1100px]:border-r-0">
        <div className="flex items-baseline gap-3">
          <h1 className="text-title">Mic bench</h1>
          {cabinets.length > 1 && (
            <Segments
              label="Cabinet"
              value={stage.id}
              options={cabinets.map((c, i) => [c.id, `Cabinet ${i + 1}`] as const)}
              onChange={onChoose}
            />
          )}
          <span className="ml-auto flex gap-3">
            <button type="button" className="act" onClick={() => setSaving(true)} disabled={bench.channels.length === 0}>
              Save as WAV
            </button>
          </span>
        </div>
        <HeardLine preset={preset} stage={stage} heard={heard} />
        <div className="flex flex-wrap items-center gap-x-3 text-[12px]">
          {(Object.keys(cabSpecs) as (keyof CabDesign)[]).map((key) => (
            <CabChoice
              key={key}
              spec={cabSpecs[key]}
              value={bench.cab[key] ?? cabSpecs[key].initial}
              onChange={(value) => setCab(key, value)}
            />
          ))}
        </div>
        <div className="eyebrow mt-2 border-t border-rule pt-1">
          On the face, from the centre down, mm; drag, or arrow keys <Explain term="face" />
        </div>
        <ConeMap bench={bench} selected={channel?.id ?? ''} onSelect={select} onChange={change} />
        <div className="eyebrow mt-1 border-t border-rule pt-1">From the grille, mm, and turned, °</div>
        <SideView bench={bench} selected={channel?.id ?? ''} onSelect={select} onChange={change} />
        <ChannelTable bench={bench} picture={picture} selected={channel?.id ?? ''} onSelect={select} onChange={change} />
      </section>
      <div className="grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)] max-[1100px]:block">
        <section aria-label="Response" className="border-b border-ink px-4 pt-2 pb-1">
          <div className="flex flex-wrap items-baseline gap-x-3">
            <h2 className="text-[15px]">Response</h2>
            <span className="eyebrow">
              each channel thin, the blend bold; hatched where the blend falls 3 dB or more below the louder channel
            </span>
          </div>
          {problem !== null && (
            <p role="alert" className="font-semibold">
              {problem}
            </p>
          )}
          {picture ? (
            <ResponseChart
              bench={bench}
              picture={picture}
              selected={channel?.id ?? ''}
              candidate={candidate && curve && { name: candidate.name, db: curve }}
              height={236}
            />
          ) : (
            <div style={{ height: 236 }} />
          )}
          <div className="flex flex-wrap items-baseline gap-x-4 pb-1 text-[12px]">
            {picture && bench.channels.length > 1 && (
              <p
                title="Mean of what the blend lies below the louder channel, 80 Hz to 8 kHz by octaves; in brackets the deepest place"
                data-lost={picture.now.lostDb.toFixed(2)}
                data-lost-placed={picture.placed.lostDb.toFixed(2)}
              >
                Lost to cancellation: <Loss {...picture.placed} /> as placed,{' '}
                <b>
                  <Loss {...picture.now} />
                </b>{' '}
                now. <Explain term="lost" />
              </p>
            )}
            <span className="ml-auto flex items-center gap-2">
              <span className="eyebrow">Length</span>
              <Segments
                label="Length of the blend"
                value={String(bench.frames)}
                options={BLEND_FRAMES.map((f) => [String(f), f === 2_048 ? '2,048' : `${f / 48} ms`] as const)}
                onChange={(frames) => change({ ...bench, frames: Number(frames) }, 'frames')}
              />
            </span>
          </div>
        </section>
        <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_minmax(340px,46%)] max-[1100px]:block">
          {channel ? (
            <ChannelPanel key={channel.id} bench={bench} picture={picture} channel={channel} onChange={change} />
          ) : (
            <p className="p-4 text-ink2">Add a microphone, or take a response from the list.</p>
          )}
          <ResponseList
            bench={bench}
            timbre={picture?.timbre ?? null}
            selected={channel?.id ?? ''}
            onChange={change}
            onSelect={select}
            play={play}
            stop={stop}
            onCandidate={setCandidate}
          />
        </div>
      </div>
      <ExportDialog bench={bench} name={`${preset.name} blend`} open={saving} onClose={() => setSaving(false)} />
    </main>
  )
}
