import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useNavigate, useParams } from 'react-router'
import { asDevice, CAPACITIES, DEFAULT_SCALE, type DeviceDocument } from '@fulgor/core/preset'
import { sentenceOf, useCreateDeviceMutation, useDevicesQuery } from '../../api/api'
import { notified } from '../../state/notices'
import { ALL_OF_THEM } from '../../state/fetched'
import { useAppDispatch } from '../../state/store'
import { Chevron } from '../../ui/marks'
import { DeviceSheet } from './DeviceSheet'
import { KitPage } from './KitPage'

/** What the presets are played on; the chosen one beside the list. */
export function DevicesPage() {
  const { id } = useParams()
  const asked = useDevicesQuery(ALL_OF_THEM)
  const devices = asked.data?.items ?? []
  const chosen = id ?? devices.at(0)?.id
  return (
    <KitPage
      label="Devices"
      to="/kit/devices"
      groups={[
        {
          items: devices.map(({ id: of, name, switches, pedals }) => ({
            id: of,
            name,
            told: `${switches} switches, ${pedals} ${pedals === 1 ? 'pedal' : 'pedals'}`,
          })),
        },
      ]}
      chosen={chosen}
      asked={asked}
      add={<AddDevice />}
      empty="No device yet. Add the one that your presets go to: what it holds is counted, and levels are told in its own marks."
    >
      {chosen !== undefined && <DeviceSheet key={chosen} id={chosen} />}
    </KitPage>
  )
}

/** A size to begin with. */
function AddDevice() {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [create] = useCreateDeviceMutation()
  const add = async (document: DeviceDocument) => {
    const answer = await create(document)
    if (answer.error) dispatch(notified({ kind: 'warning', text: `Not added: ${sentenceOf(answer.error)}` }))
    else void navigate(`/kit/devices/${answer.data.id}`)
  }
  return (
    <Menu>
      <MenuButton className="act mx-3.5 my-2">
        Add a device
        <Chevron />
      </MenuButton>
      <MenuItems modal={false} anchor="bottom start" className="menu">
        {CAPACITIES.map(({ name, capacity }) => (
          <MenuItem key={name}>
            <button type="button" className="menu-item" onClick={() => void add(asDevice({ ...DEFAULT_SCALE, name, capacity }))}>
              {name} <kbd>{capacity.switches} switches</kbd>
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}
