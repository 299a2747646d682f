import { useState } from 'react'
import { checkPreset } from '@fulgor/core/checks'
import { layOut } from '@fulgor/core/board'
import { capacityOf, EMPTY_BOARD, samePlace, type BoardPage as Page, type BoardPlace } from '@fulgor/core/preset'
import { FindingItem } from '../../desk/Findings'
import { edit, newId, presentPreset } from '../../state/actions'
import { keepToggled } from '../../state/board'
import { faceShown } from '../../state/boardSlice'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Segments } from '../../ui/Segments'
import { DeviceLine } from './DeviceLine'
import { Pedalboard } from './Pedalboard'
import { SwitchPanel } from './SwitchPanel'
import { SwitchTable } from './SwitchTable'
import { PAGE_NAMES } from './words'

/** Rules whose findings belong beside the board. */
const OF_BOARD = new Set(['held-by-source', 'device-capacity', 'out-of-reach', 'idle-control', 'late-press'])

/** The foot controller of the player's device: laid out, played, and read for what is missing. */
export function BoardPage() {
  const dispatch = useAppDispatch()
  const preset = useAppSelector(presentPreset)
  const { page, bank, toggled } = useAppSelector((s) => s.board)
  const empty = (preset?.board?.switches.length ?? 0) === 0
  const [hand, setHand] = useState<'play' | 'arrange'>(empty ? 'arrange' : 'play')
  const [place, setPlace] = useState<BoardPlace | null>(null)
  if (!preset) return null
  const board = preset.board ?? EMPTY_BOARD
  const capacity = capacityOf(preset.device)
  const chosen =
    place && (place.index < capacity.switches || board.switches.some((s) => samePlace(s, place))) ? place : { page, bank, index: 0 }
  const findings = preset.board ? checkPreset(preset, newId).filter((f) => OF_BOARD.has(f.rule)) : []
  const choose = (next: BoardPlace) => {
    setPlace(next)
    dispatch(faceShown({ page: next.page, bank: Math.min(next.bank, capacity.banks - 1) }))
  }
  const switched = Object.keys(toggled).length
  return (
    <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_280px] max-[1100px]:grid-cols-1 max-[700px]:block">
      <section aria-label="Foot controller" className="min-h-0 min-w-0 overflow-auto px-4 pt-1.5 pb-4">
        <DeviceLine preset={preset} />
        <div className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-1 border-t border-rule pt-1.5 text-[12px]">
          <Segments
            label="Page of the board"
            value={page}
            options={(['snapshots', 'singles'] as const).map((p) => [p, PAGE_NAMES[p]] as const)}
            onChange={(next: Page) => dispatch(faceShown({ page: next, bank }))}
          />
          <span className="flex items-baseline gap-2">
            <span className="text-ink2">Bank</span>
            <Segments
              label="Bank of the board"
              value={String(bank)}
              options={Array.from({ length: capacity.banks }, (_, i) => [String(i), String(i + 1)] as const)}
              onChange={(next) => dispatch(faceShown({ page, bank: Number(next) }))}
            />
          </span>
          <span className="flex items-baseline gap-2">
            <span className="text-ink2">Mouse and keys</span>
            <Segments
              label="What the mouse and keys do"
              value={hand}
              options={[
                ['play', 'play it'],
                ['arrange', 'arrange it'],
              ]}
              onChange={setHand}
            />
          </span>
          <button
            type="button"
            className="act ml-auto"
            title="Snapshots on one page, stages on the other; page, tap and tuner where there is room. Undo brings back what was there."
            onClick={() => dispatch(edit({ type: 'setBoard', board: layOut(preset, capacity, board, newId) }))}
          >
            Lay it out
          </button>
        </div>
        <Pedalboard
          preset={preset}
          hand={hand}
          chosen={chosen}
          onChoose={(index) => choose({ page, bank, index })}
          onMoved={(index) => setPlace({ page, bank, index })}
        />
        <p className="mt-1 min-h-6 text-[12px] text-ink2">
          {empty && 'Nothing stands on the board yet; “Lay it out” makes a beginning. '}
          {hand === 'play'
            ? 'Press with the mouse or with the keys that stand on the switches; hold a key to hold the switch.'
            : 'Click a switch to say what it does. Drag it, or Alt + arrows, to move it; what stands there changes places with it.'}
          {switched > 0 && (
            <>
              {' '}
              <b className="text-ink">
                {switched === 1 ? 'One stage is' : `${switched} stages are`} switched over until a snapshot is loaded.
              </b>{' '}
              <button type="button" className="act" onClick={() => dispatch(keepToggled())}>
                Keep it in the snapshot
              </button>
            </>
          )}
        </p>
        <SwitchTable preset={preset} chosen={chosen} onChoose={choose} />
        {findings.length > 0 && (
          <ul aria-label="Findings of the board" className="mt-3 max-w-[760px] text-[12px]">
            {findings.map((finding) => (
              <FindingItem key={`${finding.rule} ${finding.figure}`} preset={preset} finding={finding} />
            ))}
          </ul>
        )}
      </section>
      <SwitchPanel key={JSON.stringify(chosen)} preset={preset} place={chosen} onMoved={choose} />
    </div>
  )
}
