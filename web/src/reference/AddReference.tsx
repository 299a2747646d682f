import { useRef, useState, type DragEvent } from 'react'
import { CODED_FILES } from '../audio/decoding'
import { TakingLine } from './TakingLine'
import { useAddRecording, type Taking } from './useAddRecording'

/** Lays a reference into the Kit and hands its id on; what is dropped on the element with `dropping` is taken too. */
export function useAddReference(onAdded: (id: string) => void) {
  const { add, taking } = useAddRecording('reference', onAdded)
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
  return { add, taking, dropping }
}

/** Chooses a recording for the Kit. */
export function AddReference({ add, taking }: { add: (file: File | undefined) => Promise<void>; taking: Taking | null }) {
  const input = useRef<HTMLInputElement>(null)
  if (taking) return <TakingLine taking={taking} />
  return (
    <>
      <button
        type="button"
        className="act text-[12px]"
        title="WAV, AIFF, FLAC, MP3, OGG or AAC, up to 20 minutes; or drop it on this page"
        onClick={() => input.current?.click()}
      >
        Add a recording
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
