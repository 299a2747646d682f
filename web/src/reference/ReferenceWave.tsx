import { useEffect, useState, useSyncExternalStore } from 'react'
import {
  freeStretch,
  LEAST_PART_S,
  marksOf,
  MOST_MARKED_S,
  MOST_MARKS,
  timeInFile,
  VIEWS,
  withMark,
  withoutMark,
  type Recording,
  type View,
} from '@fulgor/core/recording'
import { loopPlayer } from '../audio/loopPlayer'
import { reasonOf } from '../background/tasks'
import { notified } from '../state/notices'
import { useAppDispatch } from '../state/store'
import { renderers } from '../threads/crews'
import { SAMPLE_RATE } from '../threads/rate'
import { quantity } from '@fulgor/core/catalogue'
import { figure, minutes } from '../ui/format'
import { NumberField } from '../ui/NumberField'
import { Segments } from '../ui/Segments'
import { Wave } from '../ui/Wave'
import { lookedAt, type UsedReference } from './useReference'

const VIEW_NAMES: Record<View, string> = { mid: 'Mid', side: 'Side', left: 'Left', right: 'Right' }
const SMALL = 'num w-[58px] border-b border-control bg-transparent text-right outline-none focus:border-ink'

/** A reference as it runs, with the stretches that count; which sides are looked at. */
export function ReferenceWave({ of, height = 96, heard = true }: { of: UsedReference; height?: number; heard?: boolean }) {
  const { recording, outline, editing } = of
  const [chosen, setChosen] = useState(0)
  if (!recording) return null
  const { seconds } = recording
  const marks = marksOf(recording)
  const put = (part: Partial<Recording>, key?: string) => editing.change({ ...recording, ...part }, key)
  const marked = recording.marks ?? []
  const own = Math.min(chosen, marks.length - 1)
  const mark = (part: { from: number; to: number }, instead: number | null, key?: string) => {
    const next = withMark(instead === null ? marked : marks, part, instead, seconds)
    put({ marks: [...next] }, key)
    const at = next.findIndex((m) => m.from <= part.from && m.to > part.from)
    if (at >= 0) setChosen(at)
  }
  const together = marks.reduce((sum, m) => sum + m.to - m.from, 0)
  const room = marked.length < MOST_MARKS && together + LEAST_PART_S < MOST_MARKED_S
  const { from, to } = marks[own]
  const free = freeStretch(marked, seconds)
  return (
    <div data-reference={recording.name}>
      <div className="min-h-[96px]" style={{ minHeight: height }}>
        {outline.answer ? (
          <Wave
            label={`${recording.name} as it runs`}
            outline={outline.answer}
            seconds={seconds}
            parts={marks}
            chosen={own}
            nameOf={(k) => (marks.length === 1 ? 'the stretch' : `stretch ${k + 1}`)}
            onChoose={setChosen}
            onPart={(k, part) => mark(part, k, `mark ${k}`)}
            onDraw={(part) => mark(part, null, `drawn ${part.from.toFixed(3)}`)}
            height={height}
          />
        ) : (
          <p className="text-[12px] text-ink2">{outline.problem ?? 'Reading the recording …'}</p>
        )}
      </div>
      <div className="num flex justify-between text-[10.5px] text-ink3" aria-hidden="true">
        {[0, 0.25, 0.5, 0.75, 1].map((share) => (
          <span key={share}>{minutes(share * seconds)}</span>
        ))}
      </div>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5 text-[12px]">
        <span className="flex items-baseline gap-1" data-marks={marks.map((m) => `${m.from.toFixed(2)}-${m.to.toFixed(2)}`).join(' ')}>
          {marks.length > 1 && <b className="num">{own + 1}.</b>}
          <NumberField
            spec={quantity('s', 'Start of the stretch', [0, to - LEAST_PART_S])}
            value={from}
            className={SMALL}
            format={(s) => `${figure(s, 2)} s`}
            onChange={(s) => mark({ from: s, to }, own, `typed ${own}`)}
          />
          –
          <NumberField
            spec={quantity('s', 'End of the stretch', [from + LEAST_PART_S, seconds])}
            value={to}
            className={SMALL}
            format={(s) => `${figure(s, 2)} s`}
            onChange={(s) => mark({ from, to: s }, own, `typed ${own}`)}
          />
        </span>
        {marked.length === 0 && <span className="text-ink2">nothing marked yet: drag over the wave</span>}
        {marks.length > 1 && <span className="num text-ink2">{figure(together, 1)} s together</span>}
        <button
          type="button"
          className="act"
          disabled={!room || !free}
          title={room ? '' : `${MOST_MARKS} stretches of ${MOST_MARKED_S} s together at most`}
          onClick={() => free && mark(free, null)}
        >
          Mark one more
        </button>
        <button
          type="button"
          className="act font-normal"
          disabled={marked.length === 0}
          onClick={() => put({ marks: [...withoutMark(marked, own)] })}
        >
          Unmark it
        </button>
        <button type="button" className="act font-normal" disabled={!editing.canUndo} onClick={editing.undo}>
          Undo marks
        </button>
        {heard && <HearIt recording={recording} />}
        <span className="ml-auto">
          <Segments
            label="Sides that are looked at"
            value={recording.view ?? 'mid'}
            options={VIEWS.map((view) => [view, VIEW_NAMES[view]] as const)}
            onChange={(view) => put({ view })}
          />
        </span>
      </div>
    </div>
  )
}

/** Plays the marked stretches, round and round. */
function HearIt({ recording }: { recording: Recording }) {
  const dispatch = useAppDispatch()
  useSyncExternalStore(loopPlayer.subscribe, loopPlayer.now)
  const key = JSON.stringify(lookedAt(recording))
  const sounding = loopPlayer.playing === key
  const [at, setAt] = useState<number | null>(null)
  useEffect(() => () => loopPlayer.stop(), [key])
  useEffect(() => {
    if (!sounding) return
    const timer = setInterval(() => setAt(timeInFile(marksOf(recording), loopPlayer.at)), 100)
    return () => {
      clearInterval(timer)
      setAt(null)
    }
  }, [sounding, recording])
  const play = async () => {
    if (sounding) {
      loopPlayer.stop()
      return
    }
    try {
      const sides = await renderers.run({ task: 'heardStretch', args: [...lookedAt(recording), SAMPLE_RATE], rank: 'now' })
      await loopPlayer.playSides(key, sides, SAMPLE_RATE)
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: reasonOf(error) }))
    }
  }
  return (
    <button type="button" className="act" aria-pressed={sounding} onClick={() => void play()}>
      {sounding ? `Stop${at === null ? '' : `, ${minutes(at)}`}` : 'Hear it'}
    </button>
  )
}
