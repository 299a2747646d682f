import type { ReactNode } from 'react'
import { quantity, type Unit } from '@fulgor/core/catalogue'
import { controlFields, LFO_SHAPES, runsItself, type Control, type OnSnapshot } from '@fulgor/core/preset'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { MidiLearn } from './MidiLearn'
import { KIND_NAMES } from './words'

const RECALL: readonly (readonly [OnSnapshot, string])[] = [
  ['jump', 'jump to the source'],
  ['pickup', 'wait for pickup'],
  ['keep', 'keep until it is moved'],
]

/** What the chosen source is, and how it behaves. */
export function SourceHead({ control, count, onRemoved }: { control: Control; count: number; onRemoved: () => void }) {
  const dispatch = useAppDispatch()
  const change = (part: Partial<Omit<Control, 'id' | 'targets'>>) =>
    dispatch(edit({ type: 'changeControl', control: control.id, change: part }))
  const field = (label: string, value: number, unit: Unit, range: readonly [number, number], take: (value: number) => void) => (
    <NumberField
      spec={quantity(unit, label, range)}
      value={value}
      className="num w-[78px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
      onChange={take}
    />
  )
  return (
    <header>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <TextField
          label="Name of the source"
          value={control.name}
          maxLength={60}
          className="min-w-[80px] [field-sizing:content] max-w-[320px] border-b border-transparent bg-transparent font-head text-title font-bold outline-none [font-stretch:var(--head-width)] hover:border-control focus:border-ink"
          onCommit={(text) => {
            if (text.trim() === '') return 'A source needs a name.'
            change({ name: text.trim() })
            return null
          }}
        />
        <span className="eyebrow">
          {KIND_NAMES[control.kind].toLowerCase()}, {count} {count === 1 ? 'target' : 'targets'}, each on its own range
        </span>
        <button
          type="button"
          className="act ml-auto text-[12px]"
          onClick={() => {
            dispatch(edit({ type: 'removeControl', control: control.id }))
            onRemoved()
          }}
        >
          Remove the source
        </button>
      </div>
      <div className="mt-0.5 flex flex-wrap items-baseline gap-x-5 text-[12px]">
        {control.kind === 'volume' && (
          <Item name="Its place">
            <Pick
              label="How the guitar’s volume is known"
              value={control.declared ? 'declared' : 'heard'}
              options={[
                ['heard', 'heard from the input'],
                ['declared', 'as I say'],
              ]}
              onChange={(how) => change({ declared: how === 'declared' })}
            />
          </Item>
        )}
        {!runsItself(control) && (
          <Item name="On a snapshot">
            <Pick
              label="What happens on a snapshot"
              value={control.onSnapshot}
              options={RECALL}
              onChange={(onSnapshot) => change({ onSnapshot })}
            />
          </Item>
        )}
        {!runsItself(control) && (
          <Item name="Rests at">{field('Rest', control.rest * 100, 'percent', [0, 100], (rest) => change({ rest: rest / 100 }))}</Item>
        )}
        <Item name="Glides in">
          {field('Smoothing', control.smoothing, 'ms', controlFields.smoothing.range, (smoothing) => change({ smoothing }))}
        </Item>
        {!runsItself(control) && (
          <Item name="MIDI">
            <MidiLearn id={control.id} midi={control.midi} onForget={() => change({ midi: null })} />
          </Item>
        )}
        {control.kind === 'lfo' && (
          <>
            <Item name="One turn lasts">
              <Pick
                label="One turn of the LFO"
                value={control.note}
                options={[['free', 'free'] as const, ...NOTE_VALUES.map((n) => [n.id, n.name.toLowerCase()] as const)]}
                onChange={(note) => change({ note })}
              />
            </Item>
            {control.note === 'free' && (
              <Item name="Rate">{field('Rate', control.hz, 'hz', controlFields.hz.range, (hz) => change({ hz }))}</Item>
            )}
            <Item name="Wave">
              <Pick
                label="Wave of the LFO"
                value={control.shape}
                options={LFO_SHAPES.map((s) => [s, s] as const)}
                onChange={(shape) => change({ shape })}
              />
            </Item>
          </>
        )}
        {control.kind !== 'lfo' && runsItself(control) && (
          <>
            <Item name="Heel at">
              {field('Softest input', control.low, 'dbfs', [controlFields.low.range[0], control.high - 1], (low) => change({ low }))}
            </Item>
            <Item name="toe at">
              {field('Loudest input', control.high, 'dbfs', [control.low + 1, controlFields.high.range[1]], (high) => change({ high }))}
            </Item>
            <Item name="Attack">{field('Attack', control.attack, 'ms', controlFields.attack.range, (attack) => change({ attack }))}</Item>
            <Item name="release">
              {field('Release', control.release, 'ms', controlFields.release.range, (release) => change({ release }))}
            </Item>
          </>
        )}
      </div>
    </header>
  )
}

const Item = ({ name, children }: { name: string; children: ReactNode }) => (
  <span className="flex items-baseline gap-1.5">
    <span className="text-ink2">{name}</span>
    {children}
  </span>
)
