import { actsWhileDown, FUNCTION_NAMES, functionLabel, habitsOf, isUsable, pressDelay, TOGETHER_MS } from '@fulgor/core/board'
import {
  BOARD_PAGES,
  capacityOf,
  createSwitch,
  EMPTY_BOARD,
  FUNCTION_KINDS,
  functionsOf,
  GESTURES,
  partsOf,
  runsItself,
  switchAt,
  type BoardPlace,
  type BoardSwitch,
  type FunctionKind,
  type Gesture,
  type Preset,
  type SwitchFunction,
  switchFields,
} from '@fulgor/core/preset'
import { edit, newId } from '../../state/actions'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { Pick } from '../../ui/Pick'
import { TextField } from '../../ui/TextField'
import { MidiLearn } from './MidiLearn'
import { PAGE_NAMES } from './words'
import { Details, Line } from './FunctionDetails'

const GESTURE_NAMES: Record<Gesture, string> = { press: 'Press', hold: 'Hold', double: 'Press twice', both: 'Press with the next' }

interface Props {
  preset: Preset
  place: BoardPlace
  onMoved: (place: BoardPlace) => void
}

/** What the chosen switch is called and does. */
export function SwitchPanel({ preset, place, onMoved }: Props) {
  const dispatch = useAppDispatch()
  const board = preset.board ?? EMPTY_BOARD
  const capacity = capacityOf(preset.device)
  const own = switchAt(board, place)
  const put = (change: Partial<Omit<BoardSwitch, 'id' | keyof BoardPlace>>) =>
    dispatch(
      edit(own ? { type: 'changeSwitch', id: own.id, change } : { type: 'addSwitch', own: { ...createSwitch(newId(), place), ...change } }),
    )
  const moveTo = (to: Partial<BoardPlace>) => {
    if (!own) return
    dispatch(edit({ type: 'moveSwitch', id: own.id, to: { ...place, ...to } }))
    onMoved({ ...place, ...to })
  }
  const delay = own ? pressDelay(habitsOf(own, board, actsWhileDown(preset, own.press)), board.doubleMs) : 0
  const numbers = (count: number, now: number) =>
    Array.from({ length: Math.max(count, now + 1) }, (_, i) => [String(i), String(i + 1)] as const)
  const first = own && functionsOf(own).at(0)?.fn
  return (
    <aside
      aria-label="Switch"
      className="min-h-0 overflow-y-auto border-l border-ink px-4 pt-2 pb-4 text-[12px] max-[1100px]:border-t max-[1100px]:border-l-0"
    >
      <h2 className="text-title">
        Switch {place.index + 1}
        <span className="eyebrow ml-2">
          {PAGE_NAMES[place.page].toLowerCase()}, bank {place.bank + 1}
        </span>
      </h2>
      <Line name="Label">
        <TextField
          label="Label of the switch"
          value={own?.label ?? ''}
          maxLength={switchFields.label.most}
          title="Empty: named by what it does"
          className="w-[170px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
          onCommit={(text) => {
            put({ label: text.trim() })
            return null
          }}
        />
      </Line>
      {own?.label === '' && first && <p className="text-right text-ink3">by itself “{functionLabel(preset, first)}”</p>}
      {GESTURES.map((gesture) => {
        const known = isUsable(gesture, place, capacity)
        const fn = own?.[gesture] ?? null
        if (!known && fn === null) return null
        return (
          <section key={gesture} aria-label={GESTURE_NAMES[gesture]} className="mt-2 border-t border-rule pt-1">
            <div className="flex items-baseline justify-between gap-2">
              <h3 className="text-name font-semibold">{GESTURE_NAMES[gesture]}</h3>
              <Pick
                label={`${GESTURE_NAMES[gesture]} does`}
                value={fn?.do ?? 'none'}
                options={[['none', 'nothing'] as const, ...FUNCTION_KINDS.map((kind) => [kind, FUNCTION_NAMES[kind]] as const)]}
                onChange={(kind) => {
                  const made = kind === 'none' ? null : begun(preset, kind)
                  if (made !== undefined) put({ [gesture]: made })
                  else
                    dispatch(
                      notified({ kind: 'note', text: 'Nothing is there to be moved yet: add a pedal or a switch on the page of sources.' }),
                    )
                }}
              />
            </div>
            {fn && <Details preset={preset} fn={fn} gesture={GESTURE_NAMES[gesture]} onChange={(next) => put({ [gesture]: next })} />}
            {gesture === 'press' && fn && delay !== 0 && (
              <p className="text-ink2">
                {delay === 'release'
                  ? 'Acts when the foot is lifted, since it can also be held.'
                  : `Acts ${delay} ms late, since it waits for a second press.`}
              </p>
            )}
            {gesture === 'both' && fn && known && (
              <p className="text-ink2">
                Switches {place.index + 1} and {place.index + 2} pressed at once; alone each of them acts {TOGETHER_MS} ms later.
              </p>
            )}
            {!known && <p className="font-semibold">The device does not know this.</p>}
          </section>
        )
      })}
      {own && (
        <>
          <div className="mt-2 border-t border-rule pt-1">
            <Line name="MIDI">
              <MidiLearn id={own.id} midi={own.midi} onForget={() => put({ midi: null })} />
            </Line>
            <Line name="Stands at">
              <span className="flex gap-2">
                <Pick
                  label="Page of the switch"
                  value={place.page}
                  options={BOARD_PAGES.map((p) => [p, PAGE_NAMES[p]] as const)}
                  onChange={(page) => moveTo({ page })}
                />{' '}
                <Pick
                  label="Bank of the switch"
                  value={String(place.bank)}
                  options={numbers(capacity.banks, place.bank).map(([v, n]) => [v, `bank ${n}`] as const)}
                  onChange={(bank) => moveTo({ bank: Number(bank) })}
                />{' '}
                <Pick
                  label="Number of the switch"
                  value={String(place.index)}
                  options={numbers(capacity.switches, place.index)}
                  onChange={(index) => moveTo({ index: Number(index) })}
                />{' '}
              </span>
            </Line>
          </div>
          <button type="button" className="act mt-1" onClick={() => dispatch(edit({ type: 'removeSwitch', id: own.id }))}>
            Clear the switch
          </button>
        </>
      )}
    </aside>
  )
}

/** A function of a kind with what is nearest at hand; undefined where the preset has nothing for it. */
function begun(preset: Preset, kind: FunctionKind): SwitchFunction | undefined {
  const movable = (preset.controls ?? []).filter((c) => !runsItself(c))
  switch (kind) {
    case 'snapshot': {
      const used = new Set((preset.board?.switches ?? []).flatMap((s) => (s.press?.do === 'snapshot' ? [s.press.snapshot] : [])))
      return { do: kind, snapshot: (preset.snapshots.find((s) => !used.has(s.id)) ?? preset.snapshots[0]).id }
    }
    case 'stages': {
      const stage = partsOf(preset.chain).at(0)
      return stage && { do: kind, stages: [stage.id], how: 'each' }
    }
    case 'source':
      return movable.length > 0
        ? { do: kind, control: (movable.find((c) => c.kind === 'momentary' || c.kind === 'latching') ?? movable[0]).id }
        : undefined
    case 'pedals':
      return movable.length > 0 ? { do: kind, controls: [movable[0].id] } : undefined
    case 'bank':
    case 'preset':
      return { do: kind, by: 1 }
    default:
      return { do: kind }
  }
}
