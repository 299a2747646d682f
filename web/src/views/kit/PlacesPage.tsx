import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useState } from 'react'
import { NavLink, useNavigate, useParams } from 'react-router'
import { PLACES_TO_BEGIN, type Place } from '@fulgor/core/place'
import { sentenceOf, useCreatePlaceMutation, usePlacesQuery } from '../../api/api'
import { notified } from '../../state/notices'
import { hereId, sitHere } from '../../state/places'
import { useAppDispatch } from '../../state/store'
import { figure } from '../../ui/format'
import { Chevron } from '../../ui/marks'
import { PlaceSheet } from './PlaceSheet'

/** Where the player listens, on the left; the chosen place beside it. */
export function PlacesPage() {
  const { id } = useParams()
  const { data, error, refetch } = usePlacesQuery({ sort: 'name' })
  const places = data?.items ?? []
  const chosen = id ?? places.at(0)?.id
  const [here, setHere] = useState(hereId)
  return (
    <div className="grid min-h-0 grid-cols-[206px_minmax(0,1fr)] max-[900px]:block">
      <aside
        aria-label="Places"
        className="flex min-h-0 flex-col overflow-auto border-r border-rule2 max-[900px]:border-r-0 max-[900px]:border-b"
      >
        {error !== undefined && places.length === 0 && (
          <p role="alert" className="px-3.5 py-2">
            {sentenceOf(error)}{' '}
            <button type="button" className="act" onClick={() => void refetch()}>
              Ask again
            </button>
          </p>
        )}
        <ul>
          {places.map((p) => (
            <li key={p.id} className="border-b border-rule">
              <NavLink
                to={`/kit/places/${p.id}`}
                aria-current={p.id === chosen ? 'page' : undefined}
                className={`relative block px-3.5 py-1.5 hover:bg-deep ${p.id === chosen ? 'bg-deep' : ''}`}
              >
                {p.id === chosen && <span className="absolute inset-y-0 left-0 w-[3px] bg-ember" />}
                <span className={`block truncate text-name ${p.id === chosen ? 'font-bold' : 'font-semibold'}`}>{p.name}</span>
                <span className="block text-[11.5px] text-ink2">
                  <span className="num">{figure(p.level, 0)}</span> dB SPL · {p.mono ? 'mono' : 'stereo'}
                  {p.id === here && <b className="font-semibold text-lane"> · I sit here</b>}
                </span>
              </NavLink>
            </li>
          ))}
        </ul>
        <AddPlace />
      </aside>
      {chosen === undefined ? (
        <p className="px-4 py-3 text-ink2">
          {data ? 'No place yet. Add the one that you sit at, and the one that you play for.' : 'Opening …'}
        </p>
      ) : (
        <PlaceSheet
          key={chosen}
          id={chosen}
          here={here}
          others={places}
          onHere={() => {
            sitHere(chosen)
            setHere(chosen)
          }}
        />
      )}
    </div>
  )
}

function AddPlace() {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [create] = useCreatePlaceMutation()
  const add = async (place: Place) => {
    const answer = await create(place)
    if (answer.error) dispatch(notified({ kind: 'warning', text: `Not added: ${sentenceOf(answer.error)}` }))
    else void navigate(`/kit/places/${answer.data.id}`)
  }
  return (
    <Menu>
      <MenuButton className="act m-3.5 self-start">
        Add a place
        <Chevron />
      </MenuButton>
      <MenuItems modal={false} anchor="bottom start" className="menu">
        {PLACES_TO_BEGIN.map((p) => (
          <MenuItem key={p.name}>
            <button type="button" className="menu-item" onClick={() => void add(p)}>
              {p.name} <kbd>{p.level} dB SPL</kbd>
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}
