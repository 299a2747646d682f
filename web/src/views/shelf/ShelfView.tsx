import { useEffect, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { BIN_DAYS } from '@fulgor/core/api'
import { sentenceOf, usePresetPagesInfiniteQuery } from '../../api/api'
import { isTyping, isWriting } from '../../ui/isTyping'
import { redoShelf, undoShelf } from '../../state/shelf'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Overlays } from '../../ui/Overlays'
import { Segments } from '../../ui/Segments'
import { useQuiet } from '../../ui/useQuiet'
import { KeptHere } from './KeptHere'
import { PresetTable } from './PresetTable'
import { SortButton, NewMenu, ImportButton, useImport } from './ShelfTools'

/** All presets, and the bin: search, tags, new, duplicate, import and export. */
export function ShelfView() {
  const [params, setParams] = useSearchParams()
  // the field answers at once, the address and the server follow
  const [search, setSearch] = useState(params.get('search') ?? '')
  const quiet = useQuiet(search, 180)
  const tag = params.get('tag') ?? ''
  const sort = params.get('sort') === 'name' ? 'name' : 'updated'
  const bin = params.get('in') === 'bin'
  const { data, error, isLoading, refetch, fetchNextPage, hasNextPage, isFetchingNextPage } = usePresetPagesInfiniteQuery(
    { search: quiet.slice(0, 100) || undefined, tag: tag || undefined, sort, deleted: bin ? 'true' : undefined },
    { refetchOnMountOrArgChange: true },
  )
  const presets = data?.pages.flatMap((page) => page.items) ?? []
  const last = data?.pages.at(-1)
  const field = useRef<HTMLInputElement>(null)
  const scroller = useRef<HTMLElement>(null)
  const set = (change: Record<string, string>) => {
    const next = new URLSearchParams(params)
    for (const [key, value] of Object.entries(change)) {
      if (value) next.set(key, value)
      else next.delete(key)
    }
    setParams(next, { replace: true })
  }
  useShelfKeys(field)
  const { importFiles, dropping, dropProps } = useImport()

  return (
    <Overlays>
      <main
        ref={scroller}
        className={`min-h-0 min-w-0 overflow-auto ${dropping ? 'outline-2 -outline-offset-8 outline-lane outline-dashed' : ''}`}
        {...dropProps}
      >
        <header className="sticky top-0 z-20 flex min-h-[var(--top-h)] flex-wrap items-center gap-x-5 gap-y-2 border-b border-rule2 bg-paper px-6 py-2">
          <h1 className="text-preset">Shelf</h1>
          <Segments
            label="Which presets"
            value={bin ? 'bin' : 'shelf'}
            options={[
              ['shelf', 'On the shelf'],
              ['bin', 'Bin'],
            ]}
            onChange={(next) => set({ in: next === 'bin' ? 'bin' : '', tag: '' })}
          />
          <span className="num text-label text-ink2" role="status">
            {last ? `${last.total} ${last.total === 1 ? 'preset' : 'presets'}${search || tag ? ' found' : ''}` : ''}
          </span>
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
            className="field ml-auto w-64"
          />
          <UndoButtons />
          <ImportButton onFiles={importFiles} />
          <NewMenu />
        </header>
        <div className="px-6 py-4">
          {!bin && (last?.tags.length ?? 0) > 0 && (
            <div className="mb-3 flex max-h-24 flex-wrap items-baseline gap-x-4 overflow-auto" role="group" aria-label="Tags" tabIndex={0}>
              <span className="eyebrow">Tags</span>
              {last?.tags.map((t) => (
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
          {!bin && <KeptHere />}
          {bin && <p className="mb-3 text-ink2">What is taken off the shelf stays here for {BIN_DAYS} days.</p>}
          {error !== undefined && (
            <p role="alert">
              {sentenceOf(error)}{' '}
              <button type="button" className="act" onClick={() => void refetch()}>
                Ask again
              </button>
            </p>
          )}
          {isLoading && <p className="text-ink3">Fetching the shelf …</p>}
          {last && presets.length === 0 && (
            <p className="max-w-prose text-ink2">
              {search || tag
                ? 'No preset matches this search.'
                : bin
                  ? 'The bin is empty.'
                  : 'The shelf is empty. Start from blank, take one of the demo presets, or drop a preset’s JSON file here.'}
            </p>
          )}
          {presets.length > 0 && (
            <PresetTable
              presets={presets}
              total={last?.total ?? presets.length}
              bin={bin}
              scroller={scroller}
              onEnd={() => hasNextPage && !isFetchingNextPage && void fetchNextPage()}
              nameHead={
                <SortButton on={sort === 'name'} onClick={() => set({ sort: 'name' })}>
                  Name
                </SortButton>
              }
              timeHead={
                <SortButton on={sort === 'updated'} onClick={() => set({ sort: '' })}>
                  {bin ? 'Taken off' : 'Changed'}
                </SortButton>
              }
              sort={sort}
            />
          )}
        </div>
      </main>
    </Overlays>
  )
}

/** `/` searches; Ctrl or Cmd Z takes back what was done to the shelf. */
function useShelfKeys(field: { readonly current: HTMLInputElement | null }): void {
  const dispatch = useAppDispatch()
  useEffect(() => {
    document.title = 'Shelf · Fulgor'
    const onKey = (event: KeyboardEvent) => {
      const key = event.key.toLowerCase()
      const command = event.ctrlKey || event.metaKey
      if (command && (key === 'z' || key === 'y') && !isWriting(event.target as HTMLElement)) {
        event.preventDefault()
        void dispatch(key === 'y' || event.shiftKey ? redoShelf() : undoShelf())
      } else if (key === '/' && !isTyping(event.target)) {
        event.preventDefault()
        field.current?.focus()
      }
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [dispatch, field])
}

function UndoButtons() {
  const dispatch = useAppDispatch()
  const { past, future } = useAppSelector((s) => s.shelf)
  return (
    <span className="flex gap-3">
      <button type="button" className="act" disabled={past.length === 0} title="Ctrl/Cmd Z" onClick={() => void dispatch(undoShelf())}>
        Undo
      </button>
      <button
        type="button"
        className="act"
        disabled={future.length === 0}
        title="Ctrl/Cmd Shift Z"
        onClick={() => void dispatch(redoShelf())}
      >
        Redo
      </button>
    </span>
  )
}
