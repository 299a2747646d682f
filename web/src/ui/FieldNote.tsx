/** What is said beside a field without moving what stands around it: the reason of a refusal, or what was understood. */
export function FieldNote({ problem, note }: { problem: string | null; note?: string | null }) {
  if (problem === null && !note) return null
  return (
    <span className="absolute top-full right-0 z-40 w-max max-w-[260px] border border-ink bg-paper px-2 py-1 text-left font-body text-[12px] leading-4 font-medium whitespace-normal text-ink shadow-[0_3px_10px_rgb(0_0_0/0.18)]">
      {problem === null ? (
        <span data-understood="">{note}</span>
      ) : (
        <span role="alert" className="font-semibold text-ember">
          {problem}
        </span>
      )}
    </span>
  )
}
