import { useMemo, useState, type DragEvent } from 'react'
import type { Preset, Snapshot } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { wholeOutput, type WholeOutput } from '../../state/measures'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { PaperDialog } from '../../ui/PaperDialog'
import { AddTakeDialog } from './AddTakeDialog'
import { DeviceLevels } from './DeviceLevels'
import { SoundDifference } from './SoundDifference'
import { measuresOf, problemOf, useRecordings } from './takes'

/** Recordings of the player's own device in a snapshot: measured as the render is, and beside it. */
export function Takes({ preset, snapshot }: { preset: Preset; snapshot: Snapshot }) {
  const dispatch = useAppDispatch()
  const takes = snapshot.takes ?? []
  const found = useRecordings(takes.map((t) => t.file))
  const entry = useAppSelector((s) => s.measures.snapshots[snapshot.id])
  const render = useMemo(() => wholeOutput(entry), [entry])
  const [adding, setAdding] = useState<File | 'empty' | null>(null)
  const [beside, setBeside] = useState<string | null>(null)
  const [levels, setLevels] = useState(false)
  const chosen = takes.find((t) => t.id === beside)
  const onDrop = (event: DragEvent) => {
    event.preventDefault()
    const file = event.dataTransfer.files.item(0)
    if (file) setAdding(file)
  }
  return (
    <section aria-label="Takes" className="text-[12px]" onDragOver={(event) => event.preventDefault()} onDrop={onDrop}>
      <h2 className="mt-2 text-[15px]">Takes of your device</h2>
      {takes.length === 0 && (
        <p className="border-t border-rule py-1 text-[11.5px] text-ink2">Drop a WAV of your device playing this snapshot.</p>
      )}
      {takes.map((take) => {
        const measures = measuresOf(found.get(take.file))
        const problem = problemOf(found.get(take.file))
        return (
          <div key={take.id} className="border-t border-rule py-0.5" data-take={measures?.integratedLufs?.toFixed(2) ?? ''}>
            <div className="flex items-baseline justify-between gap-2">
              <span className="min-w-0 truncate" title={take.note || undefined}>
                <b className="font-semibold">{take.device}</b> <span className="num text-label text-ink2">{take.date}</span>
              </span>
              <span className="num whitespace-nowrap">
                {measures ? `${figure(measures.integratedLufs)} LUFS` : problem ? '' : 'measuring …'}
              </span>
            </div>
            {take.note && <p className="text-[11.5px] leading-[15px] text-ink2">{take.note}</p>}
            {problem && (
              <p className="text-[11.5px]">
                <WarningMark /> {problem}
              </p>
            )}
            <div className="flex gap-3">
              <button type="button" className="act" disabled={!measures} onClick={() => setBeside(take.id)}>
                Beside the render
              </button>
              <PlayFile file={take.file} name={`${take.device}, ${take.date}`} />
              <button
                type="button"
                className="act"
                onClick={() => dispatch(edit({ type: 'removeTake', snapshot: snapshot.id, take: take.id }))}
              >
                Remove
              </button>
            </div>
          </div>
        )
      })}
      <div className="flex flex-wrap gap-x-4 border-t border-rule pt-0.5">
        <button type="button" className="act" onClick={() => setAdding('empty')}>
          Add a take
        </button>
        {preset.snapshots.some((s) => s.takes) && (
          <button type="button" className="act" onClick={() => setLevels(true)}>
            Level from takes
          </button>
        )}
      </div>
      {adding && (
        <AddTakeDialog preset={preset} snapshot={snapshot} first={adding === 'empty' ? null : adding} onClose={() => setAdding(null)} />
      )}
      {levels && <DeviceLevels preset={preset} onClose={() => setLevels(false)} />}
      <PaperDialog
        open={chosen !== undefined}
        onClose={() => setBeside(null)}
        title={`${chosen?.device ?? ''} beside the render of “${snapshot.name}”`}
        wide
      >
        {chosen && <SideBySide take={measuresOf(found.get(chosen.file))} render={render} device={chosen.device} />}
      </PaperDialog>
    </section>
  )
}

type Output = WholeOutput | null

function SideBySide({ take, render, device }: { take: Output; render: Output; device: string }) {
  const rows = [
    ['Loudness, LUFS', take?.integratedLufs, render?.integratedLufs, 1],
    ['Loudness range, LU', take?.rangeLu, render?.rangeLu, 1],
    ['True peak, dBTP', take?.truePeakDbtp, render?.truePeakDbtp, 1],
    ['Crest, dB', take?.crestDb, render?.crestDb, 1],
    ['Brightness, Hz', take?.centroidHz, render?.centroidHz, 0],
  ] as const
  return (
    <>
      <table className="w-full text-[12px]">
        <thead>
          <tr className="text-label text-ink3 [&>th]:text-right [&>th]:font-normal">
            <th className="!text-left">Measured</th>
            <th>{device}</th>
            <th>render</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([label, a, b, places]) => (
            <tr key={label} className="border-t border-rule">
              <td className="py-0.5">{label}</td>
              <td className="num text-right">{figure(a, places)}</td>
              <td className="num text-right">{figure(b, places)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <SoundDifference here={take} there={render} name={`${device} against the render`} matched />
    </>
  )
}

/** Plays a recording as it is. */
function PlayFile({ file, name }: { file: string; name: string }) {
  const [audio, setAudio] = useState<HTMLAudioElement | null>(null)
  const toggle = () => {
    if (audio) {
      audio.pause()
      setAudio(null)
      return
    }
    const made = new Audio(`/api/assets/${file}`)
    made.onended = made.onerror = () => setAudio(null)
    void made.play().catch(() => setAudio(null))
    setAudio(made)
  }
  return (
    <button type="button" className="act" aria-pressed={audio !== null} aria-label={`Hear the take, ${name}`} onClick={toggle}>
      {audio ? 'Stop' : 'Hear it'}
    </button>
  )
}
