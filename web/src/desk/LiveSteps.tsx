import { useState, useSyncExternalStore } from 'react'
import { writeWav } from '@fulgor/core/formats'
import { sentenceOf, useUploadRecordingMutation } from '../api/api'
import { session } from '../audio/session'
import { SAMPLE_RATE } from '../threads/rate'
import { handOf } from '@fulgor/core/preset'
import { notified } from '../state/notices'
import { liveChanged } from '../state/player'
import { useAppDispatch, useAppSelector } from '../state/store'
import { useSettings } from '../state/useSettings'
import { figure } from '../ui/format'
import { NumberField } from '../ui/NumberField'
import { quantity } from '@fulgor/core/catalogue'

/** Seconds in which the hardest strum is looked for. */
const TRIM = quantity('db', 'The trim', [-40, 40], 0)

type Attempt = (work: () => Promise<unknown>) => Promise<void>

const CALIBRATION_S = 4

/** dBFS below which no guitar was heard. */
const NOTHING = -70

/** Input level, trim, and the strum that sets it. */
export function Level({ attempt }: { attempt: Attempt }) {
  const dispatch = useAppDispatch()
  const { player } = session
  const { live } = useAppSelector((s) => s.player)
  const preset = useSettings()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const { raw } = useSyncExternalStore(player.meter.subscribe, player.meter.read)
  const [left, setLeft] = useState<number | null>(null)
  if (!preset) return null
  const hand = handOf(preset, lit)
  const hard = hand.pickup.hard.peakDbfs
  const db = 20 * Math.log10(raw + 1e-9) + live.trim
  const calibrate = async () => {
    await player.openInput()
    player.startCalibration()
    for (let s = CALIBRATION_S; s > 0; s--) {
      setLeft(s)
      await new Promise((done) => setTimeout(done, 1000))
    }
    setLeft(null)
    const peak = player.hardestDbfs()
    if (peak < NOTHING)
      throw new Error('nothing was heard at the input. Is the right input and channel chosen, and the guitar’s volume up?')
    const trim = Math.max(-40, Math.min(40, Math.round((hard - peak) * 10) / 10))
    dispatch(liveChanged({ hardPeakDbfs: Math.round(peak * 10) / 10, trim }))
    if (peak > -0.5)
      dispatch(notified({ kind: 'warning', text: 'The strum clipped at the interface: turn its input gain down and calibrate again.' }))
  }
  return (
    <div className="border-t border-rule py-2">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span className="font-semibold">Input trim</span>
        <span className="flex items-baseline gap-3">
          <NumberField spec={TRIM} label="Input trim in dB" value={live.trim} onChange={(trim) => dispatch(liveChanged({ trim }))} />
          <button type="button" className="act" disabled={left !== null} onClick={() => void attempt(calibrate).then(() => setLeft(null))}>
            {left === null ? 'Calibrate' : `Strum as hard as you play … ${left}`}
          </button>
        </span>
      </div>
      <svg width="100%" height="10" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true" className="mt-1 block">
        <path d="M0 5H100" stroke="var(--rule-2)" vectorEffect="non-scaling-stroke" />
        <path
          d={`M0 5H${Math.max(0, Math.min(100, ((db + 60) / 60) * 100))}`}
          stroke="var(--ink)"
          strokeWidth="3"
          vectorEffect="non-scaling-stroke"
        />
        <path d={`M${((hard + 60) / 60) * 100} 0V10`} stroke="var(--lane)" strokeWidth="2" vectorEffect="non-scaling-stroke" />
      </svg>
      <p className="text-[11.5px] text-ink2" data-calibration={live.hardPeakDbfs ?? ''}>
        Now {db < NOTHING ? 'silent' : `${figure(db)} dBFS`}; the mark is a hard strum of “{hand.profile.name}”, {figure(hard, 0)} dBFS.{' '}
        {live.hardPeakDbfs === null
          ? 'Not calibrated: amps break up earlier or later than they should.'
          : `Calibrated: your hardest strum came in at ${figure(live.hardPeakDbfs)} dBFS.`}
      </p>
    </div>
  )
}

export function Latency({ attempt }: { attempt: Attempt }) {
  const { player } = session
  const { live } = useAppSelector((s) => s.player)
  const [busy, setBusy] = useState(false)
  const measure = async () => {
    setBusy(true)
    const ms = await player.measureLatency().finally(() => setBusy(false))
    if (ms === null)
      throw new Error(
        'the chirp did not come back. Loop the output into the input with a cable, or hold the microphone to the loudspeaker.',
      )
  }
  const told = player.outputLatencyMs()
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-t border-rule py-2">
      <span className="font-semibold">Latency</span>
      <span className="flex items-baseline gap-3">
        <span className="num text-label text-ink2" data-latency={live.latencyMs ?? ''}>
          {live.latencyMs !== null
            ? `${figure(live.latencyMs)} ms out and in, measured`
            : told !== null
              ? `${figure(told)} ms out, as the browser tells`
              : 'not measured'}
        </span>
        <button
          type="button"
          className="act"
          disabled={busy}
          onClick={() => void attempt(measure)}
          title="Sends a short chirp out and times its return"
        >
          {busy ? 'Listening …' : 'Measure by loopback'}
        </button>
      </span>
    </div>
  )
}

/** A dry take from the input becomes a riff that every variant is heard on. */
export function Take({ recording, attempt, onTaken }: { recording: boolean; attempt: Attempt; onTaken: (hash: string) => void }) {
  const dispatch = useAppDispatch()
  const { player } = session
  const [upload] = useUploadRecordingMutation()
  const stop = async () => {
    const [samples] = await player.stopTake()
    if (samples.length < SAMPLE_RATE / 10) throw new Error('the take is shorter than a tenth of a second.')
    const name = `Take ${new Date().toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}`
    const answer = await upload({
      file: new File([writeWav([samples], SAMPLE_RATE, 32)], `${name}.wav`, { type: 'audio/wav' }),
      use: 'riff',
    })
    if (answer.error) throw new Error(sentenceOf(answer.error))
    onTaken(answer.data.hash)
    dispatch(
      notified({
        kind: 'note',
        text: `“${answer.data.name}” is kept with your riffs and chosen (${figure(samples.length / SAMPLE_RATE)} s).`,
      }),
    )
  }
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-t border-rule py-2">
      <span className="font-semibold">Dry take</span>
      <span className="flex items-baseline gap-3">
        <span className="text-label text-ink3">{recording ? 'recording, up to two minutes' : 'becomes a riff of this preset'}</span>
        <button type="button" className="act" onClick={() => void attempt(recording ? stop : () => player.startTake())}>
          {recording ? 'Stop and keep' : 'Record'}
        </button>
      </span>
    </div>
  )
}
