import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { PLACES_TO_BEGIN, type Place } from '@fulgor/core/place'
import { sentenceOf, useCreatePlaceMutation, usePlacesQuery } from '../../api/api'
import { notified } from '../../state/notices'
import { hereId, sitHere } from '../../state/places'
import { useAppDispatch } from '../../state/store'
import { figure } from '../../ui/format'
import { Chevron } from '../../ui/marks'
import { KitPage } from './KitPage'
import { PlaceSheet } from './PlaceSheet'

/** Where the player listens, on the left; the chosen place beside it. */
export function PlacesPage() {
  const { id } = useParams()
  const asked = usePlacesQuery({ sort: 'name' })
  const places = asked.data?.items ?? []
  const chosen = id ?? places.at(0)?.id
  const [here, setHere] = useState(hereId)
  return (
    <KitPage
      label="Places"
      to="/kit/places"
      groups={[
        {
          items: places.map(({ id: of, name, level, mono }) => ({
            id: of,
            name,
            told: (
              <>
                <span className="num">{figure(level, 0)}</span> dB SPL · {mono ? 'mono' : 'stereo'}
                {of === here && <b className="font-semibold text-lane"> · I sit here</b>}
              </>
            ),
          })),
        },
      ]}
      chosen={chosen}
      asked={asked}
      add={<AddPlace />}
      empty="No place yet. Add the one that you sit at, and the one that you play for."
    >
      {chosen !== undefined && (
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
    </KitPage>
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
      <MenuButton className="act mx-3.5 my-2">
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
