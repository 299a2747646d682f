import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { useRef, useState, type DragEvent } from 'react'
import { shippedRiffs } from '@fulgor/core/riffs'
import type { RiffChoice as Riff } from '@fulgor/core/preset'
import { sentenceOf, useUploadRecordingMutation } from '../api/api'
import { edit } from '../state/actions'
import { chooseRiff, isTrimmedAnew, riffNames, useOwnRiffs } from '../state/riffs'
import { notified } from '../state/notices'
import { useAppDispatch, useAppSelector } from '../state/store'
import { useSettings } from '../state/useSettings'
import { figure } from '../ui/format'
import { Chevron } from '../ui/marks'
import { Pick } from '../ui/Pick'
import { PICKINGS, shortTuning, TUNING_CHOICES, tuningChosen } from '../ui/riffWords'
import { Segments } from '../ui/Segments'
import { GuitarChoice } from './GuitarChoice'
import { LiveInputDialog } from './LiveInput'

export function RiffChoice({ whole }: { whole: boolean }) {
  const dispatch = useAppDispatch()
  const preset = useSettings()
  const own = useOwnRiffs()
  const [upload, { isLoading }] = useUploadRecordingMutation()
  const [over, setOver] = useState(false)
  const [live, setLive] = useState(false)
  const source = useAppSelector((s) => s.player.source)
  const input = useRef<HTMLInputElement>(null)
  if (!preset) return null
  const { riff } = preset
  const shipped = shippedRiffs.some((r) => r.id === riff.id)
  const options = riffNames(own)
  const name = options.find(([id]) => id === riff.id)?.[1] ?? 'A riff that is not on this machine'
  const choose = (id: string) => void dispatch(chooseRiff(id))
  const take = async (file: File | undefined) => {
    if (!file) return
    const answer = await upload({ file, use: 'riff' })
    if (answer.error) {
      dispatch(notified({ kind: 'warning', text: sentenceOf(answer.error) }))
      return
    }
    choose(answer.data.hash)
    dispatch(
      notified({
        kind: 'note',
        text: `“${answer.data.name}” is kept with your riffs (${figure(answer.data.frames / answer.data.sampleRate)} s, ${answer.data.sampleRate} Hz).`,
      }),
    )
  }
  const onDrop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    void take(event.dataTransfer.files[0])
  }
  return (
    <div
      className={`min-w-0 min-[861px]:min-w-[190px] ${over ? 'outline-2 outline-offset-4 outline-lane outline-dashed' : ''}`}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
    >
      <div className={`eyebrow flex flex-wrap items-baseline gap-x-2 ${whole ? '' : 'small:hidden'}`}>
        <GuitarChoice preset={preset} />
        {shipped && <PlayedOn riff={riff} onChange={(next) => dispatch(edit({ type: 'setRiff', riff: next }))} />}
        <button type="button" className="underline underline-offset-2 hover:text-ember" onClick={() => setLive(true)}>
          {source === 'live' ? 'live now' : 'play through it'}
        </button>
        <button
          type="button"
          className="underline underline-offset-2 hover:text-ember"
          disabled={isLoading}
          onClick={() => input.current?.click()}
        >
          {isLoading ? 'reading …' : 'own WAV'}
        </button>
        <input
          ref={input}
          type="file"
          accept=".wav,audio/wav"
          aria-label="Your own dry riff as WAV"
          className="hidden"
          onChange={(event) => {
            void take(event.currentTarget.files?.[0])
            event.currentTarget.value = ''
          }}
        />
      </div>
      <div className="flex items-center gap-4">
        <Listbox value={riff.id} onChange={choose}>
          <ListboxButton aria-label={`Dry riff: ${name}`} className="max-w-[46vw] min-h-6 truncate font-medium whitespace-nowrap">
            {name}
            <Chevron />
          </ListboxButton>
          <ListboxOptions modal={false} anchor="top start" className="menu">
            {options.map(([id, words]) => (
              <ListboxOption key={id} value={id} className="menu-item data-[selected]:font-bold">
                {words}
              </ListboxOption>
            ))}
          </ListboxOptions>
        </Listbox>
        {isTrimmedAnew(riff, own) && (
          <button type="button" className="act font-normal" onClick={() => choose(riff.id)}>
            Take the loop of the Kit
          </button>
        )}
        {shipped && (
          <div className={whole ? '' : 'small:hidden'}>
            <Segments
              label="Picking"
              value={riff.strength}
              options={PICKINGS}
              onChange={(strength) => dispatch(edit({ type: 'setRiff', riff: { ...riff, strength } }))}
            />
          </div>
        )}
      </div>
      <LiveInputDialog open={live} onClose={() => setLive(false)} />
    </div>
  )
}

/** Tuning that the riff is played with. */
function PlayedOn({ riff, onChange }: { riff: Riff; onChange: (riff: Riff) => void }) {
  return (
    <Pick
      label="Tuning of the riff"
      value={riff.tuning ?? 'guitar'}
      options={TUNING_CHOICES}
      short={shortTuning}
      onChange={(tuning) => onChange(tuningChosen(riff, tuning))}
    />
  )
}
