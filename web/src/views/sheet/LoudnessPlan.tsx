import { type ReactNode } from 'react'
import { modelOf, quantity } from '@fulgor/core/catalogue'
import {
  riffOf,
  roleOffset,
  ROLES,
  targetOf,
  trimOf,
  trimsOf,
  type Edit,
  type Preset,
  type Role,
  type Snapshot,
  snapshotFields,
} from '@fulgor/core/preset'
import { riffFor, riffNames, useOwnRiffs } from '../../state/riffs'
import { isShipped } from '@fulgor/core/reading'
import { renderingOf } from '../../threads/riffSource'
import { renderers } from '../../threads/crews'
import { useWishes } from '../../background/useWish'
import { edit } from '../../state/actions'
import { levelSnapshots } from '../../state/levelling'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { Pick } from '../../ui/Pick'
import { PICKINGS } from '../../ui/riffWords'
import { Segments } from '../../ui/Segments'
import { NumberField } from '../../ui/NumberField'

type Plan = Extract<Edit, { type: 'setPlan' }>['plan']

const OFFSET = quantity('db', 'Against the target', snapshotFields.offset.range, 0)

const ROLE_NAMES: Record<Role, string> = { rhythm: 'Rhythm', lead: 'Lead', clean: 'Clean', ambience: 'Ambience', effect: 'Effect' }

/** What a snapshot is for, how loud it is to be and on which riff that is measured. */
export function LoudnessPlan({ preset, snapshot }: { preset: Preset; snapshot: Snapshot }) {
  const dispatch = useAppDispatch()
  const entry = useAppSelector((s) => s.measures.snapshots[snapshot.id])
  const plan = (change: Plan) => dispatch(edit({ type: 'setPlan', snapshot: snapshot.id, plan: change }))
  const offset = snapshot.offset ?? roleOffset(snapshot.role)
  const lufs = entry?.fresh ? (entry.output?.integratedLufs ?? null) : null
  const trim = trimOf(preset)
  return (
    <section aria-label="Loudness plan" className="text-[12px]">
      <h2 className="mt-2 text-[15px]">
        Loudness plan <Explain term="target" />
      </h2>
      <Line name="Role">
        <Pick<Role | 'none'>
          label="Role of the snapshot"
          value={snapshot.role ?? 'none'}
          options={[
            ['none', 'none'],
            ...ROLES.map((r) => [r, `${ROLE_NAMES[r]}${roleOffset(r) === 0 ? '' : `, ${figure(roleOffset(r), 0, true)} dB`}`] as const),
          ]}
          onChange={(role) => plan({ role: role === 'none' ? null : role, offset: null })}
        />
      </Line>
      <Line name="Against the target">
        <NumberField
          spec={OFFSET}
          label="dB against the target"
          value={offset}
          format={(db) => `${figure(db, 1, true)} dB`}
          className="num w-[72px] border-b border-transparent bg-transparent text-right outline-none hover:border-control focus:border-ink"
          onChange={(db) => plan({ offset: db === roleOffset(snapshot.role) ? null : Math.round(db * 10) / 10 })}
        />
      </Line>
      <Line name="Its target">
        <span className="num">{figure(targetOf(preset, snapshot))} LUFS</span>
      </Line>
      <RiffLine preset={preset} snapshot={snapshot} onChange={(riff) => plan({ riff })} />
      <Line name="Soft to hard, LUFS">
        <PickingRange preset={preset} snapshot={snapshot} />
      </Line>
      <Line name="Levelling turns">
        <Pick
          label="Levelling turns"
          value={trim?.stage.id ?? ''}
          options={trimsOf(preset).map((t) => [t.stage.id, `${trimName(preset, t.stage.id)}, ${t.spec.label.toLowerCase()}`] as const)}
          onChange={(stage) => dispatch(edit({ type: 'setTrim', stage }))}
        />
      </Line>
      <div className="flex flex-wrap gap-x-4 pt-1">
        <button type="button" className="act" disabled={!entry?.fresh} onClick={() => dispatch(levelSnapshots(snapshot.id))}>
          Level this one
        </button>
        <button type="button" className="act" aria-pressed={snapshot.ignored ?? false} onClick={() => plan({ ignored: !snapshot.ignored })}>
          {snapshot.ignored ? 'Level it with the others' : 'Leave it alone'}
        </button>
        <button
          type="button"
          className="act"
          disabled={lufs === null}
          title="The preset’s target becomes what this snapshot has now; the others follow it"
          onClick={() =>
            lufs !== null && dispatch(edit({ type: 'setTarget', lufs: Math.round(Math.max(-60, Math.min(0, lufs - offset)) * 10) / 10 }))
          }
        >
          Take the target from it
        </button>
      </div>
    </section>
  )
}

function trimName(preset: Preset, id: string): string {
  const all = trimsOf(preset).filter((t) => t.stage.model === trimsOf(preset).find((o) => o.stage.id === id)?.stage.model)
  const index = all.findIndex((t) => t.stage.id === id)
  return `${modelOf(all[index].stage.model).name}${all.length > 1 ? ` ${index + 1}` : ''}`
}

function RiffLine({
  preset,
  snapshot,
  onChange,
}: {
  preset: Preset
  snapshot: Snapshot
  onChange: (riff: Snapshot['riff'] | null) => void
}) {
  const own = useOwnRiffs()
  const riff = riffOf(preset, snapshot.id)
  const options = [['preset', 'the preset’s'] as const, ...riffNames(own)]
  return (
    <>
      <Line name="Heard and measured on">
        <Pick
          label="Riff of the snapshot"
          value={snapshot.riff?.id ?? 'preset'}
          options={options}
          onChange={(id) => onChange(id === 'preset' ? null : riffFor(preset, riff, id, own))}
        />{' '}
      </Line>
      {snapshot.riff && isShipped(riff.id) && (
        <Line name="Picking">
          <Segments
            label="Picking of the snapshot"
            value={riff.strength}
            options={PICKINGS}
            onChange={(strength) => onChange({ ...riff, strength })}
          />
        </Line>
      )}
    </>
  )
}

/** Loudness of the same riff picked softly and hard. */
function PickingRange({ preset, snapshot }: { preset: Preset; snapshot: Snapshot }) {
  const quality = useAppSelector((s) => s.player.quality)
  const ready = useAppSelector((s) => s.measures.lastAllMs !== null)
  const shipped = isShipped(riffOf(preset, snapshot.id).id)
  const wanted = ready && shipped
  const { answers, waiting } = useWishes(
    renderers,
    [preset, snapshot.id, quality, wanted],
    () =>
      (wanted ? (['soft', 'hard'] as const) : []).map((strength) => ({
        task: 'loudness',
        args: [renderingOf(preset, snapshot.id, quality, strength)],
        key: null,
        rank: 'idle',
      })),
    { afterMs: 200 },
  )
  const [soft, hard] = answers
  if (!shipped) return <span className="text-ink3">one take alone</span>
  if (waiting > 0 || soft === undefined || hard === undefined) return <span className="text-ink3">measuring …</span>
  return (
    <span className="num" data-picking={`${soft?.toFixed(2)} ${hard?.toFixed(2)}`}>
      {figure(soft)} to {figure(hard)}
    </span>
  )
}

const Line = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="flex min-h-6 items-baseline justify-between gap-2 border-t border-rule py-0.5">
    <span className="text-ink2">{name}</span>
    {children}
  </div>
)
