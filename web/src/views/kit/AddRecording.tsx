import { useRef } from 'react'
import type { RecordingUse } from '@fulgor/core/recording'
import { CODED_FILES, SOUND_FILES } from '../../audio/decoding'

/** Chooses a file for the Kit. */
export function AddRecording({ use, busy, onFile }: { use: RecordingUse; busy: boolean; onFile: (file: File | undefined) => void }) {
  const input = useRef<HTMLInputElement>(null)
  const coded = use === 'reference'
  return (
    <p className="mx-3.5 my-2">
      <button type="button" className="act" disabled={busy} onClick={() => input.current?.click()}>
        {busy ? 'Reading …' : `Add a ${use}`}
      </button>
      <span className="block text-[11.5px] text-ink3">
        {coded ? 'WAV, AIFF, FLAC, MP3, OGG, AAC' : 'WAV, AIFF or FLAC'}; or drop it here
      </span>
      <input
        ref={input}
        type="file"
        accept={coded ? CODED_FILES : SOUND_FILES}
        aria-label={`${use[0].toUpperCase()}${use.slice(1)} file`}
        className="hidden"
        onChange={(event) => {
          onFile(event.currentTarget.files?.[0])
          event.currentTarget.value = ''
        }}
      />
    </p>
  )
}
