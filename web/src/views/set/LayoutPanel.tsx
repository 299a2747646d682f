import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { placeWords, withoutOwnSnapshot, type LayoutProposal, type Plan, type ShownPreset } from '@fulgor/core/plan'
import { capacityOf, EMPTY_BOARD, type DeviceCapacity } from '@fulgor/core/preset'
import type { Show } from '@fulgor/core/show'
import { useAppDispatch } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { Progress } from '../../ui/Progress'
import { BoardPicture } from './BoardPicture'
import { Tick } from './fields'
import { storePresets } from './storePresets'
import { useLayout } from './useLayout'

interface Props {
  id: string
  show: Show
  order: string
  plan: Plan | null
  presets: readonly ShownPreset[]
  capacity: DeviceCapacity | null
  onShow: (show: Show) => void
  onStored: () => void
  onSong: (item: number) => void
}

/** Layouts that were taken since the page was loaded, by show: they can be put back. */
const takenOf = new Map<string, Taken>()

interface Taken {
  readonly snapshots: LayoutProposal['snapshots']
  readonly before: readonly ShownPreset[]
  readonly after: readonly ShownPreset[]
}

/** Presses of the night as the boards are, and a layout that needs fewer. */
export function LayoutPanel({ id, show, order, plan, presets, capacity, onShow, onStored, onSong }: Props) {
  const dispatch = useAppDispatch()
  const { laying, find, cancel } = useLayout()
  const [params, setParams] = useSearchParams()
  const [snapshots, setSnapshots] = useState(true)
  const [ordered, setOrdered] = useState(false)
  const [bank, setBank] = useState(0)
  const [problem, setProblem] = useState<string | null>(null)
  const [taken, setShownTaken] = useState<Taken | null>(() => takenOf.get(id) ?? null)
  const setTaken = (next: Taken | null) => {
    if (next) takenOf.set(id, next)
    else takenOf.delete(id)
    setShownTaken(next)
  }
  const [taking, setTaking] = useState(false)
  const used = presets.filter((p) => plan?.changes.some((c) => c.change.wanted.preset === p.id))
  const shown = used.find((p) => p.id === params.get('board')) ?? used.at(0)
  const size = shown ? (capacity ?? capacityOf(shown.preset.device)) : null
  const fresh = laying.of !== null && laying.of.show === show && laying.of.order === order && laying.of.presets === presets
  const proposal = fresh && laying.of?.snapshots === snapshots && laying.of.ordered === ordered ? laying.proposal : null
  const locked = new Set(shown ? (show.locked[shown.id] ?? []) : [])
  const begin = () => {
    setProblem(null)
    find({ show, order, presets, locked: show.locked, snapshots, ordered, ...(capacity ? { capacity } : {}) })
  }
  const take = async ({ presets: after, show: next, boards, snapshots: made }: LayoutProposal) => {
    setTaking(true)
    const reason = await storePresets(dispatch, presets, after, `Layout for ${show.name}: ${boards.length} boards`)
    setTaking(false)
    setProblem(reason === null ? null : `Not taken: ${reason}`)
    if (reason === null) {
      setTaken({ snapshots: made, before: presets, after })
      if (next !== show) onShow(next)
    }
    onStored()
  }
  const putBack = async ({ snapshots: made, before, after }: Taken) => {
    setTaking(true)
    const reason = await storePresets(dispatch, after, before, `Layout for ${show.name} put back`)
    setTaking(false)
    setProblem(reason === null ? null : `Not put back: ${reason}`)
    if (reason === null) {
      setTaken(null)
      // what was edited meanwhile stays
      onShow(made.reduce(withoutOwnSnapshot, show))
    }
    onStored()
  }
  const lock = (id: string) => {
    if (!shown) return
    const next = locked.has(id) ? [...locked].filter((l) => l !== id) : [...locked, id]
    const { [shown.id]: _, ...rest } = show.locked
    onShow({ ...show, locked: next.length === 0 ? rest : { ...rest, [shown.id]: next } })
  }
  if (!plan) return <p className="py-2 text-ink2">Counting the presses …</p>
  const troubles = plan.changes.filter((c) => c.troubles.length > 0)
  const unreachable = plan.changes.filter((c) => c.troubles.some((t) => t.kind === 'unreachable')).length
  const loads = plan.changes.filter((c) => c.loads)
  const board = proposal?.boards.find((b) => b.preset === shown?.id)
  const after = proposal?.presets.find((p) => p.id === shown?.id)
  return (
    <div className="text-[12px]" data-presses={plan.presses} data-sung={plan.sung} data-troubles={plan.troubles}>
      <p className="eyebrow">
        Switch presses, whole night <Explain term="presses" />
      </p>
      <p className="flex items-center gap-3 font-head text-[40px] leading-[1.05] font-extrabold [font-stretch:84%]">
        <span>{plan.presses}</span>
        {proposal && proposal.boards.length > 0 && (
          <>
            <svg width="26" height="14" viewBox="0 0 26 14" aria-hidden="true">
              <path d="M0 7h24M18 1.5 24 7l-6 5.5" fill="none" stroke="currentColor" strokeWidth="1.6" />
            </svg>
            <span className="sr-only">becomes</span>
            <span className="text-ember" data-after={proposal.after.presses}>
              {proposal.after.presses}
            </span>
          </>
        )}
      </p>
      <p className="text-ink2">
        {sungWords(plan)}
        {unreachable > 0 && ` ${unreachable} ${unreachable === 1 ? 'change is' : 'changes are'} made by no switch at all.`}
        {proposal && proposal.boards.length > 0 && (
          <>
            {' '}
            <b className="text-ink">With this layout: {sungWords(proposal.after).toLowerCase()}</b> {proposal.after.troubles} of{' '}
            {plan.troubles} remarks are left.
          </>
        )}
      </p>
      {loads.length > 0 && (
        <p className="text-ink2" data-loads={loads.length}>
          {loads.length} {loads.length === 1 ? 'change loads' : 'changes load'} another preset, each with {show.gapMs} ms of silence and its
          echoes cut{loads.every((c) => c.change.between) ? '; all of them lie between songs' : ''}. The others are within a preset: no gap.
        </p>
      )}
      <div className="my-1.5 flex flex-wrap items-center gap-x-4 gap-y-1">
        {laying.running ? (
          <>
            <Progress label="Layouts tried" value={Math.round(100 * laying.share)} max={100} />
            <button type="button" className="btn" onClick={cancel}>
              Cancel
            </button>
          </>
        ) : proposal && proposal.boards.length > 0 ? (
          <button type="button" className="btn btn-filled" disabled={taking} onClick={() => void take(proposal)}>
            Use this layout
          </button>
        ) : (
          <button type="button" className="btn btn-filled" disabled={used.length === 0} onClick={begin}>
            Find a better layout
          </button>
        )}
        {taken && (
          <button type="button" className="act" disabled={taking} onClick={() => void putBack(taken)}>
            Put the old layout back
          </button>
        )}
        <Tick label="new snapshots allowed" on={snapshots} onChange={setSnapshots} />
        <Tick label="number snapshots as their switches" on={ordered} onChange={setOrdered} />
      </div>
      {(problem ?? laying.problem) !== null && (
        <p role="alert" className="font-semibold">
          <WarningMark /> {problem ?? laying.problem}
        </p>
      )}
      {taken && <p role="status">The layout stands in the presets, each as a saved version.</p>}
      {proposal?.boards.length === 0 && <p role="status">Nothing better was found: the layout stays.</p>}
      {shown && size && (
        <>
          <h2 className="mt-1.5 flex items-baseline justify-between border-t border-ink pt-1 text-section font-bold">
            <span>Now</span>
            <span className="flex gap-3 text-[12px] font-normal">
              <Pick
                label="Board of"
                value={shown.id}
                options={used.map((p) => [p.id, p.preset.name] as const)}
                onChange={(id) => setParams((p) => (p.set('board', id), p), { replace: true })}
              />
              <Pick
                label="Bank"
                value={String(bank)}
                options={Array.from({ length: size.banks }, (_, i) => [String(i), `bank ${i + 1}`] as const)}
                onChange={(n) => setBank(Number(n))}
              />
            </span>
          </h2>
          <BoardPicture
            preset={shown.preset}
            capacity={size}
            bank={Math.min(bank, size.banks - 1)}
            locked={locked}
            onLock={(own) => lock(own.id)}
          />
          <p className="text-[11.5px] text-ink3">Click a switch that is to stay as it is.</p>
          {proposal && board && after && (
            <>
              <h2 className="mt-1 text-section font-bold">Suggested</h2>
              <BoardPicture
                preset={after.preset}
                capacity={size}
                bank={Math.min(bank, size.banks - 1)}
                locked={locked}
                before={shown.preset.board ?? EMPTY_BOARD}
              />
              <p className="text-[11.5px] text-ink2" data-laying-ms={laying.ms?.toFixed(0)}>
                {board.layout.exact
                  ? 'Every layout was looked at.'
                  : `No layout can be better by more than ${figure(100 * (board.layout.cost / board.layout.bound - 1), 1)} %.`}
              </p>
            </>
          )}
        </>
      )}
      {proposal && proposal.changes.length > 0 && (
        <ul className="mt-1 border-t border-rule" aria-label="What changes">
          {proposal.changes.map((c, i) => (
            <li key={i} className="grid grid-cols-[92px_minmax(0,1fr)] gap-x-2 border-b border-rule py-0.5">
              <b className="truncate text-[11.5px]" title={c.where}>
                {c.where}
              </b>
              <span>{c.words}</span>
            </li>
          ))}
        </ul>
      )}
      {!proposal && (
        <>
          <h2 className="mt-2 border-t border-ink pt-1 text-section font-bold">
            Remarks{' '}
            <span className="text-[12px] font-normal text-ink2">
              {troubles.length === 0 ? 'none: every change is made in time' : plan.troubles}
            </span>
          </h2>
          <ul aria-label="Remarks">
            {troubles.slice(0, 40).map((c, i) => (
              <li key={i} className="border-t border-rule py-0.5">
                <button type="button" className="min-h-6 text-left hover:text-ember" onClick={() => onSong(c.change.item)}>
                  <b>
                    {c.change.song.name}, {c.change.part.name}
                  </b>{' '}
                  {c.troubles.map((t) => t.words).join('; ')}
                </button>{' '}
                <span className="num text-ink2">{c.steps.map((s) => placeWords(s.place, s.gesture)).join(', ')}</span>
              </li>
            ))}
          </ul>
          {troubles.length > 40 && <p className="text-ink2">and {troubles.length - 40} more changes</p>}
        </>
      )}
    </div>
  )
}

function sungWords(plan: Plan): string {
  return plan.sung === 0 ? 'Nothing is pressed during a sung line.' : `${plan.sung} ${plan.sung === 1 ? 'falls' : 'fall'} into a sung line.`
}
