import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import type { ResponseAsset } from '@fulgor/core/api'
import type { MicBench, Timbre } from '@fulgor/core/cabinet'
import { useChangeResponsesMutation, useRemoveResponsesMutation, useResponsesQuery } from '../../api/api'
import { cabinetMaker } from '../../threads/crews'
import { useWish } from '../../background/useWish'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { addChannel } from './bench'
import { droppedFiles } from './dropped'
import { ImportLine, useImport } from './ImportLine'
import { filtered, NO_FILTERS, rowsOf, shuffled, sorted, towards, type Filters } from './listing'
import { benchWith, type Trying } from './useAudition'
import { BY_NAME, OrderRow, type Order } from './OrderRow'
import { AddFiles, FilterRow } from './ResponseFilters'
import { Figures, Report } from './ResponseParts'
import { ResponseRow, ROW } from './ResponseRow'
import { TryRow } from './TryRow'

interface Props {
  bench: MicBench
  /** The blend as it stands: what distances are told against unless a response is the target. */
  timbre: Timbre | null
  selected: string
  onChange: (bench: MicBench, touched: string) => void
  onSelect: (id: string) => void
  play: (bench: MicBench) => Promise<void>
  stop: () => void
  onCandidate: (response: ResponseAsset | null) => void
}

const NONE: readonly ResponseAsset[] = []

/** The player's impulse responses: found, tried by arrow key as loud as the blend, and taken. */
export function ResponseList({ bench, timbre, selected, onChange, onSelect, play, stop, onCandidate }: Props) {
  const dispatch = useAppDispatch()
  const { data: all = NONE, isLoading, error } = useResponsesQuery(undefined)
  const [change] = useChangeResponsesMutation()
  const [remove] = useRemoveResponsesMutation()
  const { take, stop: stopImport, progress, report, forget } = useImport()
  const [filters, setFilters] = useState<Filters>(NO_FILTERS)
  const [order, setOrder] = useState<Order>(BY_NAME)
  const { sort, target, like, kindCount } = order
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set())
  const [blind, setBlind] = useState<number | null>(null)
  const [trying, setTrying] = useState<Trying>('alone')
  const [at, setAt] = useState<number | null>(null)
  const [over, setOver] = useState(false)
  const scroller = useRef<HTMLDivElement>(null)

  const aim = target ?? timbre
  // a moved microphone sorts anew only where the order is by distance
  const near = sort === 'distance' ? aim : null
  const list = useMemo(() => {
    const found = filtered(all, filters)
    const ordered = like ? towards(found, like.from, like.direction) : sorted(found, sort, near)
    return blind === null ? ordered : shuffled(ordered, blind)
  }, [all, filters, sort, near, like, blind])
  const grouped = useWish(cabinetMaker, [list, kindCount], () =>
    kindCount === null || list.length === 0
      ? null
      : cabinetMaker.job('group', [list.map(({ centroidHz, bands }) => ({ centroidHz, bands })), kindCount], { key: null }),
  )
  const kinds = grouped.fresh ? grouped.answer : null
  useEffect(() => setOpened(new Set()), [kinds])
  const rows = useMemo(() => rowsOf(list, kinds, opened), [list, kinds, opened])
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 12 })
  const tags = useMemo(() => {
    const counts = new Map<string, number>()
    for (const r of all) for (const tag of r.tags) counts.set(tag, (counts.get(tag) ?? 0) + 1)
    return [...counts].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0]))
  }, [all])
  const current = at === null ? undefined : rows[at]?.response

  const goTo = (index: number) => {
    const next = Math.min(rows.length - 1, Math.max(0, index))
    const response = rows[next]?.response
    if (!response) return
    setAt(next)
    virtual.scrollToIndex(next)
    onCandidate(blind === null ? response : { ...response, name: `No. ${next + 1}` })
    void play(benchWith(bench, response, trying, selected))
  }
  const leave = () => {
    setAt(null)
    stop()
    onCandidate(null)
  }
  const takeIt = (how: 'heard' | 'add') => {
    if (!current) return
    const made = how === 'add' ? addChannel(bench, { kind: 'file', file: current.hash, name: current.name, side: 'sum' }) : null
    if (how === 'add' && !made) return
    onChange(made ? made.bench : benchWith(bench, current, trying, selected), `take ${current.hash}`)
    if (made) onSelect(made.id)
    if (blind !== null) dispatch(notified({ kind: 'note', text: `You chose “${current.name}”.` }))
    setBlind(null)
    leave()
  }
  const star = (response: ResponseAsset) => void change({ hashes: [response.hash], favourite: !response.favourite })
  const onKeyDown = (event: KeyboardEvent) => {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 300) / ROW) - 1)
    const now = at ?? -1
    const act = {
      ArrowDown: () => goTo(now + 1),
      ArrowUp: () => goTo(now - 1),
      PageDown: () => goTo(now + page),
      PageUp: () => goTo(now - page),
      Home: () => goTo(0),
      End: () => goTo(rows.length - 1),
      Enter: () => takeIt(event.shiftKey ? 'add' : 'heard'),
      Escape: leave,
      f: () => current && star(current),
      ArrowRight: () => at !== null && toggleKind(rows[at].kind, true),
      ArrowLeft: () => at !== null && toggleKind(rows[at].kind, false),
      Delete: () => current && drop(current),
    }[event.key]
    if (!act || event.ctrlKey || event.metaKey) return
    event.preventDefault()
    event.stopPropagation()
    act()
  }
  const toggleKind = (kind: number | null, open: boolean) => {
    if (kind === null) return
    const next = new Set(opened)
    if (open) next.add(kind)
    else next.delete(kind)
    setOpened(next)
  }
  const drop = (response: ResponseAsset) => {
    leave()
    void remove([response.hash])
    dispatch(
      notified({ kind: 'note', text: `“${response.name}” is off the list.`, undo: { type: 'restoreResponses', hashes: [response.hash] } }),
    )
  }
  const set = (next: Partial<Filters>) => {
    setFilters((f) => ({ ...f, ...next }))
    setAt(null)
  }
  const from = current ?? target ?? null

  return (
    <section
      aria-label="Impulse responses"
      className={`flex min-h-0 flex-col border-l border-rule2 pt-2 pr-3 pl-3 max-[1100px]:min-h-[420px] max-[1100px]:border-t max-[1100px]:border-l-0 ${over ? 'outline-2 -outline-offset-4 outline-lane outline-dashed' : ''}`}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault()
        setOver(false)
        void droppedFiles(event.dataTransfer.items).then(take)
      }}
    >
      <div className="flex items-baseline gap-3">
        <h2 className="text-[15px]">Responses</h2>
        <span className="num text-label text-ink3" data-shown={list.length}>
          {list.length === all.length
            ? all.length.toLocaleString('en-GB')
            : `${list.length.toLocaleString('en-GB')} of ${all.length.toLocaleString('en-GB')}`}
        </span>
        <AddFiles onFiles={(found) => void take(found)} />
      </div>
      <ImportLine progress={progress} report={report} onStop={stopImport} onForget={forget} />
      <FilterRow filters={filters} tags={tags} onChange={set} />
      <OrderRow
        order={order}
        tried={current && blind === null ? current : null}
        from={from}
        blend={timbre}
        blind={blind !== null}
        count={list.length}
        onChange={(next, anew) => {
          setOrder((now) => ({ ...now, ...next }))
          if (anew) setAt(null)
        }}
      />
      <div
        ref={scroller}
        role="listbox"
        data-desk-keys
        tabIndex={0}
        aria-label="Responses; arrow keys try them"
        aria-activedescendant={at === null ? undefined : `response-${at}`}
        onKeyDown={onKeyDown}
        onFocus={() => undefined}
        className="mt-1 min-h-[120px] flex-1 overflow-y-auto border-t border-rule"
      >
        {all.length === 0 && (
          <p className="p-3 text-ink2">
            {error
              ? 'The list could not be read; the server is away.'
              : isLoading
                ? 'Reading the list …'
                : 'Drop WAV, AIFF or FLAC files, whole folders or zip archives here.'}
          </p>
        )}
        {all.length > 0 && list.length === 0 && <p className="p-3 text-ink2">Nothing fits. Take a filter away.</p>}
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map((item) => {
            const { response, alike, kind } = rows[item.index]
            return (
              <ResponseRow
                key={item.key}
                response={response}
                index={item.index}
                start={item.start}
                on={item.index === at}
                blind={blind !== null}
                kind={kind !== null && alike > 0 ? { alike, open: opened.has(kind) } : null}
                figures={<Figures response={response} sort={sort} aim={aim} />}
                onTry={() => goTo(item.index)}
                onTake={() => takeIt('heard')}
                onStar={() => star(response)}
                onKind={() => toggleKind(kind, kind !== null && !opened.has(kind))}
              />
            )
          })}
        </div>
      </div>
      {current && blind === null && (
        <Report
          response={current}
          onTag={(addTag) => void change({ hashes: [current.hash], addTag })}
          onUntag={(removeTag) => void change({ hashes: [current.hash], removeTag })}
        />
      )}
      <TryRow
        trying={trying}
        channel={Math.max(1, bench.channels.findIndex((c) => c.id === selected) + 1)}
        blind={blind !== null}
        ready={current !== undefined}
        onTrying={setTrying}
        onBlind={() => {
          leave()
          setBlind(blind === null ? Math.floor(performance.now()) : null)
        }}
        onTake={takeIt}
      />
    </section>
  )
}
