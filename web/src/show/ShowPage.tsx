import { useEffect, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { Show } from '@fulgor/core/show'
import { showSource } from '../state/showSource'
import { useKitDocument, type KitDocument } from '../state/useKitDocument'
import { WarningMark } from '../ui/marks'
import { Overlays } from '../ui/Overlays'
import { ShowMenu, useShowId } from './ShowPick'

interface Props {
  /** “Brief”, “Set”. */
  name: string
  to: '/brief' | '/set'
  /** What stands there while there is no show. */
  empty: string
  children: (id: string, show: Show, editing: KitDocument<Show>) => ReactNode
}

/** A view of the show that the address names; of the one that was open last where it names none. */
export function ShowPage(props: Props) {
  const { name, to, empty } = props
  const { id, none, problem } = useShowId(to)
  if (id !== undefined) return <Opened key={id} id={id} {...props} />
  return (
    <main className="p-4">
      <h1 className="text-title">{name}</h1>
      <p className="my-2 max-w-[520px] text-ink2">{problem ?? (none ? empty : 'Opening …')}</p>
      <ShowMenu to={to} />
    </main>
  )
}

function Opened({ id, name, to, children }: Props & { id: string }) {
  const editing = useKitDocument(id, showSource)
  const { document: show, missing } = editing
  useEffect(() => {
    document.title = show ? `${show.name}, ${name} · Fulgor` : `${name} · Fulgor`
  }, [show, name])
  if (missing === null && show) return <Overlays>{children(id, show, editing)}</Overlays>
  return (
    <main className="p-4">
      {missing === null ? (
        <p className="text-ink3">Opening …</p>
      ) : (
        <p role="alert">
          <WarningMark /> {missing}{' '}
          <Link className="act" to={to}>
            The shows that are there
          </Link>
        </p>
      )}
    </main>
  )
}
