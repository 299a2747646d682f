import { useEffect, useMemo, useRef, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { planPresses } from '@fulgor/core/plan'
import { beatS, type Show } from '@fulgor/core/show'
import { useDeviceQuery } from '../../api/api'
import { showSource } from '../../state/showSource'
import { useKitDocument } from '../../state/useKitDocument'
import { browserStorage } from '../../storage/storage'
import { useShownPresets } from '../../show/useShownPresets'
import type { DeviceCapacity } from '@fulgor/core/preset'
import { cuesOf, type Cue } from './cues'
import { StageTuner } from './StageTuner'
import { useAwake } from './useAwake'
import { useStageMidi } from './useStageMidi'

const FORMS = ['dark', 'red', 'day'] as const
type Form = (typeof FORMS)[number]
const FORM_KEY = 'fulgor.stageForm'
/** ms that the corner is held to leave, and within which a second touch is none. */
const LEAVE_MS = 900
const AGAIN_MS = 350

/** Ink, paper and mark of each form: readable in the dark, in red light and in daylight. */
const LOOK: Record<Form, { paper: string; ink: string; mark: string; faint: string }> = {
  dark: { paper: '#000000', ink: '#f4efe6', mark: '#ff9b52', faint: '#a79d8d' },
  red: { paper: '#000000', ink: '#ff5a4a', mark: '#ff8a7a', faint: '#d8483b' },
  day: { paper: '#ffffff', ink: '#000000', mark: '#8f2d00', faint: '#3d3d3d' },
}

/** On the stand: what sounds, what comes, what to press. Once it is open it needs no server. */
export function StageView() {
  const { id = '' } = useParams()
  const { document: show, missing: problem } = useKitDocument(id, showSource, false)
  const { data: device, isFetching } = useDeviceQuery(show?.device ?? '', { skip: show?.device == null })
  const capacity = show?.device == null ? null : (device?.document.capacity ?? null)
  const name = show?.name
  useEffect(() => {
    if (name !== undefined) document.title = `${name} on stage · Fulgor`
  }, [name])
  const { presets, whole } = useShownPresets(show)
  if (problem !== null && !show)
    return (
      <main className="p-6 text-[20px]">
        <p role="alert">{problem}</p>
        <Link className="act" to="/set">
          The shows that are there
        </Link>
      </main>
    )
  if (!show || !whole || (device === undefined && isFetching)) return <main className="p-6 text-[20px]">Opening the show …</main>
  return <Cues show={show} id={id} presets={presets} capacity={capacity} />
}

interface Props {
  id: string
  show: Show
  presets: ReturnType<typeof useShownPresets>['presets']
  capacity: DeviceCapacity | null
}

function Cues({ id, show, presets, capacity }: Props) {
  useAwake()
  const navigate = useNavigate()
  const [params, setParams] = useSearchParams()
  const order = show.orders.find((o) => o.id === params.get('night')) ?? show.orders[0]
  const cues = useMemo(
    () => cuesOf(show, order.id, planPresses(show, order.id, presets, capacity ?? undefined), presets),
    [show, order.id, presets, capacity],
  )
  const [at, setAt] = useState(() => Math.max(0, Math.min(cues.length - 1, Number(params.get('cue') ?? 0))))
  const [since, setSince] = useState(() => performance.now())
  const [tuner, setTuner] = useState(false)
  const [form, setForm] = useState<Form>(() => FORMS.find((f) => f === browserStorage.read(FORM_KEY)) ?? 'dark')
  const touched = useRef(0)
  const cue = cues.at(at)
  const next = cues.at(at + 1)
  const go = (to: number) => {
    if (to < 0 || to >= cues.length || to === at) return
    setAt(to)
    setSince(performance.now())
    setParams((now) => (now.set('cue', String(to)), now), { replace: true })
  }
  const preset = presets.find((p) => p.id === cue?.preset)?.preset ?? null
  const { positions } = useStageMidi(preset, (snapshot) => {
    // the device has gone on: so does the sheet, where that is what comes
    if (next && next.snapshot === snapshot && cue?.snapshot !== snapshot) go(at + 1)
  })
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return
      const key = event.key
      if (key === 'ArrowRight' || key === 'PageDown' || key === ' ' || key === 'Enter') go(at + 1)
      else if (key === 'ArrowLeft' || key === 'PageUp' || key === 'Backspace') go(at - 1)
      else if (key === 'Home') go(0)
      else if (key === 't') setTuner((on) => !on)
      else if (key === 'f') changeForm()
      else if (key === 'Escape') {
        if (tuner) setTuner(false)
        else void navigate(`/set/${id}?night=${order.id}`)
      } else return
      event.preventDefault()
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  })
  const changeForm = () => {
    const following = FORMS[(FORMS.indexOf(form) + 1) % FORMS.length]
    setForm(following)
    browserStorage.write(FORM_KEY, following)
  }
  const touch = (by: 1 | -1) => {
    // a foot, a sleeve or two fingers at once is one touch
    const now = performance.now()
    if (now - touched.current < AGAIN_MS) return
    touched.current = now
    go(at + by)
  }
  const look = LOOK[form]
  return (
    <main
      className="fixed inset-0 flex touch-manipulation flex-col overflow-hidden select-none"
      style={{ background: look.paper, color: look.ink, zoom: 1 }}
      data-form={form}
      data-cue={at}
    >
      <h1 className="sr-only">{show.name} on stage</h1>
      <div className="flex items-baseline gap-x-4 px-[3vw] pt-[1.5vh] text-[min(3.4vw,4.4vh)]" style={{ color: look.faint }}>
        <span className="min-w-0 truncate">
          {cue ? `${cue.cue} ${cue.song}` : show.name}
          {cue ? `, ${cue.part}` : ''}
        </span>
        <span className="num ml-auto whitespace-nowrap">
          {at + 1}/{cues.length}
        </span>
        <HoldButton label="Form" onHeld={changeForm} />
        <HoldButton label="Tuner" onHeld={() => setTuner((on) => !on)} />
        <HoldButton label="Leave" onHeld={() => void navigate(`/set/${id}?night=${order.id}`)} />
      </div>
      {tuner ? (
        <StageTuner />
      ) : !cue ? (
        <p className="p-8 text-[5vw]">This night has no parts yet.</p>
      ) : (
        <>
          <div className="relative grid min-h-0 flex-1 grid-cols-[1fr_2fr]">
            <button type="button" aria-label="Back" className="absolute inset-y-0 left-0 w-[28%]" onClick={() => touch(-1)} />
            <button type="button" aria-label="Next" className="absolute inset-y-0 right-0 w-[72%]" onClick={() => touch(1)} />
            <div className="pointer-events-none col-span-2 flex min-w-0 items-center gap-[3vw] px-[3vw]" aria-live="polite">
              <b className="num text-[min(30vw,44vh)] leading-none" style={{ color: look.mark }}>
                {cue.number}
              </b>
              <span className="min-w-0">
                <span className="head block text-[min(11vw,15vh)] leading-[1.02] [overflow-wrap:anywhere]">{cue.name}</span>
                {cue.stages !== '' && <span className="block text-[min(5vw,6.4vh)]">{cue.stages}</span>}
                <span className="block text-[min(4vw,5vh)]" style={{ color: look.faint }}>
                  {cue.sung ? 'sung · ' : ''}
                  {cue.about}
                </span>
              </span>
            </div>
          </div>
          <Count key={`${at}`} cue={cue} since={since} colour={look.mark} />
          {cue.pedals.map((p) => (
            <div key={p.control} className="flex items-center gap-x-[2vw] px-[3vw] text-[min(3.6vw,4.6vh)]">
              <span className="whitespace-nowrap">{p.name}</span>
              <span className="whitespace-nowrap" style={{ color: look.faint }}>
                {p.words}
              </span>
              <span
                className="relative h-[1.6vh] flex-1 border"
                style={{ borderColor: look.faint }}
                role="img"
                aria-label={`${p.name} stands at ${Math.round(100 * (positions[p.control] ?? 0))} %`}
              >
                <i
                  className="absolute inset-y-0 left-0"
                  style={{ width: `${100 * (positions[p.control] ?? 0)}%`, background: look.mark }}
                />
              </span>
            </div>
          ))}
          <div className="border-t-2 px-[3vw] py-[1.4vh]" style={{ borderColor: look.faint }}>
            {next ? (
              <p className="flex items-baseline gap-x-[2vw] text-[min(5vw,6.6vh)]">
                <span className="whitespace-nowrap" style={{ color: look.faint }}>
                  {next.first ? `next ${next.cue}` : next.sung ? 'next, sung' : 'next'}
                </span>
                <b className="num">{next.number}</b>
                <span className="head min-w-0 truncate">{next.first ? `${next.song}: ${next.name}` : next.name}</span>
                <span className="ml-auto whitespace-nowrap" data-press="">
                  {next.press === '' ? (
                    <span style={{ color: look.faint }}>nothing to press</span>
                  ) : (
                    <b style={{ color: look.mark }}>press {next.press}</b>
                  )}
                </span>
              </p>
            ) : (
              <p className="text-[min(5vw,6.6vh)]" style={{ color: look.faint }}>
                The last one.
              </p>
            )}
          </div>
        </>
      )}
    </main>
  )
}

/** Bars and beats from where the cue began, by its tempo: at the start of a song two bars are counted in. */
function Count({ cue, since, colour }: { cue: Cue; since: number; colour: string }) {
  const [beat, setBeat] = useState(0)
  const ms = cue.tempo === null ? null : 1000 * beatS(cue.tempo, cue.metre)
  useEffect(() => {
    if (ms === null) return
    const timer = setInterval(() => setBeat(Math.floor((performance.now() - since) / ms)), Math.min(60, ms / 4))
    return () => clearInterval(timer)
  }, [ms, since])
  if (ms === null) return <p className="px-[3vw] text-[min(3.4vw,4.4vh)]">no tempo</p>
  const lead = cue.first ? 2 * cue.metre.beats : 0
  const counted = beat - lead
  const inBar = ((counted % cue.metre.beats) + cue.metre.beats) % cue.metre.beats
  const bar = Math.floor(counted / cue.metre.beats) + 1
  const over = cue.bars !== null && bar > cue.bars
  const words =
    counted < 0
      ? `in ${-Math.floor(counted / cue.metre.beats)}`
      : cue.bars === null
        ? `bar ${bar}`
        : over
          ? 'over'
          : `bar ${bar} of ${Math.round(cue.bars)}`
  return (
    <div className="flex items-center gap-x-[2vw] px-[3vw] py-[1vh] text-[min(4.4vw,5.6vh)]">
      <span className="num w-[32vw]" data-count={words}>
        {words}
      </span>
      <span className="flex gap-[1vw]" aria-hidden="true">
        {Array.from({ length: cue.metre.beats }, (_, i) => (
          <i
            key={i}
            className="block size-[min(2.6vw,3.4vh)] rounded-full border-2"
            style={{ borderColor: colour, background: !over && i === inBar ? colour : 'transparent' }}
          />
        ))}
      </span>
    </div>
  )
}

/** Acts when it is held, or by Enter: nothing that is hit by accident. */
function HoldButton({ label, onHeld }: { label: string; onHeld: () => void }) {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  const [down, setDown] = useState(false)
  const end = () => {
    clearTimeout(timer.current)
    setDown(false)
  }
  return (
    <button
      type="button"
      title="Hold to act"
      aria-label={`${label}: hold`}
      className={`min-h-[44px] px-2 text-[min(2.6vw,18px)] whitespace-nowrap ${down ? 'underline' : ''}`}
      onPointerDown={() => {
        setDown(true)
        timer.current = setTimeout(() => {
          end()
          onHeld()
        }, LEAVE_MS)
      }}
      onPointerUp={end}
      onPointerLeave={end}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return
        event.preventDefault()
        event.stopPropagation()
        onHeld()
      }}
    >
      {label}
    </button>
  )
}
