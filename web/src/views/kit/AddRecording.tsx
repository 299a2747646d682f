import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { recordingId, type RecordingUse } from '@fulgor/core/recording'
import { sentenceOf, useUploadRecordingMutation } from '../../api/api'
import { reasonOf } from '../../background/tasks'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { importer } from '../../threads/crews'

/** Lays a dropped or chosen file into the Kit. */
export function useAddRecording(use: RecordingUse, to: string) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [upload] = useUploadRecordingMutation()
  const [busy, setBusy] = useState(false)
  const add = async (file: File | undefined) => {
    if (!file) return
    setBusy(true)
    try {
      const wav = await importer.run({ task: 'asWav', args: [file.name, new Uint8Array(await file.arrayBuffer())], rank: 'now' })
      const name = file.name.replace(/\.(wave?|aiff?|aifc|flac)$/i, '')
      const answer = await upload({ file: new File([wav as Uint8Array<ArrayBuffer>], `${name}.wav`, { type: 'audio/wav' }), use })
      if (answer.error) throw new Error(sentenceOf(answer.error))
      void navigate(`${to}/${recordingId(answer.data.hash)}`)
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: reasonOf(error) }))
    } finally {
      setBusy(false)
    }
  }
  return { add, busy }
}

/** Chooses a file for the Kit. */
export function AddRecording({ use, busy, onFile }: { use: RecordingUse; busy: boolean; onFile: (file: File | undefined) => void }) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <p className="mx-3.5 my-2">
      <button type="button" className="act" disabled={busy} onClick={() => input.current?.click()}>
        {busy ? 'Reading …' : use === 'riff' ? 'Add a riff' : 'Add a backing'}
      </button>
      <span className="block text-[11.5px] text-ink3">WAV, AIFF or FLAC; or drop it here</span>
      <input
        ref={input}
        type="file"
        accept=".wav,.wave,.aif,.aiff,.aifc,.flac"
        aria-label={use === 'riff' ? 'Riff file' : 'Backing file'}
        className="hidden"
        onChange={(event) => {
          onFile(event.currentTarget.files?.[0])
          event.currentTarget.value = ''
        }}
      />
    </p>
  )
}
