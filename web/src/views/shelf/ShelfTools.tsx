import { DocumentError } from '@fulgor/core/document'
import { useRef, useState, type DragEvent } from 'react'
import { useNavigate } from 'react-router'
import { demoPresets } from '@fulgor/core/demo'
import { blankPreset, readPreset, type Preset } from '@fulgor/core/preset'
import { sentenceOf } from '../../api/api'
import { notified } from '../../state/notices'
import { addPreset } from '../../state/shelf'
import { useAppDispatch } from '../../state/store'
import { ActionsMenu } from '../../ui/ActionsMenu'

export function SortButton({ on, onClick, children }: { on: boolean; onClick: () => void; children: string }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className={`min-h-6 ${on ? 'font-semibold text-ink underline underline-offset-[3px]' : 'hover:text-ink'}`}
    >
      {children}
    </button>
  )
}

export function NewMenu() {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const start = async (preset: Preset) => {
    const made = await dispatch(addPreset(preset))
    if ('id' in made) void navigate(`/sheet/${made.id}`)
    else dispatch(notified({ kind: 'warning', text: sentenceOf(made.error) }))
  }
  const actions = [
    { label: 'From blank', act: () => void start(blankPreset('New preset')) },
    ...demoPresets.map(({ preset }) => ({ label: `From the demo: ${preset.name}`, act: () => void start(preset) })),
  ]
  return <ActionsMenu actions={actions} className="btn btn-filled" words="New preset" />
}

export function ImportButton({ onFiles }: { onFiles: (files: readonly File[]) => void }) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <button type="button" className="act" onClick={() => input.current?.click()}>
        Import JSON
      </button>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        multiple
        aria-label="Preset files to import"
        className="hidden"
        onChange={(event) => {
          onFiles([...(event.currentTarget.files ?? [])])
          event.currentTarget.value = ''
        }}
      />
    </>
  )
}

/** Reads preset files; a bad one is named with its reason, the others still come in. */
export function useImport() {
  const dispatch = useAppDispatch()
  const [dropping, setDropping] = useState(false)
  const importFiles = (files: readonly File[]) => {
    for (const file of files) void importOne(file)
  }
  const importOne = async (file: File) => {
    const refuse = (reason: string) => dispatch(notified({ kind: 'warning', text: `${file.name} was not imported: ${reason}` }))
    if (file.size > 1_000_000) return refuse('it is larger than 1 MB.')
    try {
      const made = await dispatch(addPreset(readPreset(JSON.parse(await file.text()))))
      if ('error' in made) refuse(sentenceOf(made.error))
      else dispatch(notified({ kind: 'note', text: `“${made.name}” is on the shelf.`, undo: { type: 'shelf' } }))
    } catch (error) {
      if (error instanceof DocumentError) refuse(error.message)
      else if (error instanceof SyntaxError) refuse('it is not JSON.')
      else throw error
    }
  }
  const dropProps = {
    onDragOver: (event: DragEvent) => {
      event.preventDefault()
      setDropping(true)
    },
    onDragLeave: () => setDropping(false),
    onDrop: (event: DragEvent) => {
      event.preventDefault()
      setDropping(false)
      importFiles([...event.dataTransfer.files])
    },
  }
  return { importFiles, dropping, dropProps }
}
