import { useRef, useState } from 'react'
import { readSound, soundKind } from '@fulgor/core/formats'
import { bandsFrom, curveOfImpulse, readCurve, type PlaceBand } from '@fulgor/core/place'
import { reasonOf } from '../../background/tasks'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'

/** Takes what a place does to the sound from a file that was measured there. */
export function MeasuredPlace({ onBands }: { onBands: (bands: readonly PlaceBand[]) => void }) {
  const input = useRef<HTMLInputElement>(null)
  const [told, setTold] = useState<{ readonly problem: boolean; readonly text: string } | null>(null)
  const take = async (file: File | undefined) => {
    if (!file) return
    try {
      const bytes = new Uint8Array(await file.arrayBuffer())
      const { bands, leftDb } = bandsFrom(soundKind(bytes) === null ? readCurve(new TextDecoder().decode(bytes)) : curveIn(bytes))
      onBands(bands)
      setTold({
        problem: false,
        text: `“${file.name}”: ${bands.length} bands, on average within ${figure(leftDb)} dB from 30 Hz to 16 kHz.`,
      })
    } catch (error) {
      setTold({ problem: true, text: `“${file.name}” ${reasonOf(error)}` })
    }
  }
  return (
    <>
      <button type="button" className="act ml-3" onClick={() => input.current?.click()}>
        From a measured file
      </button>
      <input
        ref={input}
        type="file"
        accept=".txt,.csv,.frd,.wav,.aif,.aiff"
        aria-label="Measured response of the place"
        title="Lines of “Hz dB”, or a recorded impulse"
        className="hidden"
        onChange={(event) => {
          void take(event.currentTarget.files?.[0])
          event.currentTarget.value = ''
        }}
      />
      {told && (
        <p role={told.problem ? 'alert' : 'status'} className={told.problem ? 'font-semibold' : 'text-ink2'} data-measured-place="">
          {told.problem && <WarningMark />} {told.text}
        </p>
      )}
    </>
  )
}

function curveIn(bytes: Uint8Array) {
  const { channels, sampleRate } = readSound(bytes)
  return curveOfImpulse(channels[0], sampleRate)
}
