import { quantity } from '@fulgor/core/catalogue'
import { profileOf, tuningName, type GuitarProfile } from '@fulgor/core/guitar'
import { findSnapshot, handOf, madeOn, type HandSetting, type OwnHand, type Preset, type UsedGuitar } from '@fulgor/core/preset'
import { Link } from 'react-router'
import { useGuitarQuery } from '../../api/api'
import { edit } from '../../state/actions'
import { madeOnThis } from '../../state/hand'
import { useAppDispatch } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'

const KNOB = (label: string) => quantity('knob', label, [0, 10], 10)
const FIELD = 'num w-[44px] border-b border-control bg-transparent text-right outline-none focus:border-ink'

/** What plays: guitar, switch and knobs of the preset and of the lit snapshot; and the guitars that the preset has. */
export function HandPart({ preset, lit }: { preset: Preset; lit: string }) {
  const dispatch = useAppDispatch()
  const snapshot = findSnapshot(preset, lit)
  const made = madeOn(preset)
  const now = handOf(preset, null)
  return (
    <section
      aria-label="What plays"
      className="hands min-h-0 min-w-0 overflow-auto border-l border-rule2 px-4 py-2 text-[12px] max-[1100px]:border-t max-[1100px]:border-l-0"
    >
      <h2 className="text-section font-bold">
        What plays <Explain term="plays" />
      </h2>
      <Setting
        name="The preset"
        preset={preset}
        value={preset.hand}
        onChange={(hand) => dispatch(edit({ type: 'setHand', snapshot: null, hand }))}
      />
      <div className="mt-2 flex items-baseline justify-between border-t border-ink pt-1">
        <span className="font-semibold">{snapshot?.name}</span>
        {snapshot?.hand ? (
          <button type="button" className="act font-normal" onClick={() => dispatch(edit({ type: 'setHand', snapshot: lit, hand: null }))}>
            as the preset
          </button>
        ) : (
          <span className="text-ink2">as the preset</span>
        )}
      </div>
      <Own preset={preset} lit={lit} own={snapshot?.hand ?? {}} />
      <h2 className="mt-3 border-t border-ink pt-1 text-section font-bold">Guitars of this preset</h2>
      <p className="text-ink2">
        Made on {made.name}, {made.positions[preset.madeOn].name}.
      </p>
      {!(now.guitar === made.id && now.position === preset.madeOn) && (
        <button type="button" className="act" onClick={() => dispatch(madeOnThis())}>
          From now on it is made on {now.profile.name}, {now.pickup.name}
        </button>
      )}
      <ul>
        {preset.guitars.map((g) => (
          <Used key={g.id} preset={preset} guitar={g} />
        ))}
      </ul>
    </section>
  )
}

/** Guitar, position and knobs of the whole preset. */
function Setting(props: { name: string; preset: Preset; value: HandSetting; onChange: (hand: Partial<HandSetting>) => void }) {
  const { name, preset, value, onChange } = props
  const guitar = preset.guitars.find((g) => g.id === value.guitar) ?? preset.guitars[0]
  return (
    <div role="group" aria-label={name} className="flex flex-wrap items-baseline gap-x-3">
      <Pick
        label={`Guitar of ${name.toLowerCase()}`}
        value={guitar.id}
        options={preset.guitars.map((g) => [g.id, g.name] as const)}
        onChange={(id) => onChange({ guitar: id, position: id === preset.guitars[0].id ? preset.madeOn : 0 })}
      />
      <Pick
        label={`Position of ${name.toLowerCase()}`}
        value={String(Math.min(value.position, guitar.positions.length - 1))}
        options={guitar.positions.map((p, i) => [String(i), `${i + 1} ${p.name}`] as const)}
        onChange={(i) => onChange({ position: Number(i) })}
      />
      <span>
        Volume{' '}
        <NumberField
          spec={KNOB(`Volume of ${name.toLowerCase()}`)}
          value={value.volume}
          className={FIELD}
          onChange={(volume) => onChange({ volume })}
        />
      </span>
      <span>
        Tone{' '}
        <NumberField
          spec={KNOB(`Tone of ${name.toLowerCase()}`)}
          value={value.tone}
          className={FIELD}
          onChange={(tone) => onChange({ tone })}
        />
      </span>
    </div>
  )
}

const PRESET = 'preset'

/** What one snapshot has for itself: each of its four is as the preset until it is set here. */
function Own({ preset, lit, own }: { preset: Preset; lit: string; own: OwnHand }) {
  const dispatch = useAppDispatch()
  const hand = handOf(preset, lit)
  const put = (key: keyof OwnHand, value: OwnHand[keyof OwnHand] | null) => {
    const { [key]: _, ...rest } = own
    const next = value === null ? rest : { ...rest, [key]: value }
    // what is as the preset again stands in no document
    const edits = [
      { type: 'setHand', snapshot: lit, hand: null } as const,
      ...(Object.keys(next).length > 0 ? [{ type: 'setHand', snapshot: lit, hand: next } as const] : []),
    ]
    dispatch(edit({ type: 'all', edits }))
  }
  const knob = (key: 'volume' | 'tone', label: string) => (
    <span>
      {label}{' '}
      <NumberField
        spec={KNOB(`${label} of the snapshot`)}
        value={own[key] ?? null}
        className={FIELD}
        empty={{ word: figure(preset.hand[key]), onEmpty: () => put(key, null) }}
        onChange={(value) => put(key, value)}
      />
    </span>
  )
  return (
    <div role="group" aria-label="The snapshot" className="flex flex-wrap items-baseline gap-x-3">
      <Pick
        label="Guitar of the snapshot"
        value={own.guitar ?? PRESET}
        options={[[PRESET, 'guitar as the preset'] as const, ...preset.guitars.map((g) => [g.id, g.name] as const)]}
        onChange={(id) => put('guitar', id === PRESET ? null : id)}
      />
      <Pick
        label="Position of the snapshot"
        value={own.position === undefined ? PRESET : String(own.position)}
        options={[
          [PRESET, 'position as the preset'] as const,
          ...hand.profile.positions.map((p, i) => [String(i), `${i + 1} ${p.name}`] as const),
        ]}
        onChange={(i) => put('position', i === PRESET ? null : Number(i))}
      />
      {knob('volume', 'Volume')}
      {knob('tone', 'Tone')}
    </div>
  )
}

/** One guitar that the preset has a copy of. */
function Used({ preset, guitar }: { preset: Preset; guitar: UsedGuitar }) {
  const dispatch = useAppDispatch()
  const { data, error } = useGuitarQuery(guitar.kit ?? '', { skip: guitar.kit === undefined })
  const gone = typeof error === 'object' && 'status' in error && error.status === 404
  const { id: _id, kit: _kit, fits, ...mine } = guitar
  const theirs: GuitarProfile | null = data ? profileOf(data.document) : null
  const newer = theirs !== null && JSON.stringify(sorted(theirs)) !== JSON.stringify(sorted(mine))
  return (
    <li className="border-t border-rule py-0.5" data-used={guitar.id}>
      <span className="flex flex-wrap items-baseline gap-x-3">
        <b className="font-semibold">{guitar.name}</b>
        <span className="text-ink2">{tuningName(guitar.strings.map((s) => s.note))}</span>
        {fits && <span className="text-ink2">offsets for {fits.map((f) => f.position + 1).join(', ')}</span>}
        {guitar !== preset.guitars[0] && (
          <button
            type="button"
            className="act ml-auto font-normal"
            onClick={() => dispatch(edit({ type: 'removeGuitar', guitar: guitar.id }))}
          >
            Remove
          </button>
        )}
      </span>
      {guitar.kit !== undefined && !gone && !newer && (
        <Link className="act font-normal" to={`/kit/guitars/${guitar.kit}`}>
          In the Kit
        </Link>
      )}
      {gone && (
        <span>
          <WarningMark /> It is no longer in the Kit; this preset plays its own copy.
        </span>
      )}
      {newer && theirs && (
        <span>
          <WarningMark /> The Kit has other figures of it since.{' '}
          <button
            type="button"
            className="act"
            onClick={() =>
              dispatch(
                edit({ type: 'putGuitar', guitar: { ...theirs, id: guitar.id, ...(guitar.kit === undefined ? {} : { kit: guitar.kit }) } }),
              )
            }
          >
            Take them
          </button>
        </span>
      )}
    </li>
  )
}

/** The same keys in the same order, at every depth. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, v]) => [k, sorted(v)]),
  )
}
