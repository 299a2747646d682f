import { Exchange, type Introduction } from '../background/exchange'

/** Where this thread and the others of its crew lay down for each other what they have made. */
export const exchange = new Exchange()

addEventListener('message', ({ data }: MessageEvent<Partial<Introduction> | null>) => {
  if (data?.introduces && data.page !== undefined) exchange.meet({ introduces: data.introduces, page: data.page })
})
