import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { useRef, useState, useSyncExternalStore, type DragEvent } from 'react'
import { shippedRiffs } from '@fulgor/core/riffs'
import { GUITARS, type RiffChoice as Riff } from '@fulgor/core/preset'
import { CEILING_DBTP } from '@fulgor/core/measure'
import { dbToGain, type Quality } from '@fulgor/core/signal'
import { bypassMatchDb, matchDb } from '../audio/feed'
import { sentenceOf, useRiffsQuery, useUploadRiffMutation } from '../api/api'
import { useSession } from '../audio/session'
import { edit, presentPreset } from '../state/actions'
import { notified } from '../state/notices'
import { dryChanged, judgingChanged, monoChanged, qualityChosen, sideChosen } from '../state/player'
import { useAppDispatch, useAppSelector } from '../state/store'
import { clock, figure } from '../ui/format'
import { Explain } from '../ui/Explain'
import { Chevron, LoopMark, PlayMark, WarningMark } from '../ui/marks'
import { Pick } from '../ui/Pick'
import { PICKINGS, PICKUP_CHOICES, pickupChosen, shortPickup, shortTuning, TUNING_CHOICES } from '../ui/riffWords'
import { Segments } from '../ui/Segments'
import { MoreButton } from '../ui/MoreButton'
import { LiveInputDialog } from './LiveInput'

/** What is played, and how it is heard. */
export function PlayerBar() {
  const dispatch = useAppDispatch()
  const { player } = useSession()
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
            <Finer />
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

function RiffChoice({ whole }: { whole: boolean }) {
  const dispatch = useAppDispatch()
  const preset = useAppSelector(presentPreset)
  const { data: own = [] } = useRiffsQuery(undefined)
  const [upload, { isLoading }] = useUploadRiffMutation()
  const [over, setOver] = useState(false)
  const [live, setLive] = useState(false)
  const source = useAppSelector((s) => s.player.source)
  const input = useRef<HTMLInputElement>(null)
  if (!preset) return null
  const { riff } = preset
  const shipped = shippedRiffs.some((r) => r.id === riff.id)
  const options = [...shippedRiffs.map((r) => ({ id: r.id, name: r.name })), ...own.map((r) => ({ id: r.hash, name: r.name }))]
  const choose = (id: string) => dispatch(edit({ type: 'setRiff', riff: { ...riff, id } }))
  const take = async (file: File | undefined) => {
    if (!file) return
    const answer = await upload(file)
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
        <GuitarChoice />
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
          <ListboxButton
            aria-label={`Dry riff: ${options.find((o) => o.id === riff.id)?.name ?? 'A riff that is not on this machine'}`}
            className="max-w-[46vw] min-h-6 truncate font-medium whitespace-nowrap"
          >
            {options.find((o) => o.id === riff.id)?.name ?? 'A riff that is not on this machine'}
            <Chevron />
          </ListboxButton>
          <ListboxOptions modal={false} anchor="top start" className="menu">
            {options.map((option) => (
              <ListboxOption key={option.id} value={option.id} className="menu-item data-[selected]:font-bold">
                {option.name}
              </ListboxOption>
            ))}
          </ListboxOptions>
        </Listbox>
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

/** Pickup and tuning that the riff is played with. */
function PlayedOn({ riff, onChange }: { riff: Riff; onChange: (riff: Riff) => void }) {
  return (
    <div className="flex gap-2">
      <Pick
        label="Pickup of the riff"
        value={riff.pickup ?? 'guitar'}
        options={PICKUP_CHOICES}
        short={shortPickup}
        onChange={(kind) => onChange(pickupChosen(riff, kind))}
      />
      <Pick
        label="Tuning of the riff"
        value={riff.tuning ?? 'standard'}
        options={TUNING_CHOICES}
        short={shortTuning}
        onChange={(tuning) => onChange({ ...riff, tuning })}
      />
    </div>
  )
}

/** How hot the guitar is: shipped riffs come in as loud, and breakup is told in its strokes. */
function GuitarChoice() {
  const dispatch = useAppDispatch()
  const guitar = useAppSelector((s) => presentPreset(s)?.guitar)
  if (!guitar) return null
  const known = GUITARS.some((g) => g.name === guitar.name)
  const options = known ? GUITARS : [guitar, ...GUITARS]
  return (
    <Listbox
      value={guitar.name}
      onChange={(name) => {
        const next = options.find((g) => g.name === name)
        if (next) dispatch(edit({ type: 'setGuitar', guitar: next }))
      }}
    >
      <ListboxButton aria-label={`Guitar: ${guitar.name}`} title="How hot its pickup is" className="whitespace-nowrap">
        {guitar.name}
        <Chevron />
      </ListboxButton>
      <ListboxOptions modal={false} anchor="top start" className="menu">
        {options.map((g) => (
          <ListboxOption key={g.name} value={g.name} className="menu-item data-[selected]:font-bold">
            {g.name}
            <kbd>hard strum {figure(g.hardPeakDbfs, 0)} dBFS</kbd>
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  )
}

const BEATS = 16

/** Where the riff is; click or arrow keys go elsewhere. */
function Position() {
  const { player } = useSession()
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

function Compare() {
  const dispatch = useAppDispatch()
  const side = useAppSelector((s) => s.player.side)
  const saved = useAppSelector((s) => s.editor.saved)
  const match = useAppSelector(matchDb)
  const button = (name: 'A' | 'B', words: string) => (
    <button
      type="button"
      aria-pressed={side === name}
      disabled={!saved}
      onClick={() => dispatch(sideChosen(name))}
      className="flex min-h-6 items-center gap-1.5 whitespace-nowrap disabled:text-ink3"
    >
      <b
        className={`grid size-[18px] place-items-center border text-[11.5px] font-semibold ${side === name ? 'border-ember bg-ember text-on-ember' : 'border-control'}`}
      >
        {name}
      </b>
      {words}
    </button>
  )
  return (
    <div role="group" aria-label="Compare">
      <div className="eyebrow">Compare {match === null ? 'not matched yet' : `matched ${figure(match, 1, true)} dB`}</div>
      <div className="flex gap-2.5">
        {button('A', 'this sheet')}
        {button('B', saved ? `saved ${clock(saved.createdAt)}` : 'nothing saved')}
        <Explain term="compare" className="-mx-1.5" />
      </div>
    </div>
  )
}

/** Judging: all effects off, the chosen stage switched over at equal loudness, or only what it adds. */
function Judge() {
  const dispatch = useAppDispatch()
  const { dry, judging } = useAppSelector((s) => s.player)
  const match = useAppSelector(bypassMatchDb)
  const words =
    judging === 'switched'
      ? `stage switched over, ${match === null ? 'not matched yet' : `matched ${figure(match, 1, true)} dB`}`
      : judging === 'difference'
        ? 'only what the stage adds'
        : dry
          ? 'no modulation, delay, reverb'
          : 'as it is'
  return (
    <div role="group" aria-label="Judge">
      <div className="eyebrow" data-judging={judging} data-matched={match === null ? '' : match.toFixed(2)}>
        Judge <span className={judging !== 'none' || dry ? 'font-semibold text-ember' : ''}>{words}</span>
      </div>
      <div className="flex gap-3">
        <button
          type="button"
          aria-pressed={dry}
          title="D: mutes all modulation, delay and reverb"
          onClick={() => dispatch(dryChanged(!dry))}
          className={`min-h-6 border-b-2 ${dry ? 'border-ember font-semibold' : 'border-transparent'}`}
        >
          Dry
        </button>
        <HoldButton />
        <DifferenceButton />
        <Explain term="judge" className="-mx-2" />
      </div>
    </div>
  )
}

function HoldButton() {
  const judging = useJudging('switched')
  return (
    <button
      type="button"
      aria-pressed={judging.on}
      title="Hold B: the chosen stage switched over, level-matched"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        judging.set(true)
      }}
      onPointerUp={() => judging.set(false)}
      onPointerCancel={() => judging.set(false)}
      onKeyDown={(event) => (event.key === 'Enter' || event.key === ' ') && !event.repeat && (event.preventDefault(), judging.set(true))}
      onKeyUp={() => judging.set(false)}
      onBlur={() => judging.set(false)}
      className={`min-h-6 border-b-2 whitespace-nowrap select-none ${judging.on ? 'border-ember font-semibold' : 'border-transparent'}`}
    >
      Hold: without
    </button>
  )
}

function DifferenceButton() {
  const judging = useJudging('difference')
  return (
    <button
      type="button"
      aria-pressed={judging.on}
      title="X: only what the chosen stage adds or takes away"
      onClick={() => judging.set(!judging.on)}
      className={`min-h-6 border-b-2 ${judging.on ? 'border-ember font-semibold' : 'border-transparent'}`}
    >
      Difference
    </button>
  )
}

function useJudging(kind: 'switched' | 'difference') {
  const dispatch = useAppDispatch()
  const on = useAppSelector((s) => s.player.judging === kind)
  return { on, set: (next: boolean) => dispatch(judgingChanged(next ? kind : 'none')) }
}

const QUALITIES: readonly (readonly [Quality, string])[] = [
  ['live', 'Live quality, 4×'],
  ['high', 'High quality, 8×'],
  ['highest', 'Highest, 16×'],
]

/** How finely clipping stages are oversampled, for what is heard and measured. */
function Finer() {
  const dispatch = useAppDispatch()
  const quality = useAppSelector((s) => s.player.quality)
  return (
    <div className="flex items-baseline gap-1">
      <Listbox value={quality} onChange={(next: Quality) => dispatch(qualityChosen(next))}>
        <ListboxButton
          aria-label={`Quality: ${QUALITIES.find(([id]) => id === quality)?.[1] ?? ''}`}
          title="Oversampling of all clipping stages"
          className="min-h-6 font-medium whitespace-nowrap"
        >
          {QUALITIES.find(([id]) => id === quality)?.[1]}
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

/** dB and px of the meters. */
const SPAN = 48
const METER = 98

/** Output peaks of both sides on a dBFS axis, and loudness in numbers. */
function Meters() {
  const { player } = useSession()
  const { input, left, right, momentary } = useSyncExternalStore(player.meter.subscribe, player.meter.read)
  const playing = useAppSelector((s) => s.player.playing)
  const place = (linear: number) => Math.max(0, Math.min(1, (20 * Math.log10(linear + 1e-9) + SPAN) / SPAN)) * METER
  const over = Math.max(left, right) >= 1
  return (
    <div className="ml-auto small:hidden" role="group" aria-label="Meters">
      <div className="eyebrow flex items-center justify-between gap-2">
        <span>
          Out <b className="num font-semibold text-ink">{playing ? figure(momentary) : '–'}</b> LUFS
        </span>
        {over && (
          <span className="font-semibold text-ink">
            <WarningMark /> over 0 dBFS
          </span>
        )}
      </div>
      <svg width={METER + 6} height="26" aria-hidden="true" className="block overflow-visible">
        <rect x={place(dbToGain(CEILING_DBTP))} width={METER - place(dbToGain(CEILING_DBTP))} y="1" height="15" fill="url(#fulgor-hatch)" />
        {[left, right].map((level, i) => (
          <g key={i}>
            <path d={`M0 ${4 + i * 5}H${METER}`} stroke="var(--rule-2)" />
            <path d={`M0 ${4 + i * 5}H${place(level)}`} stroke="var(--ink)" strokeWidth="2.5" />
          </g>
        ))}
        <path d={`M0 14H${METER}`} stroke="var(--rule-2)" />
        <path d={`M0 14H${place(input)}`} stroke="var(--lane)" strokeWidth="2.5" />
        {[-40, -20, 0].map((db) => (
          <text
            key={db}
            x={((db + SPAN) / SPAN) * METER}
            y="25"
            textAnchor={db === 0 ? 'end' : 'middle'}
            className="num fill-ink3 text-axis"
          >
            {figure(db, 0)}
          </text>
        ))}
      </svg>
    </div>
  )
}
