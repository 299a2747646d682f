import { Link, useNavigate } from 'react-router'
import { asDevice, deviceOf, deviceProfile, type DeviceProfile, type Preset } from '@fulgor/core/preset'
import { sentenceOf, useCreateDeviceMutation, useDeviceQuery, useDevicesQuery } from '../api/api'
import { edit } from '../state/actions'
import { fetchDevice } from '../state/fetched'
import { notified } from '../state/notices'
import { ALL_OF_THEM } from '../state/fetched'
import { useAppDispatch } from '../state/store'
import { Pick } from '../ui/Pick'
import { WarningMark } from '../ui/marks'

const HERE = ''

/** Which device of the Kit the preset is for. It keeps a copy; where the Kit's was changed since, that is said and can be taken. */
export function DeviceChoice({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const { data } = useDevicesQuery(ALL_OF_THEM)
  const [create, { isLoading }] = useCreateDeviceMutation()
  const device = deviceOf(preset.device)
  const { data: theirs, error } = useDeviceQuery(device.kit ?? '', { skip: device.kit === undefined })
  const set = (next: DeviceProfile) => dispatch(edit({ type: 'setDevice', device: next }))
  const warn = (text: string) => dispatch(notified({ kind: 'warning', text }))
  const choose = async (id: string) => {
    if (id === HERE) return
    try {
      set(deviceProfile((await fetchDevice(dispatch, id)).document, id))
    } catch (failure) {
      warn(`The device could not be had from the Kit: ${sentenceOf(failure)}`)
    }
  }
  const keep = async () => {
    const answer = await create(asDevice(device))
    if (answer.error) return warn(`Not laid into the Kit: ${sentenceOf(answer.error)}`)
    set(deviceProfile(answer.data.document, answer.data.id))
    void navigate(`/kit/devices/${answer.data.id}`)
  }
  const kit = data?.items ?? []
  const known = device.kit !== undefined && kit.some((d) => d.id === device.kit)
  const changed =
    known && theirs?.id === device.kit && JSON.stringify(asDevice(device, theirs?.document.notes)) !== JSON.stringify(theirs?.document)
  return (
    <span className="flex flex-wrap items-baseline gap-x-3" data-device={device.kit ?? ''}>
      <span className="font-head text-section font-bold [font-stretch:var(--head-width)]">
        <Pick
          label="Device"
          value={known ? (device.kit ?? HERE) : HERE}
          options={[...(known ? [] : [[HERE, `${device.name}, only in this preset`] as const]), ...kit.map((d) => [d.id, d.name] as const)]}
          short={() => device.name}
          onChange={(id) => void choose(id)}
        />
      </span>
      {known ? (
        <Link className="act font-normal" to={`/kit/devices/${device.kit}`}>
          Change it in the Kit
        </Link>
      ) : (
        <button type="button" className="act font-normal" disabled={isLoading} onClick={() => void keep()}>
          Lay it into the Kit
        </button>
      )}
      {device.kit !== undefined && error !== undefined && !known && (
        <span className="text-ink2">It is no longer in the Kit; this preset keeps its copy.</span>
      )}
      {changed && theirs && (
        <span role="status">
          <WarningMark /> The Kit’s was changed since.{' '}
          <button type="button" className="act" onClick={() => set(deviceProfile(theirs.document, theirs.id))}>
            Take it
          </button>
        </span>
      )}
    </span>
  )
}
