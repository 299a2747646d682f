import { shippedRiffs } from '@fulgor/core/riffs'
import { UsedIn } from './UsedIn'

/** A riff that comes with Fulgor: played from a score, so that there is nothing to trim. */
export function ShippedRiff({ id }: { id: string }) {
  const riff = shippedRiffs.find((r) => r.id === id)
  if (!riff) return null
  return (
    <div className="min-h-0 min-w-0 overflow-auto px-4 py-2">
      <h2 className="font-head text-preset font-bold [font-stretch:var(--head-width)]">{riff.name}</h2>
      <p className="mt-1 max-w-prose text-[12px] text-ink2">
        {riff.bars} bars of four. It comes with Fulgor and is played from a score by a model of strings and pickups: at the tempo of the
        preset, on the guitar and position that play, in their tuning, soft, normal or hard. There is nothing to trim.
      </p>
      <UsedIn id={id} name={riff.name} to={(preset) => `/sheet/${preset}`} none="No preset yet: choose it in the player bar of one." />
    </div>
  )
}
