import { useEffect, useState } from 'react'
import { noteOf, pitchOf } from '@fulgor/core/measure'

const FRAMES = 4_096
const EVERY_MS = 90
/** Cents within which a string counts as in tune (common practice, no source). */
const IN_TUNE = 3

/** A tuner as large as the screen, on the input of this machine. */
export function StageTuner() {
  const [note, setNote] = useState<{ name: string; octave: number; cents: number } | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    let over = false
    let stream: MediaStream | null = null
    let timer: ReturnType<typeof setInterval> | undefined
    const context = new AudioContext()
    const begin = async () => {
      try {
        stream = await navigator.mediaDevices.getUserMedia({
          audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
        })
        if (over) return
        const analyser = context.createAnalyser()
        analyser.fftSize = FRAMES
        context.createMediaStreamSource(stream).connect(analyser)
        const samples = new Float32Array(FRAMES)
        timer = setInterval(() => {
          analyser.getFloatTimeDomainData(samples)
          const pitch = pitchOf(samples, context.sampleRate)
          setNote(pitch ? noteOf(pitch.hz) : null)
        }, EVERY_MS)
      } catch {
        setProblem('No input: allow the page to hear one.')
      }
    }
    void begin()
    return () => {
      over = true
      clearInterval(timer)
      for (const track of stream?.getTracks() ?? []) track.stop()
      void context.close()
    }
  }, [])
  const off = Math.max(-50, Math.min(50, note?.cents ?? 0))
  const inTune = note !== null && Math.abs(note.cents) <= IN_TUNE
  return (
    <section aria-label="Tuner" className="grid h-full place-items-center" data-tuner={note ? `${note.name}${note.octave}` : ''}>
      <div className="w-full text-center">
        <p className="head text-[min(34vw,46vh)] leading-none">{note?.name ?? '–'}</p>
        <svg className="mx-auto w-[84vw]" viewBox="-110 0 220 26" aria-hidden="true">
          <path d="M-100 16H100M0 8V24" stroke="currentColor" strokeWidth="0.8" />
          {note && <path d={`M${off * 2} 2V24`} stroke="currentColor" strokeWidth={inTune ? 5 : 2.4} />}
        </svg>
        <p className="text-[min(6vw,7vh)]">
          {problem ?? (note === null ? 'play a string' : inTune ? 'in tune' : note.cents < 0 ? 'too low' : 'too high')}
        </p>
      </div>
    </section>
  )
}
