import type { ReactNode } from 'react'
import { TextField } from '../../ui/TextField'

/** A line of a panel: what it is, and its value on the right. */
export const Line = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className="flex min-h-7 items-baseline justify-between gap-x-3 border-t border-rule py-0.5">
    <span className="flex-none text-ink2">{label}</span>
    {children}
  </div>
)

/** Text on the right of a line. */
export const Words = (props: {
  label: string
  value: string
  most: number
  narrow?: boolean
  onChange: (text: string) => string | null
}) => (
  <TextField
    label={props.label}
    value={props.value}
    maxLength={props.most}
    className={`${props.narrow ? 'w-[64px]' : 'w-[150px]'} min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink`}
    onCommit={props.onChange}
  />
)

/** On or off, in words. */
export const Tick = ({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) => (
  <label className="flex min-h-6 items-center gap-1.5">
    <input
      type="checkbox"
      className="size-4 accent-[var(--ink)]"
      checked={on}
      onChange={(event) => onChange(event.currentTarget.checked)}
    />
    {label}
  </label>
)
