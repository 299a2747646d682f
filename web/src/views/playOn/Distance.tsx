import { figure } from '../../ui/format'

/** How far something lies from a line, before as a ring and after as a dot; what is off the scale stands at its end. */
export function Distance({ from, to, most, words }: { from: number | null; to: number | null; most: number; words: string }) {
  const place = (value: number) => `${50 + 50 * Math.min(1, Math.max(-1, value / most))}%`
  const both = from !== null && to !== null
  return (
    <span
      role="img"
      aria-label={`${words}: ${from === null ? 'not known' : figure(from, 1, true)} as it is, ${to === null ? 'not known' : figure(to, 1, true)} corrected`}
      className="relative block h-4"
    >
      <span className="absolute inset-x-0 top-1/2 border-t border-rule" />
      <span className="absolute inset-y-0 left-1/2 border-l-2 border-lane" />
      {both && (
        <span
          className="absolute top-1/2 border-t border-control"
          style={{ left: place(Math.min(from, to)), right: `calc(100% - ${place(Math.max(from, to))})` }}
        />
      )}
      {from !== null && (
        <span
          className="absolute top-1/2 size-[9px] -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-ink bg-paper"
          style={{ left: place(from) }}
        />
      )}
      {to !== null && (
        <span className="absolute top-1/2 size-[9px] -translate-x-1/2 -translate-y-1/2 rounded-full bg-ember" style={{ left: place(to) }} />
      )}
    </span>
  )
}
