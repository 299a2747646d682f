/** A warning: ink triangle, always with words beside it. */
export const WarningMark = () => (
  <svg className="inline-block flex-none align-[-1px]" width="11" height="11" viewBox="0 0 10 10" role="img" aria-label="warning">
    <path d="M5 .8 9.6 9.4H.4Z" fill="currentColor" />
    <path d="M5 3.6v3" stroke="var(--paper)" strokeWidth="1.2" />
    <circle cx="5" cy="8" r=".7" fill="var(--paper)" />
  </svg>
)

/** A note: ringed i. */
export const NoteMark = () => (
  <svg className="inline-block flex-none align-[-1px]" width="11" height="11" viewBox="0 0 11 11" role="img" aria-label="note">
    <circle cx="5.5" cy="5.5" r="4.8" fill="none" stroke="currentColor" strokeWidth="1.2" />
    <path d="M5.5 5v3.2M5.5 2.6v1.2" stroke="currentColor" strokeWidth="1.2" />
  </svg>
)

/** Filled when on, hollow when off. */
export const Dot = ({ on }: { on: boolean }) => (
  <span
    data-dot={on ? 'on' : 'off'}
    className={`inline-block size-2 flex-none rounded-full border-[1.3px] border-current ${on ? 'bg-current' : ''}`}
  />
)

export const ArrowMark = () => (
  <svg width="8" height="7" viewBox="0 0 8 7" aria-hidden="true">
    <path d="M0 3.5h7M4.2.8 7 3.5 4.2 6.2" fill="none" stroke="currentColor" strokeWidth="1.1" />
  </svg>
)

export const Chevron = () => (
  <svg className="ml-1 inline-block" width="8" height="6" viewBox="0 0 8 6" aria-hidden="true">
    <path d="M1 1l3 3.4L7 1" fill="none" stroke="currentColor" strokeWidth="1.3" />
  </svg>
)

export const PlayMark = ({ playing }: { playing: boolean }) =>
  playing ? (
    <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
      <path d="M1 1h10v10H1z" fill="currentColor" />
    </svg>
  ) : (
    <svg width="12" height="14" viewBox="0 0 12 14" aria-hidden="true">
      <path d="M1 1l10 6-10 6z" fill="currentColor" />
    </svg>
  )

export const LoopMark = () => (
  <svg width="16" height="12" viewBox="0 0 16 12" fill="none" stroke="currentColor" strokeWidth="1.3" aria-hidden="true">
    <path d="M11 1l2.5 2L11 5M13 3H5a3.5 3.5 0 0 0-3.5 3.5M5 11L2.5 9 5 7M3 9h8a3.5 3.5 0 0 0 3.5-3.5" />
  </svg>
)

/** Six dots to take hold of. */
export const Grip = () => (
  <svg width="6" height="10" viewBox="0 0 6 10" aria-hidden="true" fill="currentColor">
    {[1, 5, 9].flatMap((y) => [<circle key={`a${y}`} cx="1" cy={y} r="1" />, <circle key={`b${y}`} cx="5" cy={y} r="1" />])}
  </svg>
)
