/** The hatch for what is too hot, shared by all rows. */
export function HatchPattern() {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden="true">
      <defs>
        <pattern id="fulgor-hatch" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V5" stroke="var(--hatch)" strokeWidth="1" />
        </pattern>
      </defs>
    </svg>
  )
}
