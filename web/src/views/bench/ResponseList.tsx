import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import type { ResponseAsset } from '@fulgor/core/api'
import { regionDb, timbreDistance, type Direction, type MicBench, type Timbre } from '@fulgor/core/cabinet'
import { useChangeResponsesMutation, useRemoveResponsesMutation, useResponsesQuery } from '../../api/api'
import { cabinetMaker } from '../../threads/crews'
import { useWish } from '../../background/useWish'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { figure } from '../../ui/format'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { addChannel } from './bench'
import { chosenFiles, droppedFiles } from './dropped'
import { ImportLine, useImport } from './ImportLine'
import {
  filtered,
  NO_FILTERS,
  rowsOf,
  shuffled,
  sorted,
  towards,
  type BrightnessFilter,
  type Filters,
  type LengthFilter,
  type Sort,
} from './listing'
import { benchWith, type Trying } from './useAudition'

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

const KINDS = quantity('count', 'Number of kinds', [1, 100])
const SORTS: readonly (readonly [Sort, string])[] = [
  ['name', 'name'],
  ['brightness', 'brightness'],
  ['body', 'body'],
  ['bite', 'bite'],
  ['fizz', 'fizz'],
  ['distance', 'distance'],
]
const DIRECTIONS: readonly (readonly [Direction, string])[] = [
  ['brighter', 'Brighter'],
  ['darker', 'Darker'],
  ['thicker', 'Thicker'],
  ['thinner', 'Thinner'],
]
const ROW = 30

const NONE: readonly ResponseAsset[] = []

/** The player's impulse responses: found, tried by arrow key as loud as the blend, and taken. */
export function ResponseList({ bench, timbre, selected, onChange, onSelect, play, stop, onCandidate }: Props) {
  const dispatch = useAppDispatch()
  const { data: all = NONE, isLoading, error } = useResponsesQuery(undefined)
  const [change] = useChangeResponsesMutation()
  const [remove] = useRemoveResponsesMutation()
  const { take, stop: stopImport, progress, report, forget } = useImport()
  const [filters, setFilters] = useState<Filters>(NO_FILTERS)
  const [sort, setSort] = useState<Sort>('name')
  const [target, setTarget] = useState<ResponseAsset | null>(null)
  const [like, setLike] = useState<{ direction: Direction; from: Timbre; name: string } | null>(null)
  const [kindCount, setKindCount] = useState<number | null>(null)
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set())
  const [blind, setBlind] = useState<number | null>(null)
  const [trying, setTrying] = useState<Trying>('alone')
  const [at, setAt] = useState<number | null>(null)
  const [over, setOver] = useState(false)
  const scroller = useRef<HTMLDivElement>(null)
  const files = useRef<HTMLInputElement>(null)
  const folder = useRef<HTMLInputElement>(null)

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
          onChange={(event) => {
            if (event.currentTarget.files) void take(chosenFiles(event.currentTarget.files))
            event.currentTarget.value = ''
          }}
        />{' '}
        <input
          ref={folder}
          type="file"
          {...{ webkitdirectory: '' }}
          aria-label="Folder of impulse responses"
          className="hidden"
          onChange={(event) => {
            if (event.currentTarget.files) void take(chosenFiles(event.currentTarget.files))
            event.currentTarget.value = ''
          }}
        />{' '}
      </div>
      <ImportLine progress={progress} report={report} onStop={stopImport} onForget={forget} />
      <div className="flex flex-wrap items-center gap-x-3 pt-0.5 text-[12px]">
        <input
          type="search"
          value={filters.text}
          onChange={(event) => set({ text: event.currentTarget.value })}
          placeholder="Search"
          aria-label="Search responses"
          className="min-w-[96px] flex-1 border-b border-control bg-transparent py-0.5 outline-none focus:border-ink"
        />
        <Pick
          label="Tag"
          value={filters.tag}
          options={[['', 'any tag'], ...tags.slice(0, 200).map(([tag, n]) => [tag, `${tag} (${n})`] as const)]}
          onChange={(tag) => set({ tag })}
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
          onChange={(length) => set({ length })}
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
          onChange={(brightness) => set({ brightness })}
        />{' '}
        <Toggle on={filters.favourites} onClick={() => set({ favourites: !filters.favourites })}>
          Favourites
        </Toggle>
      </div>
      <div className="flex flex-wrap items-center gap-x-3 text-[12px]">
        <span className="flex items-center gap-1 whitespace-nowrap text-ink2">
          by
          <Pick<Sort>
            label="Order"
            value={sort}
            options={SORTS}
            onChange={(next) => {
              setSort(next)
              setLike(null)
              setAt(null)
            }}
          />
        </span>
        {sort === 'distance' && !like && (
          <span className="flex items-center gap-1.5 whitespace-nowrap">
            to <b className="max-w-[110px] truncate">{target ? target.name : 'the blend'}</b>
            {target && (
              <button type="button" className="act" onClick={() => setTarget(null)}>
                the blend
              </button>
            )}
          </span>
        )}
        {current && blind === null && (
          <button
            type="button"
            className="act"
            onClick={() => {
              setTarget(current)
              setSort('distance')
              setLike(null)
              setAt(null)
            }}
          >
            Near this
          </button>
        )}
        <span className="flex items-center gap-1.5">
          {DIRECTIONS.map(([direction, words]) => (
            <button
              key={direction}
              type="button"
              className="act"
              aria-pressed={like?.direction === direction}
              disabled={!from && !timbre}
              title={`${words} than ${from ? 'the one that is tried' : 'the blend'}, otherwise alike`}
              onClick={() => {
                const origin = from ?? timbre
                if (!origin) return
                setLike({ direction, from: origin, name: from ? from.name : 'the blend' })
                setAt(null)
              }}
            >
              {words}
            </button>
          ))}
        </span>
        <Toggle on={kindCount !== null} onClick={() => setKindCount(kindCount === null ? defaultKinds(list.length) : null)}>
          Kinds
        </Toggle>
        {kindCount !== null && (
          <NumberField
            spec={KINDS}
            value={kindCount}
            className="num w-11 border-b border-control bg-transparent text-right outline-none"
            onChange={setKindCount}
          />
        )}
      </div>
      {like && (
        <p className="flex items-baseline gap-2 text-[12px]">
          <span className="min-w-0 truncate">
            {like.direction[0].toUpperCase() + like.direction.slice(1)} than <b>{blind === null ? like.name : 'that one'}</b>, nearest
            otherwise first.
          </span>
          <button type="button" className="act" onClick={() => setLike(null)}>
            All again
          </button>
        </p>
      )}
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
            const on = item.index === at
            return (
              <div
                key={item.key}
                id={`response-${item.index}`}
                role="option"
                aria-selected={on}
                data-response={item.index}
                onClick={() => goTo(item.index)}
                onDoubleClick={() => takeIt('heard')}
                style={{ height: ROW, transform: `translateY(${item.start}px)` }}
                className={`absolute inset-x-0 flex cursor-pointer items-center gap-2 border-b border-rule pr-1 text-[12px] ${on ? 'bg-deep font-semibold shadow-[inset_3px_0_0_var(--ember)]' : ''}`}
              >
                <span
                  data-star={response.favourite}
                  title="Favourite (F)"
                  onClick={(event) => {
                    event.stopPropagation()
                    star(response)
                  }}
                  className={`grid size-6 flex-none place-items-center ${response.favourite ? 'text-ember' : 'text-rule2 hover:text-ink'}`}
                >
                  <StarMark on={response.favourite} />
                  {response.favourite && blind === null && <span className="sr-only">Favourite </span>}
                </span>
                <span className="min-w-0 flex-1 truncate" title={blind === null ? `${response.path}/${response.name}` : undefined}>
                  {blind === null ? response.name : `No. ${item.index + 1}`}
                  {kind !== null && alike > 0 && (
                    <span
                      data-alike=""
                      className="ml-2 cursor-pointer text-label font-normal text-ink3 underline underline-offset-2"
                      onClick={(event) => {
                        event.stopPropagation()
                        toggleKind(kind, !opened.has(kind))
                      }}
                    >
                      {opened.has(kind) ? 'fold' : `and ${alike} alike`}
                    </span>
                  )}
                </span>
                {blind === null && <Figures response={response} sort={sort} aim={aim} />}
              </div>
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
      <div className="flex flex-wrap items-center gap-x-3 border-t border-rule py-1 text-[12px]">
        <span className="text-ink3">Try</span>
        <Segments
          label="Try a response"
          value={trying}
          options={[
            ['alone', 'alone'],
            ['blend', `as channel ${Math.max(1, bench.channels.findIndex((c) => c.id === selected) + 1)}`],
          ]}
          onChange={setTrying}
        />
        <Toggle
          on={blind !== null}
          onClick={() => {
            leave()
            setBlind(blind === null ? Math.floor(performance.now()) : null)
          }}
        >
          Blind
        </Toggle>
        <span className="ml-auto flex gap-3">
          <button type="button" className="act" disabled={!current} title="Enter: the bench as you hear it" onClick={() => takeIt('heard')}>
            Take it
          </button>
          <button type="button" className="act" disabled={!current} title="Shift Enter" onClick={() => takeIt('add')}>
            Add to blend
          </button>
        </span>
      </div>
    </section>
  )
}

const defaultKinds = (count: number): number => Math.max(2, Math.min(40, Math.round(count / 25) || 2))

/** The figure that the list is ordered by, and brightness where that is none. */
function Figures({ response, sort, aim }: { response: ResponseAsset; sort: Sort; aim: Timbre | null }) {
  const text =
    sort === 'distance'
      ? aim
        ? `${figure(timbreDistance(response, aim))} dB`
        : '–'
      : sort === 'name' || sort === 'brightness'
        ? `${figure(response.centroidHz / 1000, 2)} kHz`
        : `${figure(regionDb(response, sort), 1, true)} dB`
  return (
    <>
      {response.clipped > 0 && (
        <span className="text-label text-ink2" title={`${response.clipped} samples at full scale`}>
          clipped
        </span>
      )}{' '}
      <span className="num flex-none text-right text-label text-ink2">{text}</span>
    </>
  )
}

/** Everything that was read of a file, and its tags. */
function Report({ response, onTag, onUntag }: { response: ResponseAsset; onTag: (tag: string) => void; onUntag: (tag: string) => void }) {
  return (
    <div className="border-t border-rule py-1 text-label leading-[15px] text-ink2" data-report>
      {reportWords(response)}.
      <span className="flex flex-wrap items-baseline gap-x-2">
        {response.tags.map((tag) => (
          <button
            key={tag}
            type="button"
            className="min-h-0 underline underline-offset-2 hover:text-ember"
            title={`Take the tag “${tag}” off`}
            onClick={() => onUntag(tag)}
          >
            {tag}
          </button>
        ))}
        <TextField
          label="Add a tag"
          value=""
          maxLength={40}
          className="w-[90px] border-b border-control bg-transparent outline-none"
          onCommit={(text) => {
            if (text.trim() !== '') onTag(text.trim())
            return null
          }}
        />
        <span className="text-ink3">add a tag</span>
      </span>
    </div>
  )
}

function reportWords(r: ResponseAsset): string {
  return [
    `${r.sampleRate / 1000} kHz${r.sampleRate === 48_000 ? '' : ', played at 48 by Kaiser-windowed sinc'}, ${r.bits} bits, ${r.channels === 1 ? 'mono' : 'stereo'}`,
    `${r.frames.toLocaleString('en-GB')} samples, ${figure(r.lengthMs, 0)} ms to −60 dB`,
    `first sound after ${r.onsetSamples}`,
    `polarity ${r.polarity}`,
    `peak ${figure(r.peakDbfs)} dBFS`,
    `loudness ${figure(r.loudnessDb, 1, true)} dB`,
    Math.abs(r.dc) < 1e-5 ? 'no DC' : `DC ${figure(20 * Math.log10(Math.abs(r.dc)), 0)} dBFS`,
    r.clipped > 0 ? `${r.clipped} samples clipped` : 'not clipped',
  ].join('; ')
}

function Toggle({ on, onClick, children }: { on: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`min-h-6 border-b-2 whitespace-nowrap ${on ? 'border-ember font-semibold' : 'border-transparent'}`}
    >
      {children}
    </button>
  )
}

const StarMark = ({ on }: { on: boolean }) => (
  <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
    <path
      d="M6 .8 7.6 4.4l3.9.4-2.9 2.6.8 3.9L6 9.3l-3.4 2 .8-3.9L.5 4.8l3.9-.4Z"
      fill={on ? 'currentColor' : 'none'}
      stroke="currentColor"
    />
  </svg>
)
