import { useCallback, useEffect, useState } from 'react'
import { session } from '../audio/session'
import { chooseRiff } from '../state/riffs'
import { liveChanged, type LiveSettings } from '../state/player'
import { useAppDispatch, useAppSelector } from '../state/store'
import { useSettings } from '../state/useSettings'
import { WarningMark } from '../ui/marks'
import { PaperDialog } from '../ui/PaperDialog'
import { Segments } from '../ui/Segments'
import { reasonOf } from '../background/tasks'
import { Level, Latency, Take } from './LiveSteps'

/** The player's own guitar as the input: device, channel, buffer, trim with calibration, latency, and taking a dry riff. */
export function LiveInputDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const { player } = session
  const preset = useSettings()
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
      <Take recording={recording} attempt={attempt} onTaken={(hash) => void dispatch(chooseRiff(hash))} />
      <p className="mt-3 text-[11.5px] text-ink3">
        Echo cancellation, noise suppression and automatic gain are off. Mains and grounding on stage belong to the venue’s or a licensed
        technician.
      </p>
    </PaperDialog>
  )
}
