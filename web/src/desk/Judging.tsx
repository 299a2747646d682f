import { bypassMatch, matchDb, recordingMatchDb } from '../audio/feed'
import { dryChanged, judgingChanged, sideChosen } from '../state/player'
import type { BypassMatch } from '../state/measures'
import { useAppDispatch, useAppSelector } from '../state/store'
import { clock, figure } from '../ui/format'
import { Explain } from '../ui/Explain'

export function Compare() {
  const dispatch = useAppDispatch()
  const side = useAppSelector((s) => s.player.side)
  const saved = useAppSelector((s) => s.editor.saved)
  const against = useAppSelector((s) => s.player.against)
  const tried = useAppSelector((s) => s.player.trial !== null)
  const toSaved = useAppSelector(matchDb)
  const toRecording = useAppSelector(recordingMatchDb)
  const match = against ? toRecording : toSaved
  const button = (name: 'A' | 'B', words: string) => (
    <button
      type="button"
      aria-pressed={side === name}
      disabled={!saved && !against}
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
        {button('A', tried ? 'what is tried' : 'this sheet')}
        {button('B', against ? 'the recording' : saved ? `saved ${clock(saved.createdAt)}` : 'nothing saved')}
        <Explain term="compare" className="-mx-1.5" />
      </div>
    </div>
  )
}

/** Where and by how much the comparison is matched. In front of what clips both figures are told. */
function matchWords(match: BypassMatch | null): string {
  if (match?.db == null) return 'not matched yet'
  const end = `${figure(match.db, 1, true)} dB`
  return match.at === 'end' ? `matched ${end}` : `matched ${figure(match.ownDb, 1, true)} dB here, end ${end}`
}

/** Judging: all effects off, the chosen stage switched over at equal loudness, or only what it adds. */
export function Judge() {
  const dispatch = useAppDispatch()
  const { dry, judging } = useAppSelector((s) => s.player)
  const match = useAppSelector(bypassMatch)
  const words =
    judging === 'switched'
      ? `switched, ${matchWords(match)}`
      : judging === 'difference'
        ? 'only what the stage adds'
        : dry
          ? 'no modulation, delay, reverb'
          : 'as it is'
  return (
    <div role="group" aria-label="Judge">
      <div
        className="eyebrow"
        data-judging={judging}
        data-matched={match?.db == null ? '' : (match.at === 'own' ? match.ownDb : match.db)?.toFixed(2)}
      >
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
