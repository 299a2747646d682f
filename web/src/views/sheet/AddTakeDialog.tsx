import { useEffect, useRef, useState, type DragEvent } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import { readSound, writeWav } from '@fulgor/core/formats'
import { deviceFields, takeFields, type Preset, type Snapshot } from '@fulgor/core/preset'
import { sentenceOf, useUploadTakeMutation } from '../../api/api'
import { session } from '../../audio/session'
import { SAMPLE_RATE } from '../../threads/rate'
import { edit, newId } from '../../state/actions'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { NumberField } from '../../ui/NumberField'
import { PaperDialog } from '../../ui/PaperDialog'
import { reasonOf } from '../../background/tasks'

interface Recorded {
  readonly name: string
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly seconds: number
}

/** s; the loudness of less says little. */
const SHORTEST = 1

const today = (): string => new Date().toLocaleDateString('sv-SE')

async function fromFile(file: File): Promise<Recorded> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  const { channels, sampleRate } = readSound(bytes)
  const plain = /\.wav$/i.test(file.name) ? bytes : writeWav(channels, sampleRate, 32)
  return { name: file.name, bytes: plain, seconds: channels[0].length / sampleRate }
}

/** The recording, or why it is none. */
async function read(work: () => Promise<Recorded>, what: string): Promise<Recorded | string> {
  try {
    const found = await work()
    if (found.seconds < SHORTEST) throw new Error(`it is shorter than ${SHORTEST} s.`)
    return found
  } catch (error) {
    return `${what} was not taken: ${reasonOf(error)}`
  }
}

/** A take comes in: dropped, chosen or recorded; then what it is of. */
export function AddTakeDialog({
  preset,
  snapshot,
  first,
  onClose,
}: {
  preset: Preset
  snapshot: Snapshot
  first: File | null
  onClose: () => void
}) {
  const dispatch = useAppDispatch()
  const { player } = session
  const recording = useAppSelector((s) => s.player.recording)
  const [upload, { isLoading }] = useUploadTakeMutation()
  const last = preset.snapshots.flatMap((s) => s.takes ?? []).at(-1)
  const [sound, setSound] = useState<Recorded | null>(null)
  const [device, setDevice] = useState(last?.device ?? preset.device?.name ?? '')
  const [date, setDate] = useState(today)
  const [note, setNote] = useState('')
  const [mark, setMark] = useState<number | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const input = useRef<HTMLInputElement>(null)

  const take = async (work: () => Promise<Recorded>, what: string) => {
    setProblem(null)
    show(await read(work, what))
  }
  const show = (found: Recorded | string) => (typeof found === 'string' ? setProblem(found) : setSound(found))
  const takeFile = (file: File | null | undefined) => {
    if (file) void take(() => fromFile(file), file.name)
  }
  useEffect(() => {
    if (first)
      void read(() => fromFile(first), first.name).then((found) => (typeof found === 'string' ? setProblem(found) : setSound(found)))
  }, [first])
  const stop = () =>
    take(async () => {
      const channels = await player.stopTake()
      return { name: `Take of ${snapshot.name}.wav`, bytes: writeWav(channels, SAMPLE_RATE, 32), seconds: channels[0].length / SAMPLE_RATE }
    }, 'The recording')
  const start = async () => {
    setProblem(null)
    try {
      await player.startTake(true)
    } catch (error) {
      setProblem(`Nothing is recorded: ${reasonOf(error)}`)
    }
  }
  const onDrop = (event: DragEvent) => {
    event.preventDefault()
    event.stopPropagation()
    takeFile(event.dataTransfer.files.item(0))
  }
  const keep = async () => {
    if (!sound) return setProblem('There is no recording yet: drop a WAV, choose one, or record.')
    if (device.trim() === '') return setProblem('Device: say what was recorded, so that the take can be told from others.')
    if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) return setProblem('Date: choose a day.')
    const answer = await upload({ name: sound.name, bytes: sound.bytes })
    if (answer.error) return setProblem(sentenceOf(answer.error))
    const made = { id: newId(), file: answer.data.hash, device: device.trim(), date, note: note.trim(), setting: mark }
    dispatch(edit({ type: 'addTake', snapshot: snapshot.id, take: made }))
    onClose()
  }
  const close = () => {
    if (recording) void player.stopTake()
    onClose()
  }
  const field = 'field mt-0.5 block w-full'
  return (
    <PaperDialog open onClose={close} title={`A take of “${snapshot.name}”`}>
      <div className="border border-dashed border-control px-3 py-2" onDragOver={(event) => event.preventDefault()} onDrop={onDrop}>
        {sound ? (
          <p data-sound={sound.seconds.toFixed(1)}>
            {sound.name}, {figure(sound.seconds)} s
          </p>
        ) : (
          <p className="text-ink2">Drop a WAV here, or</p>
        )}
        <div className="flex gap-4">
          <button type="button" className="act" disabled={recording} onClick={() => input.current?.click()}>
            Choose a file
          </button>
          <button type="button" className="act" onClick={() => void (recording ? stop() : start())}>
            {recording ? 'Stop' : 'Record from the input'}
          </button>
        </div>
        <p className="mt-1 text-[11.5px] text-ink3">
          Play the same thing, as hard, in every snapshot, and leave the interface as it is: then the takes can be levelled.
        </p>
        <input
          ref={input}
          type="file"
          accept=".wav,.aif,.aiff,audio/wav"
          aria-label="Recording of your device"
          className="hidden"
          onChange={(event) => takeFile(event.currentTarget.files?.[0])}
        />
      </div>
      <label className="mt-2 block text-label text-ink3">
        Device
        <input
          className={`${field} text-body text-ink`}
          value={device}
          maxLength={deviceFields.name.most}
          onChange={(e) => setDevice(e.currentTarget.value)}
        />
      </label>
      <div className="mt-2 grid grid-cols-2 gap-3">
        <label className="block text-label text-ink3">
          Date
          <input type="date" className={`${field} num text-body text-ink`} value={date} onChange={(e) => setDate(e.currentTarget.value)} />
        </label>
        <label className="block text-label text-ink3">
          Its level control stood at
          <NumberField
            spec={quantity('plain', 'Level control', takeFields.setting.of.range)}
            label="Its level control stood at"
            value={mark}
            empty={{ word: 'not noted', onEmpty: () => setMark(null) }}
            className="field num mt-0.5 block w-full text-body text-ink"
            onChange={setMark}
          />
        </label>
      </div>
      <label className="mt-2 block text-label text-ink3">
        Note
        <textarea
          rows={2}
          className={`${field} text-body text-ink`}
          value={note}
          maxLength={takeFields.note.most}
          onChange={(e) => setNote(e.currentTarget.value)}
        />
      </label>
      {problem && (
        <p role="alert" className="mt-2 font-semibold">
          <WarningMark /> {problem}
        </p>
      )}
      <div className="mt-3 flex gap-3">
        <button type="button" className="btn btn-filled" disabled={isLoading || recording} onClick={() => void keep()}>
          {isLoading ? 'Keeping …' : 'Keep the take'}
        </button>
        <button type="button" className="btn" onClick={close}>
          Cancel
        </button>
      </div>
    </PaperDialog>
  )
}
