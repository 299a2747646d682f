import { useState } from 'react'
import { NavLink, useNavigate, useParams } from 'react-router'
import { asDocument, GUITARS, type GuitarDocument } from '@fulgor/core/guitar'
import { sentenceOf, useCreateGuitarMutation, useGuitarsQuery } from '../../api/api'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { Chevron } from '../../ui/marks'
import { GuitarSheet } from './GuitarSheet'

/** The player's guitars on the left, the chosen one beside them. */
export function GuitarsPage() {
  const { id } = useParams()
  const { data, error, refetch } = useGuitarsQuery({ sort: 'name' })
  const guitars = data?.items ?? []
  const chosen = id ?? guitars.at(0)?.id
  return (
    <div className="grid min-h-0 grid-cols-[206px_minmax(0,1fr)] max-[900px]:block">
      <aside
        aria-label="Guitars"
        className="flex min-h-0 flex-col overflow-auto border-r border-rule2 max-[900px]:border-r-0 max-[900px]:border-b"
      >
        {error !== undefined && guitars.length === 0 && (
          <p role="alert" className="px-3.5 py-2">
            {sentenceOf(error)}{' '}
            <button type="button" className="act" onClick={() => void refetch()}>
              Ask again
            </button>
          </p>
        )}
        <ul>
          {guitars.map((g) => (
            <li key={g.id} className="border-b border-rule">
              <NavLink
                to={`/kit/guitars/${g.id}`}
                aria-current={g.id === chosen ? 'page' : undefined}
                className={`relative block px-3.5 py-1.5 hover:bg-deep ${g.id === chosen ? 'bg-deep' : ''}`}
              >
                {g.id === chosen && <span className="absolute inset-y-0 left-0 w-[3px] bg-ember" />}
                <span className={`block truncate text-name ${g.id === chosen ? 'font-bold' : 'font-semibold'}`}>{g.name}</span>
                <span className="block text-[11.5px] text-ink2">
                  {g.positionCount} {g.positionCount === 1 ? 'position' : 'positions'} · {g.tuning}
                </span>
              </NavLink>
            </li>
          ))}
        </ul>
        <AddGuitar />
      </aside>
      {chosen === undefined ? (
        <p className="px-4 py-3 text-ink2">
          {data ? 'No guitar yet. Add one, and measure it by playing, from a file, or type its figures.' : 'Opening …'}
        </p>
      ) : (
        <GuitarSheet key={chosen} id={chosen} />
      )}
    </div>
  )
}

/** A guitar to begin with, whose figures are measured or typed over. */
function AddGuitar() {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [create] = useCreateGuitarMutation()
  const [busy, setBusy] = useState(false)
  const add = async (document: GuitarDocument) => {
    setBusy(true)
    const answer = await create(document)
    setBusy(false)
    if (answer.error) dispatch(notified({ kind: 'warning', text: `Not added: ${sentenceOf(answer.error)}` }))
    else void navigate(`/kit/guitars/${answer.data.id}`)
  }
  return (
    <Menu>
      <MenuButton className="act m-3.5 self-start" disabled={busy}>
        Add a guitar
        <Chevron />
      </MenuButton>
      <MenuItems modal={false} anchor="bottom start" className="menu">
        {GUITARS.map((g) => (
          <MenuItem key={g.name}>
            <button type="button" className="menu-item" onClick={() => void add(asDocument(g))}>
              {g.name} <kbd>{g.positions.length} positions</kbd>
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}
