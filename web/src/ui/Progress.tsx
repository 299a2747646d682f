/** How far a long work has come: a hairline that fills. */
export function Progress({ label, value, max }: { label: string; value: number; max: number }) {
  const share = max > 0 ? Math.min(1, value / max) : 0
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={max}
      aria-valuenow={value}
      aria-valuetext={`${value} of ${max}`}
      className="relative h-[5px] flex-1 border-b border-control"
    >
      <div className="absolute bottom-[-1px] left-0 h-[3px] bg-ember" style={{ width: `${share * 100}%` }} />
    </div>
  )
}
