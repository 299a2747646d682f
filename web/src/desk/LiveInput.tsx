import { useCallback, useEffect, useState, useSyncExternalStore } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import { writeWav } from '@fulgor/core/formats'
import { sentenceOf, useUploadRiffMutation } from '../api/api'
import { useSession } from '../audio/session'
import { SAMPLE_RATE } from '../threads/rate'
import { edit, presentPreset } from '../state/actions'
import { notified } from '../state/notices'
import { liveChanged, type LiveSettings } from '../state/player'
import { useAppDispatch, useAppSelector } from '../state/store'
import { figure } from '../ui/format'
import { WarningMark } from '../ui/marks'
import { PaperDialog } from '../ui/PaperDialog'
import { Segments } from '../ui/Segments'
import { NumberField } from '../ui/NumberField'
import { reasonOf } from '../background/tasks'

/** Seconds in which the hardest strum is looked for. */
const TRIM = quantity('db', 'The trim', [-40, 40], 0)
const CALIBRATION_S = 4
/** dBFS below which no guitar was heard. */
const NOTHING = -70

/** The player's own guitar as the input: device, channel, buffer, trim with calibration, latency, and taking a dry riff. */
export function LiveInputDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const { player } = useSession()
  const preset = useAppSelector(presentPreset)
  const { source, live, recording } = useAppSelector((s) => s.player)
  const [devices, setDevices] = useState<MediaDeviceInfo[]>([])
  const [problem, setProblem] = useState<string | null>(null)

  const list = useCallback(() => player.inputs().then(setDevices, () => setDevices([])), [player])
  useEffect(() => {
    if (!open) return
    void list()
    const changed = () => void list()
    navigator.mediaDevices?.addEventListener('devicechange', changed)
    return () => navigator.mediaDevices?.removeEventListener('devicechange', changed)
  }, [open, list])

  if (!preset) return null
  const attempt = async (work: () => Promise<unknown>) => {
    setProblem(null)
    try {
      await work()
      await list()
    } catch (error) {
      setProblem(reasonOf(error))
    }
  }
  const field = 'flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 border-t border-rule py-2'
  return (
    <PaperDialog open={open} onClose={onClose} title="Play through it">
      <p className="mb-2 text-ink2">
        Your guitar through an audio interface’s instrument input, or a microphone. Use headphones: a loudspeaker near a microphone feeds
        back. Start turned down.
      </p>
      {!navigator.mediaDevices && (
        <p role="alert" className="mb-2 font-semibold">
          <WarningMark /> This browser gives a page no input here: open Fulgor at 127.0.0.1 or localhost, or over HTTPS.
        </p>
      )}
      {problem !== null && (
        <p role="alert" className="mb-2 font-semibold">
          <WarningMark /> Not done: {problem}
        </p>
      )}
      <div className={field}>
        <span className="font-semibold">Plays</span>
        <Segments
          label="Source"
          value={source}
          options={[
            ['riff', 'The dry riff'],
            ['live', 'My guitar'],
          ]}
          onChange={(next) => void attempt(() => player.chooseSource(next))}
        />
      </div>
      <div className={field}>
        <label htmlFor="live-device" className="font-semibold">
          Input
        </label>
        <select
          id="live-device"
          className="field max-w-[260px]"
          value={live.deviceId}
          onChange={(event) => {
            const deviceId = event.currentTarget.value
            void attempt(() => player.changeLive({ deviceId }))
          }}
        >
          <option value="">The browser’s default</option>
          {devices
            .filter((d) => d.deviceId !== '' && d.deviceId !== 'default')
            .map((d, i) => (
              <option key={d.deviceId} value={d.deviceId}>
                {d.label || `Input ${i + 1}`}
              </option>
            ))}
        </select>
      </div>
      <div className={field}>
        <span className="font-semibold">Channel</span>
        <Segments
          label="Channel"
          value={live.channel}
          options={[
            ['left', '1, left'],
            ['right', '2, right'],
            ['sum', 'Both'],
          ]}
          onChange={(channel) => dispatch(liveChanged({ channel }))}
        />
      </div>
      <div className={field}>
        <span className="font-semibold">Buffer</span>
        <Segments
          label="Buffer"
          value={live.buffer}
          options={[
            ['smallest', 'Smallest'],
            ['balanced', 'Balanced'],
            ['safe', 'Safest'],
          ]}
          onChange={(buffer: LiveSettings['buffer']) => void attempt(() => player.changeLive({ buffer }))}
        />
      </div>
      <Level attempt={attempt} />
      <Latency attempt={attempt} />
      <Take
        recording={recording}
        attempt={attempt}
        onTaken={(hash) => dispatch(edit({ type: 'setRiff', riff: { ...preset.riff, id: hash } }))}
      />
      <p className="mt-3 text-[11.5px] text-ink3">
        Echo cancellation, noise suppression and automatic gain are off. Mains and grounding on stage belong to the venue’s or a licensed
        technician.
      </p>
    </PaperDialog>
  )
}

type Attempt = (work: () => Promise<unknown>) => Promise<void>

/** Input level, trim, and the strum that sets it. */
function Level({ attempt }: { attempt: Attempt }) {
  const dispatch = useAppDispatch()
  const { player } = useSession()
  const { live } = useAppSelector((s) => s.player)
  const guitar = useAppSelector((s) => presentPreset(s)?.guitar)
  const { raw } = useSyncExternalStore(player.meter.subscribe, player.meter.read)
  const [left, setLeft] = useState<number | null>(null)
  if (!guitar) return null
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
    const trim = Math.max(-40, Math.min(40, Math.round((guitar.hardPeakDbfs - peak) * 10) / 10))
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
        <path
          d={`M${((guitar.hardPeakDbfs + 60) / 60) * 100} 0V10`}
          stroke="var(--lane)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <p className="text-[11.5px] text-ink2" data-calibration={live.hardPeakDbfs ?? ''}>
        Now {db < NOTHING ? 'silent' : `${figure(db)} dBFS`}; the mark is a hard strum of “{guitar.name}”, {figure(guitar.hardPeakDbfs, 0)}{' '}
        dBFS.{' '}
        {live.hardPeakDbfs === null
          ? 'Not calibrated: amps break up earlier or later than they should.'
          : `Calibrated: your hardest strum came in at ${figure(live.hardPeakDbfs)} dBFS.`}
      </p>
    </div>
  )
}

function Latency({ attempt }: { attempt: Attempt }) {
  const { player } = useSession()
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
function Take({ recording, attempt, onTaken }: { recording: boolean; attempt: Attempt; onTaken: (hash: string) => void }) {
  const dispatch = useAppDispatch()
  const { player } = useSession()
  const [upload] = useUploadRiffMutation()
  const stop = async () => {
    const [samples] = await player.stopTake()
    if (samples.length < SAMPLE_RATE / 10) throw new Error('the take is shorter than a tenth of a second.')
    const name = `Take ${new Date().toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}`
    const answer = await upload(new File([writeWav([samples], SAMPLE_RATE, 32)], `${name}.wav`, { type: 'audio/wav' }))
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
