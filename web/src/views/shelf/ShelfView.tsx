import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useEffect, useRef, useState, type DragEvent } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import type { PresetSummary } from '@fulgor/core/api'
import { demoPresets } from '@fulgor/core/demo'
import { blankPreset, PresetError, readPreset, type Preset } from '@fulgor/core/preset'
import { sentenceOf, useCreatePresetMutation, useDeletePresetMutation, useLazyPresetQuery, usePresetsQuery } from '../../api/api'
import { isTyping } from '../../app/isTyping'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { download, fileName } from '../../ui/files'
import { when } from '../../ui/format'
import { Chevron } from '../../ui/marks'

/** All presets: search, tags, new, duplicate, import and export. */
export function ShelfView() {
  const [params, setParams] = useSearchParams()
  // the field answers at once, the address follows
  const [search, setSearch] = useState(params.get('search') ?? '')
  const tag = params.get('tag') ?? ''
  const sort = params.get('sort') === 'name' ? 'name' : 'updated'
  const { data, error, isLoading, refetch } = usePresetsQuery(
    { search: search || undefined, tag: tag || undefined, sort },
    { refetchOnMountOrArgChange: true },
  )
  const field = useRef<HTMLInputElement>(null)
  const set = (change: Record<string, string>) => {
    const next = new URLSearchParams(params)
    for (const [key, value] of Object.entries(change)) {
      if (value) next.set(key, value)
      else next.delete(key)
    }
    setParams(next, { replace: true })
  }
  useEffect(() => {
    document.title = 'Shelf · Fulgor'
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== '/' || isTyping(event.target)) return
      event.preventDefault()
      field.current?.focus()
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [])
  const { importFiles, dropping, dropProps } = useImport()

  return (
    <main
      className={`min-h-0 min-w-0 overflow-auto ${dropping ? 'outline-2 -outline-offset-8 outline-lane outline-dashed' : ''}`}
      {...dropProps}
    >
      <header className="flex min-h-[var(--top-h)] flex-wrap items-center gap-x-5 gap-y-2 border-b border-rule2 px-6 py-2">
        <h1 className="mr-auto text-preset">Shelf</h1>
        <input
          ref={field}
          type="search"
          aria-label="Search presets"
          placeholder="Search name, tags, notes  /"
          value={search}
          onChange={(event) => {
            setSearch(event.currentTarget.value)
            set({ search: event.currentTarget.value })
          }}
          className="field w-64"
        />
        <ImportButton onFiles={importFiles} />
        <NewMenu />
      </header>
      <div className="px-6 py-4">
        {(data?.tags.length ?? 0) > 0 && (
          <div className="mb-3 flex flex-wrap items-baseline gap-x-4" role="group" aria-label="Tags">
            <span className="eyebrow">Tags</span>
            {data?.tags.map((t) => (
              <button
                key={t.tag}
                type="button"
                aria-pressed={tag === t.tag}
                onClick={() => set({ tag: tag === t.tag ? '' : t.tag })}
                className={`min-h-6 border-b-2 ${tag === t.tag ? 'border-ember font-bold' : 'border-transparent text-ink2 hover:text-ink'}`}
              >
                {t.tag} <span className="num text-label text-ink3">{t.count}</span>
              </button>
            ))}
          </div>
        )}
        {error !== undefined && (
          <p role="alert">
            {sentenceOf(error)}{' '}
            <button type="button" className="act" onClick={() => void refetch()}>
              Ask again
            </button>
          </p>
        )}
        {isLoading && <p className="text-ink3">Fetching the shelf …</p>}
        {data && data.presets.length === 0 && (
          <p className="max-w-prose text-ink2">
            {search || tag
              ? 'No preset matches this search.'
              : 'The shelf is empty. Start from blank, take one of the demo presets, or drop a preset’s JSON file here.'}
          </p>
        )}
        {data && data.presets.length > 0 && (
          <table className="w-full">
            <thead>
              <tr className="eyebrow border-b border-ink text-left">
                <th className="pb-1 font-normal" aria-sort={sort === 'name' ? 'ascending' : 'none'}>
                  <SortButton on={sort === 'name'} onClick={() => set({ sort: 'name' })}>
                    Name
                  </SortButton>
                </th>
                <th className="pb-1 font-normal max-[700px]:hidden">Tags</th>
                <th className="pb-1 text-right font-normal max-[700px]:hidden">Stages</th>
                <th className="pb-1 text-right font-normal">Snapshots</th>
                <th className="pb-1 text-right font-normal max-[700px]:hidden">Tempo, bpm</th>
                <th className="pb-1 pl-6 font-normal" aria-sort={sort === 'updated' ? 'descending' : 'none'}>
                  <SortButton on={sort === 'updated'} onClick={() => set({ sort: '' })}>
                    Changed
                  </SortButton>
                </th>
                <th>
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {data.presets.map((preset) => (
                <PresetRow key={preset.id} preset={preset} />
              ))}
            </tbody>
          </table>
        )}
      </div>
    </main>
  )
}

function SortButton({ on, onClick, children }: { on: boolean; onClick: () => void; children: string }) {
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

function PresetRow({ preset }: { preset: PresetSummary }) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [load] = useLazyPresetQuery()
  const [create] = useCreatePresetMutation()
  const [remove] = useDeletePresetMutation()
  const fail = (error: unknown) => dispatch(notified({ kind: 'warning', text: sentenceOf(error) }))
  const withDocument = async (work: (document: Preset) => Promise<void> | void) => {
    const answer = await load(preset.id)
    if (answer.data) await work(answer.data.document)
    else fail(answer.error)
  }
  const actions: readonly (readonly [string, () => void])[] = [
    ['Open', () => void navigate(`/sheet/${preset.id}`)],
    [
      'Duplicate',
      () =>
        void withDocument(async (document) => {
          const answer = await create({ ...document, name: `${document.name} copy`.slice(0, 80) })
          if (answer.error) fail(answer.error)
        }),
    ],
    [
      'Export as JSON',
      () =>
        void withDocument((document) =>
          download(`${fileName(document.name)}.json`, `${JSON.stringify(document, null, 2)}\n`, 'application/json'),
        ),
    ],
    [
      'Delete',
      () =>
        void remove(preset.id).then((answer) => {
          if (answer.error) fail(answer.error)
          else
            dispatch(
              notified({ kind: 'note', text: `“${preset.name}” was taken off the shelf.`, undo: { type: 'restorePreset', id: preset.id } }),
            )
        }),
    ],
  ]
  return (
    <tr className="border-b border-rule hover:bg-deep">
      <td className="py-1.5 pr-4">
        <Link to={`/sheet/${preset.id}`} className="text-name font-semibold hover:text-ember">
          {preset.name}
        </Link>
      </td>
      <td className="py-1.5 pr-4 text-ink2 max-[700px]:hidden">{preset.tags.join(' · ')}</td>
      <td className="num py-1.5 text-right max-[700px]:hidden">{preset.stageCount}</td>
      <td className="num py-1.5 text-right">{preset.snapshotCount}</td>
      <td className="num py-1.5 text-right max-[700px]:hidden">{preset.tempo}</td>
      <td className="num py-1.5 pl-6 text-label whitespace-nowrap text-ink2">{when(preset.updatedAt)}</td>
      <td className="py-1.5 pl-4 text-right">
        <Menu>
          <MenuButton aria-label={`Actions for ${preset.name}`} className="act text-[12px]">
            Actions
            <Chevron />
          </MenuButton>
          <MenuItems modal={false} anchor="bottom end" className="menu">
            {actions.map(([label, act]) => (
              <MenuItem key={label}>
                <button type="button" className="menu-item" onClick={act}>
                  {label}
                </button>
              </MenuItem>
            ))}
          </MenuItems>
        </Menu>
      </td>
    </tr>
  )
}

function NewMenu() {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [create, { isLoading }] = useCreatePresetMutation()
  const start = async (preset: Preset) => {
    const answer = await create(preset)
    if (answer.data) void navigate(`/sheet/${answer.data.id}`)
    else dispatch(notified({ kind: 'warning', text: sentenceOf(answer.error) }))
  }
  const choices: readonly (readonly [string, Preset])[] = [
    ['From blank', blankPreset('New preset')],
    ...demoPresets.map(({ preset }) => [`From the demo: ${preset.name}`, preset] as const),
  ]
  return (
    <Menu>
      <MenuButton className="btn btn-filled" disabled={isLoading}>
        New preset
        <Chevron />
      </MenuButton>
      <MenuItems modal={false} anchor="bottom end" className="menu">
        {choices.map(([label, preset]) => (
          <MenuItem key={label}>
            <button type="button" className="menu-item" onClick={() => void start(preset)}>
              {label}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}

function ImportButton({ onFiles }: { onFiles: (files: readonly File[]) => void }) {
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
function useImport() {
  const dispatch = useAppDispatch()
  const [create] = useCreatePresetMutation()
  const [dropping, setDropping] = useState(false)
  const importFiles = (files: readonly File[]) => {
    for (const file of files) void importOne(file)
  }
  const importOne = async (file: File) => {
    const refuse = (reason: string) => dispatch(notified({ kind: 'warning', text: `${file.name} was not imported: ${reason}` }))
    if (file.size > 1_000_000) return refuse('it is larger than 1 MB.')
    try {
      const answer = await create(readPreset(JSON.parse(await file.text())))
      if (answer.error) refuse(sentenceOf(answer.error))
      else dispatch(notified({ kind: 'note', text: `“${answer.data.name}” is on the shelf.` }))
    } catch (error) {
      if (error instanceof PresetError) refuse(error.message)
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
