import { useState } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import { DEFAULT_EXPORT, type ExportSettings, type MicBench } from '@fulgor/core/cabinet'
import { cabinetMaker } from '../../threads/crews'
import { reasonOf } from '../../background/tasks'
import { download, fileName } from '../../ui/files'
import { figure } from '../../ui/format'
import { PaperDialog } from '../../ui/PaperDialog'
import { Segments } from '../../ui/Segments'
import { NumberField } from '../../ui/NumberField'

const LENGTHS = { short: (2_048 / 48_000) * 1000, room: 200, long: 500 } as const
type Length = keyof typeof LENGTHS

/** The blend as a WAV that loads into any device. */
export function ExportDialog({ bench, name, open, onClose }: { bench: MicBench; name: string; open: boolean; onClose: () => void }) {
  const [settings, setSettings] = useState<ExportSettings>(DEFAULT_EXPORT)
  const [problem, setProblem] = useState<string | null>(null)
  const [done, setDone] = useState<string | null>(null)
  const set = (change: Partial<ExportSettings>) => {
    setSettings((s) => ({ ...s, ...change }))
    setDone(null)
  }
  const length = (Object.keys(LENGTHS) as Length[]).find((key) => LENGTHS[key] === settings.lengthMs) ?? 'short'
  const frames = Math.round((settings.lengthMs / 1000) * settings.sampleRate)
  const save = async () => {
    setProblem(null)
    try {
      const { bytes, gainDb, heldDb } = await cabinetMaker.run({ task: 'export', args: [bench, settings], key: null })
      const file = `${fileName(name)}-${settings.sampleRate}-${settings.bits}.wav`
      download(file, bytes, 'audio/wav')
      setDone(
        `${file}: ${figure(gainDb, 1, true)} dB against the bench${heldDb < -0.01 ? `, held ${figure(heldDb)} dB lower so that ${settings.bits} bits do not clip` : ''}.`,
      )
    } catch (error) {
      setProblem(reasonOf(error))
    }
  }
  return (
    <PaperDialog open={open} onClose={onClose} title="Save the blend as an impulse response">
      <dl className="grid grid-cols-[110px_1fr] items-center gap-y-2">
        <dt className="text-ink2">Sample rate</dt>
        <dd>
          <Segments
            label="Sample rate"
            value={String(settings.sampleRate)}
            options={[
              ['44100', '44.1 kHz'],
              ['48000', '48 kHz'],
              ['96000', '96 kHz'],
            ]}
            onChange={(rate) => set({ sampleRate: Number(rate) as ExportSettings['sampleRate'] })}
          />
        </dd>
        <dt className="text-ink2">Bits</dt>
        <dd>
          <Segments
            label="Bits"
            value={String(settings.bits)}
            options={[
              ['16', '16'],
              ['24', '24'],
              ['32', '32 float'],
            ]}
            onChange={(bits) => set({ bits: Number(bits) as ExportSettings['bits'] })}
          />
        </dd>
        <dt className="text-ink2">Length</dt>
        <dd className="flex flex-wrap items-center gap-3">
          <Segments
            label="Length"
            value={length}
            options={[
              ['short', '2,048 at 48 kHz'],
              ['room', '200 ms'],
              ['long', '500 ms'],
            ]}
            onChange={(next) => set({ lengthMs: LENGTHS[next] })}
          />
          <span className="num text-label text-ink3">{frames.toLocaleString('en-GB')} samples</span>
        </dd>
        <dt className="text-ink2">Fade at the end</dt>
        <dd>
          <NumberField
            spec={quantity('ms', 'Fade in ms', [0, settings.lengthMs / 2])}
            value={settings.fadeMs}
            className="num w-[90px] border-b border-control bg-transparent outline-none"
            onChange={(fadeMs) => set({ fadeMs })}
          />
        </dd>
        <dt className="text-ink2">Phase</dt>
        <dd>
          <Segments
            label="Phase"
            value={settings.minimumPhase ? 'minimum' : 'as-is'}
            options={[
              ['as-is', 'As it is'],
              ['minimum', 'Minimum phase'],
            ]}
            onChange={(phase) => set({ minimumPhase: phase === 'minimum' })}
          />
        </dd>
        <dt className="text-ink2">Level</dt>
        <dd>
          <Segments
            label="Level"
            value={settings.normalise}
            options={[
              ['peak', 'Peak at −0.3 dBFS'],
              ['loudness', 'As loud as without it'],
            ]}
            onChange={(normalise) => set({ normalise })}
          />
        </dd>
      </dl>
      {problem !== null && (
        <p role="alert" className="mt-2 font-semibold">
          Nothing was saved: {problem}
        </p>
      )}
      {done !== null && (
        <p role="status" className="mt-2 text-ink2">
          {done}
        </p>
      )}
      <div className="mt-4 flex gap-4">
        <button type="button" className="btn btn-filled" onClick={() => void save()}>
          Save as WAV
        </button>
      </div>
    </PaperDialog>
  )
}
