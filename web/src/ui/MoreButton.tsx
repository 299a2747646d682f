/** Where there is little room: opens what else belongs here. */
export const MoreButton = ({ open, onToggle, what }: { open: boolean; onToggle: () => void; what: string }) => (
  <button
    type="button"
    className="act hidden small:block"
    aria-expanded={open}
    aria-label={`${open ? 'Less' : 'More'} ${what}`}
    onClick={onToggle}
  >
    {open ? 'Less' : 'More'}
  </button>
)
