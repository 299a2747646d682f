import { Exchange, type Introduction, type Laid } from '../background/exchange'
import { Runs } from '../background/serve'

/** What this thread does. */
export const runs = new Runs()

const forgetting = new Set<(key: string, laid: Laid) => void>()

/** Hears of what another thread wants back. */
export const onWithdrawn = (forget: (key: string, laid: Laid) => void): void => void forgetting.add(forget)

let helping: (what: string, key: string) => void = () => undefined

/** Does for other threads what they ask for. */
export const onAsked = (help: typeof helping): void => {
  helping = help
}

/** Where this thread and the others of its crew lay down for each other what they have made. */
export const exchange = new Exchange(
  undefined,
  () => runs.rest(),
  (key, laid) => {
    for (const forget of forgetting) forget(key, laid)
  },
  (what, key) => {
    try {
      helping(what, key)
    } catch {
      // whoever asked does it alone, and tells what is wrong
    }
  },
)

addEventListener('message', ({ data }: MessageEvent<Partial<Introduction> | null>) => {
  if (data?.introduces && data.page !== undefined) exchange.meet({ introduces: data.introduces, page: data.page })
})
