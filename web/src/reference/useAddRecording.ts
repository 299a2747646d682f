import { useState } from 'react'
import { recordingId, type RecordingUse } from '@fulgor/core/recording'
import { sentenceOf, useUploadRecordingMutation } from '../api/api'
import { asWav } from '../audio/decoding'
import { reasonOf } from '../background/tasks'
import { notified } from '../state/notices'
import { useAppDispatch } from '../state/store'

/** Lays a dropped or chosen file into the Kit and hands its id on; why it was not taken is said in a notice. */
export function useAddRecording(use: RecordingUse, onAdded: (id: string) => void) {
  const dispatch = useAppDispatch()
  const [upload] = useUploadRecordingMutation()
  const [busy, setBusy] = useState(false)
  const add = async (file: File | undefined) => {
    if (!file) return
    setBusy(true)
    try {
      const wav = await asWav(file, use === 'reference')
      const name = file.name.replace(/\.\w{2,4}$/i, '')
      const answer = await upload({ file: new File([wav as Uint8Array<ArrayBuffer>], `${name}.wav`, { type: 'audio/wav' }), use })
      if (answer.error) throw new Error(sentenceOf(answer.error))
      onAdded(recordingId(answer.data.hash))
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: reasonOf(error) }))
    } finally {
      setBusy(false)
    }
  }
  return { add, busy }
}
