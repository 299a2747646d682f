import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { useState, useSyncExternalStore } from 'react'
import { tempoOf } from '@fulgor/core/preset'
import { type Quality } from '@fulgor/core/signal'
import { session } from '../audio/session'
import { setTempo } from '../state/tempo'
import { figure } from '../ui/format'
import { monoChanged, qualityChosen } from '../state/player'
import { usePlacesQuery } from '../api/api'
import { listenThrough } from '../state/places'
import { useAppDispatch, useAppSelector } from '../state/store'
import { useSettings } from '../state/useSettings'
import { Pick } from '../ui/Pick'
import { Explain } from '../ui/Explain'
import { Chevron, LoopMark, PlayMark, WarningMark } from '../ui/marks'
import { MoreButton } from '../ui/MoreButton'
import { Meters } from './Meters'
import { RiffChoice } from './RiffChoice'
import { Compare, Judge } from './Judging'

/** What is played, and how it is heard. */
export function PlayerBar() {
  const dispatch = useAppDispatch()
  const { player } = session
  const { playing, loop, error } = useAppSelector((s) => s.player)
  const [more, setMore] = useState(false)
  return (
    <footer
      aria-label="Player"
      className="flex min-h-[var(--player-h)] flex-wrap items-center gap-x-2.5 gap-y-1 border-t border-ink bg-paper px-4 py-1 small:sticky small:bottom-0 small:z-30"
    >
      <RiffChoice whole={more} />
      <div className="flex items-center gap-2.5">
        <button
          type="button"
          aria-label={playing ? 'Stop' : 'Play'}
          title="Space"
          onClick={() => void player.toggle()}
          className="grid size-8 place-items-center rounded-full bg-ink text-paper hover:bg-ink2"
        >
          <PlayMark playing={playing} />
        </button>
        <button
          type="button"
          aria-pressed={loop}
          onClick={() => player.toggleLoop()}
          className={`flex min-h-6 items-center gap-1.5 border-b-2 text-[12px] ${loop ? 'border-ember font-semibold' : 'border-transparent text-ink2'}`}
        >
          <LoopMark /> Loop
        </button>
      </div>
      <Position />
      <MoreButton open={more} onToggle={() => setMore(!more)} what="of the player" />
      <div className={`contents ${more ? '' : 'small:hidden'}`}>
        <Compare />
        <Judge />
        <div className="flex items-center">
          <div>
            <MonoCheck onChange={(on) => dispatch(monoChanged(on))} />
            <div className="flex gap-1.5">
              <Finer />
              <PlaceChoice />
            </div>
          </div>
          <Explain term="heard" className="-mx-1.5" />
        </div>
      </div>
      {error !== null && (
        <span role="alert" className="max-w-[300px] text-[12px] font-semibold">
          <WarningMark /> {error}
        </span>
      )}
      <Meters />
    </footer>
  )
}

const BEATS = 16

/** Where the riff is; click or arrow keys go elsewhere. */
function Position() {
  const { player } = session
  const { position } = useSyncExternalStore(player.meter.subscribe, player.meter.read)
  return (
    <div className="relative w-[46px] small:hidden">
      <svg width="46" height="24" viewBox="0 0 150 24" preserveAspectRatio="none" aria-hidden="true" className="block">
        {Array.from({ length: BEATS + 1 }, (_, i) => (
          <path
            key={i}
            d={`M${1 + (i * 148) / BEATS} ${i % 4 === 0 ? 5 : 9}V${i % 4 === 0 ? 19 : 15}`}
            stroke={i % 4 === 0 ? 'var(--ink)' : 'var(--rule-2)'}
          />
        ))}
        <path d="M1 12H149" stroke="var(--rule-2)" />
        <path d={`M1 12H${1 + position * 148}`} stroke="var(--ember)" strokeWidth="2" />
        <path d={`M${1 + position * 148} 3V21`} stroke="var(--ember)" strokeWidth="1.5" />
      </svg>
      <input
        type="range"
        aria-label="Place in the riff"
        aria-valuetext={`beat ${Math.floor(position * BEATS) + 1} of ${BEATS}`}
        min={0}
        max={BEATS * 4}
        value={Math.round(position * BEATS * 4)}
        onChange={(event) => player.seek(Math.min(0.999, Number(event.currentTarget.value) / (BEATS * 4)))}
        className="absolute inset-0 w-full cursor-pointer opacity-0 focus-visible:opacity-40"
      />
    </div>
  )
}

const AS_IT_COMES = 'as-it-comes'

/** Through which place the player listens. */
function PlaceChoice() {
  const dispatch = useAppDispatch()
  const place = useAppSelector((s) => s.player.place)
  const { data } = usePlacesQuery({ sort: 'name' })
  const places = data?.items ?? []
  const preset = useSettings()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const band = place?.backing
  const tempo = preset ? tempoOf(preset, lit) : null
  const apart = band && band.tempo !== null && tempo !== null && Math.abs(band.tempo - tempo) > 0.01 ? band.tempo : null
  return (
    <>
      <Pick
        label="Listening place"
        value={place?.id ?? AS_IT_COMES}
        options={[[AS_IT_COMES, 'As it comes'] as const, ...places.map((p) => [p.id, `As at ${p.name}`] as const)]}
        short={() => place?.name ?? 'Place'}
        className={`max-w-[64px] ${place ? 'font-semibold text-ember' : ''}`}
        onChange={(id) => void dispatch(listenThrough(id === AS_IT_COMES ? null : id))}
      />
      {apart !== null && (
        <button
          type="button"
          className="act font-normal whitespace-nowrap"
          title={`The band runs at ${figure(apart)} bpm and the riff at ${figure(tempo)}: they drift apart. Takes the band’s tempo.`}
          onClick={() => dispatch(setTempo(apart))}
        >
          <WarningMark /> <span className="num">{figure(apart, apart % 1 ? 1 : 0)} bpm</span>
        </button>
      )}
    </>
  )
}

const QUALITIES: readonly (readonly [Quality, string])[] = [
  ['live', 'Live quality, 4×'],
  ['high', 'High quality, 8×'],
  ['highest', 'Highest, 16×'],
]

const SHORT: Record<Quality, string> = { live: 'Live, 4×', high: 'High, 8×', highest: '16×' }

/** How finely clipping stages are oversampled, for what is heard and measured. */
function Finer() {
  const dispatch = useAppDispatch()
  const quality = useAppSelector((s) => s.player.quality)
  return (
    <div className="flex items-baseline gap-1">
      <Listbox value={quality} onChange={(next: Quality) => dispatch(qualityChosen(next))}>
        <ListboxButton
          aria-label={`Quality: ${SHORT[quality]}`}
          title="Oversampling of all clipping stages"
          className="min-h-6 font-medium whitespace-nowrap"
        >
          {SHORT[quality]}
          <Chevron />
        </ListboxButton>
        <ListboxOptions modal={false} anchor="top end" className="menu">
          {QUALITIES.map(([id, name]) => (
            <ListboxOption key={id} value={id} className="menu-item data-[selected]:font-bold">
              {name}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </div>
  )
}

function MonoCheck({ onChange }: { onChange: (on: boolean) => void }) {
  const mono = useAppSelector((s) => s.player.mono)
  return (
    <button
      type="button"
      role="switch"
      aria-checked={mono}
      aria-label={mono ? 'Mono, as the house: Mono check' : 'Mono check'}
      title={mono ? 'Both sides summed, as in a mono house' : 'Stereo; click to sum both sides as a mono house does'}
      onClick={() => onChange(!mono)}
      className="flex min-h-6 items-center gap-1.5 text-label leading-[14px] whitespace-nowrap text-ink3"
    >
      <span className={`relative h-3 w-[22px] rounded-full border border-ink ${mono ? 'bg-ink' : ''}`}>
        <i className={`absolute top-px size-2 rounded-full ${mono ? 'right-px bg-paper' : 'left-px bg-ink'}`} />
      </span>
      {mono ? 'Mono, as the house' : 'Mono check'}
    </button>
  )
}
