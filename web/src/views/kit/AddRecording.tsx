import { useRef } from 'react'
import type { RecordingUse } from '@fulgor/core/recording'
import { CODED_FILES, SOUND_FILES } from '../../audio/decoding'
import { TakingLine } from '../../reference/TakingLine'
import type { Taking } from '../../reference/useAddRecording'

/** Chooses a file for the Kit. */
export function AddRecording(props: { use: RecordingUse; taking: Taking | null; onFile: (file: File | undefined) => void }) {
  const { use, taking, onFile } = props
  const input = useRef<HTMLInputElement>(null)
  const coded = use === 'reference'
  return (
    <p className="mx-3.5 my-2">
      {taking ? (
        <TakingLine taking={taking} />
      ) : (
        <button type="button" className="act" onClick={() => input.current?.click()}>
          Add a {use}
        </button>
      )}
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
