import { useRef, useState, type DragEvent } from 'react'
import { CODED_FILES } from '../audio/decoding'
import { useAddRecording } from './useAddRecording'

/** Lays a reference into the Kit and hands its id on; what is dropped on the element with `dropping` is taken too. */
export function useAddReference(onAdded: (id: string) => void) {
  const { add, busy } = useAddRecording('reference', onAdded)
  const [over, setOver] = useState(false)
  const dropping = {
    'data-over': over ? '' : undefined,
    onDragOver: (event: DragEvent) => {
      event.preventDefault()
      setOver(true)
    },
    onDragLeave: () => setOver(false),
    onDrop: (event: DragEvent) => {
      event.preventDefault()
      setOver(false)
      void add(event.dataTransfer.files[0])
    },
  }
  return { add, busy, dropping }
}

/** Chooses a recording for the Kit. */
export function AddReference({ add, busy }: { add: (file: File | undefined) => Promise<void>; busy: boolean }) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <button
        type="button"
        className="act text-[12px]"
        disabled={busy}
        title="WAV, AIFF, FLAC, MP3, OGG or AAC, up to 20 minutes; or drop it on this page"
        onClick={() => input.current?.click()}
      >
        {busy ? 'Reading …' : 'Add a recording'}
      </button>
      <input
        ref={input}
        type="file"
        accept={CODED_FILES}
        aria-label="Recording file"
        className="hidden"
        onChange={(event) => {
          void add(event.currentTarget.files?.[0])
          event.currentTarget.value = ''
        }}
      />
    </>
  )
}
