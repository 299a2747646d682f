import type { RunningOrder, Show } from '@fulgor/core/show'
import { Pick } from '../../ui/Pick'

/** Which night is looked at. */
export const OrderPick = ({ show, order, onPick }: { show: Show; order: RunningOrder; onPick: (id: string) => void }) => (
  <Pick
    label="Night"
    value={order.id}
    options={show.orders.map((o) => [o.id, o.name] as const)}
    className="text-left text-[12px] font-semibold text-ink"
    onChange={onPick}
  />
)
