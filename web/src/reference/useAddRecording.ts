import { useRef, useState } from 'react'
import type { SoundAsset } from '@fulgor/core/api'
import { recordingId, type RecordingUse } from '@fulgor/core/recording'
import { api, sentenceOf } from '../api/api'
import { sendFile } from '../api/sending'
import { asWav } from '../audio/decoding'
import { Cancelled } from '../background/tasks'
import { notified } from '../state/notices'
import { useAppDispatch } from '../state/store'

/** A file that is on its way into the Kit. */
export interface Taking {
  readonly name: string
  readonly does: 'reading' | 'decoding' | 'writing' | 'sending'
  /** 0–1; null while it cannot be known. */
  readonly share: number | null
  readonly cancel: () => void
}

/** Lays a dropped or chosen file into the Kit and hands its id on; why it was not taken is said in a notice. */
export function useAddRecording(use: RecordingUse, onAdded: (id: string) => void) {
  const dispatch = useAppDispatch()
  const [taking, setTaking] = useState<Taking | null>(null)
  const running = useRef(false)
  const add = async (file: File | undefined) => {
    if (!file || running.current) return
    running.current = true
    const stop = new AbortController()
    const { signal } = stop
    const tell = (does: Taking['does'], share: number | null) => setTaking({ name: file.name, does, share, cancel: () => stop.abort() })
    tell('reading', null)
    try {
      const wav = await asWav(file, use === 'reference', { signal, onShare: tell })
      const name = `${file.name.replace(/\.\w{2,4}$/i, '').slice(0, 116)}.wav`
      const address = `/api/assets?${new URLSearchParams({ name, kind: use }).toString()}`
      const answer = await sendFile(address, wav, { signal, onShare: (share) => tell('sending', share) })
      dispatch(api.util.invalidateTags(['Recordings']))
      onAdded(recordingId((answer as SoundAsset).hash))
    } catch (error) {
      if (!(error instanceof Cancelled)) dispatch(notified({ kind: 'warning', text: sentenceOf(error) }))
    } finally {
      running.current = false
      setTaking(null)
    }
  }
  return { add, taking }
}
