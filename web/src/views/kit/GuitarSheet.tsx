import { useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { guitarFields, KIND_STARTS, MAX_POSITIONS, startPosition, type GuitarDocument, type PickupPosition } from '@fulgor/core/guitar'
import { sentenceOf, useDeleteGuitarMutation, usePresetsQuery } from '../../api/api'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { TextField } from '../../ui/TextField'
import { guitarSource } from './guitarSource'
import { KitHead, NotThere } from './KitHead'
import { KnobsChart } from './KnobsChart'
import { PositionPart } from './PositionPart'
import { Positions } from './Positions'
import { TuningPart } from './TuningPart'
import { useKitDocument } from './useKitDocument'
import { WiringPart } from './WiringPart'

/** One guitar: its positions on one scale, its knobs, how it is tuned and wired, and where it is used. */
export function GuitarSheet({ id }: { id: string }) {
  const editing = useKitDocument(id, guitarSource)
  const { document, missing, standing, change } = editing
  const [search, setSearch] = useSearchParams()
  if (missing !== null || !document) return <NotThere missing={missing} to="/kit/guitars" others="The guitars that are there" />
  const at = Math.min(document.positions.length - 1, Math.max(0, Number(search.get('position') ?? 1) - 1 || 0))
  const position = document.positions[at]
  const choose = (index: number) => setSearch({ position: String(index + 1) }, { replace: true })
  const put = (part: Partial<GuitarDocument>, key?: string) => change({ ...document, ...part }, key)
  const putPosition = (next: PickupPosition, key?: string) =>
    put({ positions: document.positions.map((p, i) => (i === at ? next : p)) }, key === undefined ? undefined : `${at} ${key}`)
  return (
    <div
      className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_392px] max-[1180px]:block max-[1180px]:overflow-auto"
      data-sync={standing.sync}
    >
      <section aria-label="Guitar" className="min-h-0 min-w-0 overflow-auto px-4 py-2">
        <KitHead kind="guitar" name={document.name} most={guitarFields.name.most} editing={editing} onName={(name) => put({ name })}>
          <Remove id={id} name={document.name} />
        </KitHead>
        <TextField
          label="Notes on the guitar"
          value={document.notes}
          multiline={false}
          maxLength={10_000}
          className="mb-1 w-full truncate border-b border-transparent bg-transparent text-[12px] text-ink2 outline-none hover:border-control focus:border-ink"
          onCommit={(notes) => {
            put({ notes })
            return null
          }}
        />
        <Positions guitar={document} chosen={at} onChoose={choose} />
        <div className="flex gap-x-4 py-1 text-[12px]">
          <button
            type="button"
            className="act"
            disabled={document.positions.length >= MAX_POSITIONS}
            onClick={() => {
              const next = startPosition(`Position ${document.positions.length + 1}`, 'single', 'neck')
              put({ positions: [...document.positions, next] })
              choose(document.positions.length)
            }}
          >
            Add a position
          </button>
          <button
            type="button"
            className="act"
            disabled={document.positions.length === 1}
            onClick={() => {
              put({ positions: document.positions.filter((_, i) => i !== at) })
              choose(Math.max(0, at - 1))
            }}
          >
            Remove {position.name}
          </button>
        </div>
        <KnobsChart guitar={document} position={position} number={at + 1} />
        <UsedIn id={id} name={document.name} />
      </section>
      <section
        aria-label="Figures of the position"
        className="min-h-0 min-w-0 overflow-auto border-l border-rule2 px-4 py-2 max-[1180px]:border-t max-[1180px]:border-l-0"
      >
        <PositionPart
          key={at}
          guitar={document}
          position={position}
          number={at + 1}
          onChange={putPosition}
          onKind={(kind) => {
            const { name, place } = position
            put({ positions: document.positions.map((p, i) => (i === at ? startPosition(name, kind, place, KIND_STARTS[kind].hard) : p)) })
          }}
        />
        <div className="mt-2 grid grid-cols-2 gap-x-5 border-t border-ink pt-2">
          <TuningPart guitar={document} position={position} onChange={put} />
          <WiringPart guitar={document} position={position} onChange={put} />
        </div>
      </section>
    </div>
  )
}

function Remove({ id, name }: { id: string; name: string }) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [remove] = useDeleteGuitarMutation()
  const { data } = usePresetsQuery({ uses: id, sort: 'name', limit: 1 })
  const [asking, setAsking] = useState(false)
  const go = async () => {
    const answer = await remove(id)
    if (answer.error) {
      dispatch(notified({ kind: 'warning', text: `Not deleted: ${sentenceOf(answer.error)}` }))
      return
    }
    dispatch(notified({ kind: 'note', text: `“${name}” is in the bin.`, undo: { type: 'restoreGuitar', id, name } }))
    void navigate('/kit/guitars')
  }
  const used = data?.total ?? 0
  if (asking)
    return (
      <span className="flex gap-3" role="alert">
        <span>
          {used} {used === 1 ? 'preset keeps a copy' : 'presets keep copies'} of it and will still play.
        </span>
        <button type="button" className="act" onClick={() => void go()}>
          Delete it
        </button>
        <button type="button" className="act font-normal" onClick={() => setAsking(false)}>
          Keep it
        </button>
      </span>
    )
  return (
    <button type="button" className="act font-normal" onClick={() => (used > 0 ? setAsking(true) : void go())}>
      Delete
    </button>
  )
}

/** Presets that hold a copy of this guitar. */
function UsedIn({ id, name }: { id: string; name: string }) {
  const { data } = usePresetsQuery({ uses: id, sort: 'name', limit: 12 })
  const presets = data?.items ?? []
  return (
    <div className="mt-2 border-t border-ink pt-1">
      <h2 className="text-section font-bold">{name} is used in</h2>
      {presets.length === 0 && (
        <p className="text-[12px] text-ink2">No preset yet: choose it in the player bar of one, or under “Play it on”.</p>
      )}
      <ul className="columns-2 gap-x-6 text-[12px] max-[700px]:columns-1">
        {presets.map((p) => (
          <li key={p.id} className="break-inside-avoid border-b border-rule py-0.5">
            <Link className="font-semibold hover:text-ember" to={`/play-on/${p.id}`}>
              {p.name}
            </Link>{' '}
            <span className="num text-ink2">{p.snapshotCount} snapshots</span>
          </li>
        ))}
      </ul>
      {data && data.total > presets.length && <p className="text-[12px] text-ink2">and in {data.total - presets.length} more</p>}
    </div>
  )
}
