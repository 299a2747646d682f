import { useSearchParams } from 'react-router'
import { guitarFields, KIND_STARTS, MAX_POSITIONS, startPosition, type GuitarDocument, type PickupPosition } from '@fulgor/core/guitar'
import { useDeleteGuitarMutation } from '../../api/api'
import { guitarSource } from './guitarSource'
import { KitHead, NotThere } from './KitHead'
import { KitNotes } from './KitNotes'
import { KitRemove } from './KitRemove'
import { KnobsChart } from './KnobsChart'
import { PositionPart } from './PositionPart'
import { Positions } from './Positions'
import { TuningPart } from './TuningPart'
import { UsedIn } from './UsedIn'
import { useKitDocument } from '../../state/useKitDocument'
import { WiringPart } from './WiringPart'

/** One guitar: its positions on one scale, its knobs, how it is tuned and wired, and where it is used. */
export function GuitarSheet({ id }: { id: string }) {
  const editing = useKitDocument(id, guitarSource)
  const { document, missing, standing, change } = editing
  const [search, setSearch] = useSearchParams()
  const [remove] = useDeleteGuitarMutation()
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
          <KitRemove
            kind="guitar"
            id={id}
            name={document.name}
            to="/kit/guitars"
            keeps={['keeps a copy of it and will still play.', 'keep copies of it and will still play.']}
            remove={remove}
          />
        </KitHead>
        <KitNotes kind="guitar" notes={document.notes} onNotes={(notes) => put({ notes })} />
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
        <UsedIn
          id={id}
          name={document.name}
          to={(preset) => `/play-on/${preset}`}
          none="No preset yet: choose it in the player bar of one, or under “Play it on”."
        />
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
