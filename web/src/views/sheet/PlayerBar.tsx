import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { useRef, useState, useSyncExternalStore, type DragEvent } from 'react'
import { shippedRiffs } from '@fulgor/core/riffs'
import { matchDb } from '../../audio/player'
import { sentenceOf, useRiffsQuery, useUploadRiffMutation } from '../../api/api'
import { useSession } from '../../app/session'
import { edit, presentPreset } from '../../state/actions'
import { notified } from '../../state/notices'
import { monoChanged, sideChosen } from '../../state/player'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { clock, figure } from '../../ui/format'
import { Chevron, LoopMark, PlayMark, WarningMark } from '../../ui/marks'
import { Segments } from '../../ui/Segments'

/** What is played, and how it is heard. */
export function PlayerBar() {
  const dispatch = useAppDispatch()
  const { player } = useSession()
  const { playing, loop, error } = useAppSelector((s) => s.player)
  return (
    <footer
      aria-label="Player"
      className="flex min-h-[var(--player-h)] flex-wrap items-center gap-x-5 gap-y-1 border-t border-ink bg-paper px-4 py-1 max-[700px]:sticky max-[700px]:bottom-0 max-[700px]:z-30"
    >
      <RiffChoice />
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
      <Compare />
      <MonoCheck onChange={(on) => dispatch(monoChanged(on))} />
      {error !== null && (
        <span role="alert" className="max-w-[300px] text-[12px] font-semibold">
          <WarningMark /> {error}
        </span>
      )}
      <Meters />
    </footer>
  )
}

function RiffChoice() {
  const dispatch = useAppDispatch()
  const preset = useAppSelector(presentPreset)
  const { data: own = [] } = useRiffsQuery(undefined)
  const [upload, { isLoading }] = useUploadRiffMutation()
  const [over, setOver] = useState(false)
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
      className={`min-w-[190px] ${over ? 'outline-2 outline-offset-4 outline-lane outline-dashed' : ''}`}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
    >
      <div className="eyebrow flex gap-3">
        Dry riff
        <button
          type="button"
          className="underline underline-offset-2 hover:text-ember"
          disabled={isLoading}
          onClick={() => input.current?.click()}
        >
          {isLoading ? 'reading …' : 'your own WAV'}
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
          <ListboxButton aria-label="Dry riff" className="min-h-6 font-medium whitespace-nowrap">
            {options.find((o) => o.id === riff.id)?.name ?? 'A riff that is not on this machine'}
            <Chevron />
          </ListboxButton>
          <ListboxOptions anchor="top start" className="menu">
            {options.map((option) => (
              <ListboxOption key={option.id} value={option.id} className="menu-item data-[selected]:font-bold">
                {option.name}
              </ListboxOption>
            ))}
          </ListboxOptions>
        </Listbox>
        {shipped && (
          <Segments
            label="Picking"
            value={riff.strength}
            options={[
              ['soft', 'Soft'],
              ['hard', 'Hard'],
            ]}
            onChange={(strength) => dispatch(edit({ type: 'setRiff', riff: { ...riff, strength } }))}
          />
        )}
      </div>
    </div>
  )
}

const BEATS = 16

/** Where the riff is; click or arrow keys go elsewhere. */
function Position() {
  const { player } = useSession()
  const { position } = useSyncExternalStore(player.meter.subscribe, player.meter.read)
  return (
    <div className="relative w-[150px] max-[700px]:hidden">
      <svg width="150" height="24" aria-hidden="true" className="block">
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
      <div className="eyebrow">Compare {match === null ? 'not matched yet' : `loudness-matched ${figure(match, 1, true)} dB`}</div>
      <div className="flex gap-2.5">
        {button('A', 'this sheet')}
        {button('B', saved ? `saved ${clock(saved.createdAt)}` : 'nothing saved')}
      </div>
    </div>
  )
}

function MonoCheck({ onChange }: { onChange: (on: boolean) => void }) {
  const mono = useAppSelector((s) => s.player.mono)
  return (
    <div>
      <div className="eyebrow">Mono check</div>
      <button
        type="button"
        role="switch"
        aria-checked={mono}
        aria-label="Mono check"
        onClick={() => onChange(!mono)}
        className="flex min-h-6 items-center gap-1.5 whitespace-nowrap"
      >
        <span className={`relative h-3 w-[22px] rounded-full border border-ink ${mono ? 'bg-ink' : ''}`}>
          <i className={`absolute top-px size-2 rounded-full ${mono ? 'right-px bg-paper' : 'left-px bg-ink'}`} />
        </span>
        {mono ? 'On, as the house' : 'Off, stereo'}
      </button>
    </div>
  )
}

const SPAN = 48

/** Output peaks of both sides on a dBFS axis, and loudness in numbers. */
function Meters() {
  const { player } = useSession()
  const { input, left, right, momentary } = useSyncExternalStore(player.meter.subscribe, player.meter.read)
  const playing = useAppSelector((s) => s.player.playing)
  const place = (linear: number) => Math.max(0, Math.min(1, (20 * Math.log10(linear + 1e-9) + SPAN) / SPAN)) * 110
  const over = Math.max(left, right) >= 1
  return (
    <div className="ml-auto" role="group" aria-label="Meters">
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
      <svg width="118" height="26" aria-hidden="true" className="block overflow-visible">
        <rect x={place(0.5012)} width={110 - place(0.5012)} y="1" height="15" fill="url(#fulgor-hatch)" />
        {[left, right].map((level, i) => (
          <g key={i}>
            <path d={`M0 ${4 + i * 5}H110`} stroke="var(--rule-2)" />
            <path d={`M0 ${4 + i * 5}H${place(level)}`} stroke="var(--ink)" strokeWidth="2.5" />
          </g>
        ))}
        <path d="M0 14H110" stroke="var(--rule-2)" />
        <path d={`M0 14H${place(input)}`} stroke="var(--lane)" strokeWidth="2.5" />
        {[-40, -20, 0].map((db) => (
          <text
            key={db}
            x={((db + SPAN) / SPAN) * 110}
            y="25"
            textAnchor={db === 0 ? 'end' : 'middle'}
            className="num fill-ink3 text-[9.5px]"
          >
            {figure(db, 0)}
          </text>
        ))}
      </svg>
    </div>
  )
}
