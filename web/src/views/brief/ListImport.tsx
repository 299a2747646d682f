import Papa from 'papaparse'
import { useRef, useState } from 'react'
import { soundsOf, type NeededSound, type Pasted } from '@fulgor/core/show'
import { newId } from '../../state/ids'
import { WarningMark } from '../../ui/marks'
import { PaperDialog } from '../../ui/PaperDialog'

/** Bytes of a list; more is no list of sounds. */
const MOST_BYTES = 1_000_000

/** Rows of what was pasted or dropped: commas, semicolons or tabs. */
const rowsOf = (text: string): string[][] => Papa.parse<string[]>(text.trim(), { skipEmptyLines: false }).data

/** Takes a list of sounds from a CSV file or pasted lines; broken lines are told before anything is taken. */
export function ListImport({ onSounds, room }: { onSounds: (sounds: readonly NeededSound[]) => void; room: number }) {
  const [open, setOpen] = useState(false)
  const [text, setText] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const file = useRef<HTMLInputElement>(null)
  const read: Pasted | null = text.trim() === '' ? null : soundsOf(rowsOf(text), newId)
  const sounds = (read?.sounds ?? []).slice(0, Math.max(0, room))
  const left = (read?.sounds.length ?? 0) - sounds.length
  const take = async (chosen: File | undefined) => {
    if (!chosen) return
    if (chosen.size > MOST_BYTES) setProblem(`${chosen.name} is too large for a list: at most 1 MB.`)
    else {
      setProblem(null)
      setText(await chosen.text())
    }
  }
  return (
    <>
      <button type="button" className="act" onClick={() => setOpen(true)}>
        Take a list
      </button>
      <PaperDialog open={open} onClose={() => setOpen(false)} title="Take a list of sounds" wide>
        <p className="mb-2 text-ink2">
          Paste lines, or choose a CSV file: a sound a line, as name, song, part, role, tempo, words. A first line with these names may put
          them in any order.
        </p>
        <textarea
          aria-label="Pasted lines"
          rows={7}
          className="field num w-full text-[12px]"
          value={text}
          placeholder={'Storm lead, Storm over the Pans, Solo, high gain, 84, sings over the band'}
          onChange={(event) => setText(event.currentTarget.value)}
        />
        <div className="flex items-center gap-4 py-1">
          <button type="button" className="act" onClick={() => file.current?.click()}>
            Choose a CSV file
          </button>
          <input
            ref={file}
            type="file"
            accept=".csv,.tsv,.txt,text/csv,text/plain"
            className="hidden"
            aria-label="List as CSV"
            onChange={(event) => {
              void take(event.currentTarget.files?.[0])
              event.currentTarget.value = ''
            }}
          />
        </div>
        {problem !== null && (
          <p role="alert" className="font-semibold">
            <WarningMark /> {problem}
          </p>
        )}
        {read && (
          <div role="status" className="max-h-[30vh] overflow-auto text-[12px]">
            {read.problems.map((p, i) => (
              <p key={i}>
                <WarningMark /> Line <span className="num">{p.line}</span> {p.reason} {p.taken ? '' : <b>It is left out.</b>}
              </p>
            ))}
            {left > 0 && (
              <p>
                <WarningMark /> There is room for {room} more; the last {left} are left out.
              </p>
            )}
            <p>
              {sounds.length} {sounds.length === 1 ? 'sound' : 'sounds'}: {sounds.map((s) => s.name).join(', ')}
            </p>
          </div>
        )}
        <button
          type="button"
          className="btn btn-filled mt-3"
          disabled={sounds.length === 0}
          onClick={() => {
            onSounds(sounds)
            setText('')
            setOpen(false)
          }}
        >
          {sounds.length === 0 ? 'Add them' : `Add ${sounds.length} ${sounds.length === 1 ? 'sound' : 'sounds'}`}
        </button>
      </PaperDialog>
    </>
  )
}
