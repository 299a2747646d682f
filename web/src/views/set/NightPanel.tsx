import { quantity } from '@fulgor/core/catalogue'
import { blankOrder, feetFields, MAX_ORDERS, orderFields, showFields, type RunningOrder, type Show } from '@fulgor/core/show'
import { useDevicesQuery } from '../../api/api'
import { ALL_OF_THEM } from '../../state/fetched'
import { newId } from '../../state/ids'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { TextField } from '../../ui/TextField'
import { Line, Words } from './fields'

interface Props {
  show: Show
  order: RunningOrder
  onShow: (show: Show, key?: string) => void
  onNight: (id: string) => void
}

/** When and where the night is, what it is played on, and what the player's feet can do. */
export function NightPanel({ show, order, onShow, onNight }: Props) {
  const { data } = useDevicesQuery(ALL_OF_THEM)
  const devices = data?.items ?? []
  const put = (change: Partial<RunningOrder>) =>
    onShow({ ...show, orders: show.orders.map((o) => (o.id === order.id ? { ...o, ...change } : o)) })
  const feet = (key: keyof Show['feet'], label: string) => (
    <NumberField
      spec={quantity('ms', label, feetFields[key].range, show.feet[key])}
      value={show.feet[key]}
      onChange={(ms) => onShow({ ...show, feet: { ...show.feet, [key]: ms } }, `feet ${key}`)}
    />
  )
  const refused = (field: { read(value: unknown, path: string, reading: never): unknown }, text: string): string | null => {
    try {
      field.read(text, '', undefined as never)
      return null
    } catch (error) {
      return error instanceof Error ? error.message.trim() : String(error)
    }
  }
  const add = (from: RunningOrder | null) => {
    const id = newId()
    const made = from
      ? { ...from, id, name: `${from.name}, again`.slice(0, orderFields.name.most), day: null }
      : blankOrder(id, `Night ${show.orders.length + 1}`)
    onShow({ ...show, orders: [...show.orders, made] })
    onNight(id)
  }
  return (
    <div className="text-[12px]">
      <h2 className="text-section font-bold">The night</h2>
      <Line label="Name">
        <Words
          label="Name of the night"
          value={order.name}
          most={orderFields.name.most}
          onChange={(name) => (name.trim() === '' ? 'A night needs a name.' : (put({ name: name.trim() }), null))}
        />
      </Line>
      <Line label="Day and time">
        <span className="flex gap-2">
          <TextField
            label="Day, as YYYY-MM-DD"
            value={order.day ?? ''}
            className="num w-[92px] min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink"
            onCommit={(text) => {
              const day = text.trim() === '' ? null : text.trim()
              const reason = day === null ? null : refused(orderFields.day, day)
              if (reason === null) put({ day })
              return reason && `The day ${reason}`
            }}
          />
          <TextField
            label="Time, as HH:MM"
            value={order.time ?? ''}
            className="num w-[52px] min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink"
            onCommit={(text) => {
              const time = text.trim() === '' ? null : text.trim()
              const reason = time === null ? null : refused(orderFields.time, time)
              if (reason === null) put({ time })
              return reason && `The time ${reason}`
            }}
          />
        </span>
      </Line>
      <Line label="Where">
        <Words label="Where it is" value={order.venue} most={orderFields.venue.most} onChange={(venue) => (put({ venue }), null)} />
      </Line>
      <div className="flex flex-wrap gap-x-4 border-t border-rule py-1">
        <button type="button" className="act font-normal" disabled={show.orders.length >= MAX_ORDERS} onClick={() => add(order)}>
          Another one of it
        </button>
        <button type="button" className="act font-normal" disabled={show.orders.length >= MAX_ORDERS} onClick={() => add(null)}>
          New night
        </button>
        <button
          type="button"
          className="act font-normal"
          disabled={show.orders.length === 1}
          onClick={() => {
            const rest = show.orders.filter((o) => o.id !== order.id)
            onShow({ ...show, orders: rest })
            onNight(rest[0].id)
          }}
        >
          Delete the night
        </button>
      </div>
      <p className="text-[11.5px] text-ink3">Nights share the songs: a song that is edited is edited in all of them.</p>
      <h2 className="mt-2 border-t border-ink pt-1 text-section font-bold">Played on</h2>
      <Line label="Device">
        <Pick
          label="Device of the show"
          value={show.device ?? ''}
          options={[
            ['', 'what each preset says'] as const,
            ...devices.map((d) => [d.id, `${d.name}, ${d.switches} switches`] as const),
            ...(show.device !== null && data && !devices.some((d) => d.id === show.device)
              ? [[show.device, 'one that is not in the Kit'] as const]
              : []),
          ]}
          className="max-w-[190px]"
          onChange={(device) => onShow({ ...show, device: device === '' ? null : device })}
        />
      </Line>
      <Line label="Silent while it loads a preset">
        <NumberField
          spec={quantity('ms', 'Silent while another preset is loaded', showFields.gapMs.range, 200)}
          value={show.gapMs}
          onChange={(gapMs) => onShow({ ...show, gapMs }, 'gap')}
        />
      </Line>
      <p className="text-[11.5px] text-ink3">
        Within a preset nothing is silent and echoes ring on; another preset cuts them. 200 ms is common practice, no source: time yours.
      </p>
      <h2 className="mt-2 border-t border-ink pt-1 text-section font-bold">Your feet</h2>
      <Line label="One press takes">{feet('pressMs', 'One press')}</Line>
      <Line label="More for each switch passed">{feet('stepMs', 'Each switch that is passed')}</Line>
      <Line label="Clean taps are no closer than">{feet('tapMs', 'Shortest time between taps')}</Line>
      <p className="text-[11.5px] text-ink3">Common practice to begin with, no source: try it and write what is yours.</p>
      <h2 className="mt-2 border-t border-ink pt-1 text-section font-bold">Notes</h2>
      <TextField
        label="Notes on the show"
        value={show.notes}
        multiline
        maxLength={showFields.notes.most}
        className="field w-full"
        onCommit={(notes) => {
          onShow({ ...show, notes })
          return null
        }}
      />
    </div>
  )
}
