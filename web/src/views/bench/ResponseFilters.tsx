import { useRef } from 'react'
import type { DroppedFile } from '../../threads/import.worker'
import { Pick } from '../../ui/Pick'
import { chosenFiles } from './dropped'
import type { BrightnessFilter, Filters, LengthFilter } from './listing'
import { Toggle } from './ResponseParts'

/** Files and whole folders from the player's disk. */
export function AddFiles({ onFiles }: { onFiles: (files: readonly DroppedFile[]) => void }) {
  const files = useRef<HTMLInputElement>(null)
  const folder = useRef<HTMLInputElement>(null)
  const chosen = (field: HTMLInputElement) => {
    if (field.files) onFiles(chosenFiles(field.files))
    field.value = ''
  }
  return (
    <>
      <button type="button" className="act ml-auto" onClick={() => files.current?.click()}>
        Add files
      </button>
      <button type="button" className="act" onClick={() => folder.current?.click()}>
        Add a folder
      </button>
      <input
        ref={files}
        type="file"
        multiple
        accept=".wav,.wave,.aif,.aiff,.aifc,.flac,.zip"
        aria-label="Impulse response files"
        className="hidden"
        onChange={(event) => chosen(event.currentTarget)}
      />{' '}
      <input
        ref={folder}
        type="file"
        {...{ webkitdirectory: '' }}
        aria-label="Folder of impulse responses"
        className="hidden"
        onChange={(event) => chosen(event.currentTarget)}
      />{' '}
    </>
  )
}

interface Props {
  filters: Filters
  /** Tags with how many responses have them. */
  tags: readonly (readonly [tag: string, count: number])[]
  onChange: (change: Partial<Filters>) => void
}

/** Which responses are listed. */
export function FilterRow({ filters, tags, onChange }: Props) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 pt-0.5 text-[12px]">
      <input
        type="search"
        value={filters.text}
        onChange={(event) => onChange({ text: event.currentTarget.value })}
        placeholder="Search"
        aria-label="Search responses"
        className="min-w-[96px] flex-1 border-b border-control bg-transparent py-0.5 outline-none focus:border-ink"
      />
      <Pick
        label="Tag"
        value={filters.tag}
        options={[['', 'any tag'], ...tags.slice(0, 200).map(([tag, n]) => [tag, `${tag} (${n})`] as const)]}
        onChange={(tag) => onChange({ tag })}
      />{' '}
      <Pick<LengthFilter>
        label="Length"
        value={filters.length}
        options={[
          ['any', 'any length'],
          ['short', 'under 50 ms'],
          ['middle', '50–200 ms'],
          ['long', 'over 200 ms'],
        ]}
        onChange={(length) => onChange({ length })}
      />{' '}
      <Pick<BrightnessFilter>
        label="Brightness"
        value={filters.brightness}
        options={[
          ['any', 'dark or bright'],
          ['dark', 'under 1.6 kHz'],
          ['middle', '1.6–2.4 kHz'],
          ['bright', 'over 2.4 kHz'],
        ]}
        onChange={(brightness) => onChange({ brightness })}
      />{' '}
      <Toggle on={filters.favourites} onClick={() => onChange({ favourites: !filters.favourites })}>
        Favourites
      </Toggle>
    </div>
  )
}
