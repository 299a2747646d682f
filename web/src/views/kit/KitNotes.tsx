import { TextField } from '../../ui/TextField'

/** What the player notes of a thing of the Kit, in a line. */
export function KitNotes({ kind, notes, onNotes }: { kind: string; notes: string; onNotes: (notes: string) => void }) {
  return (
    <TextField
      label={`Notes on the ${kind}`}
      value={notes}
      multiline={false}
      maxLength={10_000}
      className="mb-1 w-full truncate border-b border-transparent bg-transparent text-[12px] text-ink2 outline-none hover:border-control focus:border-ink"
      onCommit={(text) => {
        onNotes(text)
        return null
      }}
    />
  )
}
