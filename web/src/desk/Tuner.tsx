import { useSyncExternalStore } from 'react'
import { noteOf } from '@fulgor/core/measure'
import { session } from '../audio/session'
import { tunerSet } from '../state/boardSlice'
import { useAppDispatch, useAppSelector } from '../state/store'
import { figure } from '../ui/format'

/** Cents within which a string counts as in tune (common practice, no source). */
const IN_TUNE = 3

/** What the tuner hears, on every page while a switch has it on: nothing is sent out meanwhile. */
export function Tuner() {
  const on = useAppSelector((s) => s.board.tuner)
  return on ? <Reading /> : null
}

function Reading() {
  const dispatch = useAppDispatch()
  const { player } = session
  const playing = useAppSelector((s) => s.player.playing)
  const source = useAppSelector((s) => s.player.source)
  const pitch = useSyncExternalStore(player.tuner.subscribe, player.tuner.read)
  const note = pitch ? noteOf(pitch.hz) : null
  const off = Math.max(-50, Math.min(50, note?.cents ?? 0))
  return (
    <section
      aria-label="Tuner"
      className="flex flex-wrap items-center gap-x-5 gap-y-1 border-t border-ink px-4 py-1.5"
      data-tuner={note ? `${note.name}${note.octave} ${note.cents.toFixed(1)}` : ''}
    >
      <span className="head w-[64px] text-[30px] leading-none">
        {note ? note.name : '–'}
        <span className="text-title">{note?.octave}</span>
      </span>
      <svg
        width="260"
        height="34"
        viewBox="-130 0 260 34"
        role="img"
        aria-label={note ? `${figure(note.cents, 1, true)} cents` : 'no note'}
      >
        <path d="M-125 20H125" stroke="var(--control)" />
        {[-50, -25, 0, 25, 50].map((c) => (
          <g key={c}>
            <path d={`M${c * 2.5} ${c === 0 ? 10 : 15}V25`} stroke="var(--ink-3)" />
            <text x={c * 2.5} y="35" textAnchor="middle" fontSize="9" fill="var(--ink-3)">
              {c === 0 ? 'in tune' : figure(c, 0, true)}
            </text>
          </g>
        ))}
        {note && <path d={`M${off * 2.5} 4V25`} stroke={Math.abs(note.cents) <= IN_TUNE ? 'var(--ember)' : 'var(--ink)'} strokeWidth="4" />}
      </svg>
      <span className="num text-[12px]">{note && pitch ? `${figure(note.cents, 1, true)} cents, ${figure(pitch.hz, 2)} Hz` : ''}</span>
      <span className="text-[12px] text-ink2">
        {note
          ? Math.abs(note.cents) <= IN_TUNE
            ? 'In tune.'
            : note.cents < 0
              ? 'Too low.'
              : 'Too high.'
          : playing
            ? 'No single clear note.'
            : source === 'live'
              ? 'Start the player to hear your guitar.'
              : 'Nothing plays. The tuner hears your guitar when the player takes its input (over the riff’s name).'}{' '}
        The output is muted.
      </span>
      <button type="button" className="act text-[12px]" onClick={() => dispatch(tunerSet(false))}>
        Tuner off
      </button>
    </section>
  )
}
