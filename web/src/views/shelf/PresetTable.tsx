import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useLayoutEffect, useRef, useState, type ReactNode, type RefObject } from 'react'
import { Link, useNavigate } from 'react-router'
import { BIN_DAYS, type PresetSummary } from '@fulgor/core/api'
import type { Preset } from '@fulgor/core/preset'
import { sentenceOf, useLazyPresetQuery } from '../../api/api'
import { notified } from '../../state/notices'
import { addPreset, binPreset, bringBack } from '../../state/shelf'
import { useAppDispatch } from '../../state/store'
import type { Action } from '../../ui/actionList'
import { ActionsMenu } from '../../ui/ActionsMenu'
import { download, fileName } from '../../ui/files'
import { when } from '../../ui/format'
import { PointerMenu } from '../../ui/PointerMenu'

interface Props {
  /** As many as were fetched so far. */
  presets: readonly PresetSummary[]
  total: number
  bin: boolean
  sort: 'name' | 'updated'
  scroller: RefObject<HTMLElement | null>
  nameHead: ReactNode
  timeHead: ReactNode
  /** The end of what was fetched is near. */
  onEnd: () => void
}

const ROW = 37
/** Rows before the end at which the next page is asked for. */
const AHEAD = 30

/** One line a preset; only those in sight are in the page. */
export function PresetTable({ presets, total, bin, sort, scroller, nameHead, timeHead, onEnd }: Props) {
  const actionsOf = usePresetActions(bin)
  const body = useRef<HTMLTableSectionElement>(null)
  const [top, setTop] = useState(0)
  useLayoutEffect(() => {
    if (body.current) setTop(body.current.offsetTop)
  }, [])
  const virtual = useVirtualizer({
    count: presets.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    scrollMargin: top,
  })
  const rows = virtual.getVirtualItems()
  const lastShown = rows.at(-1)?.index ?? 0
  const near = presets.length < total && lastShown > presets.length - AHEAD
  useEffect(() => {
    if (near) onEnd()
  }, [near, presets.length, onEnd])
  const before = (rows.at(0)?.start ?? top) - top
  const after = virtual.getTotalSize() - ((rows.at(-1)?.end ?? top) - top)
  const at = (target: HTMLElement): readonly Action[] => {
    const preset = presets.find((p) => p.id === target.closest<HTMLElement>('[data-preset]')?.dataset.preset)
    return preset ? actionsOf(preset) : []
  }
  return (
    <PointerMenu actionsAt={at}>
      <table className="w-full" aria-rowcount={total + 1}>
        <thead>
          <tr className="eyebrow border-b border-ink text-left">
            <th className="pb-1 font-normal" aria-sort={sort === 'name' ? 'ascending' : 'none'}>
              {nameHead}
            </th>
            <th className="pb-1 font-normal max-[700px]:hidden">Tags</th>
            <th className="pb-1 text-right font-normal max-[700px]:hidden">Stages</th>
            <th className="pb-1 text-right font-normal max-[700px]:hidden">Snapshots</th>
            <th className="pb-1 text-right font-normal max-[700px]:hidden">Tempo, bpm</th>
            <th className="pb-1 pl-6 font-normal" aria-sort={sort === 'updated' ? 'descending' : 'none'}>
              {timeHead}
            </th>
            <th>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody ref={body}>
          {before > 0 && <Spacer height={before} />}
          {rows.map(({ index }) => (
            <PresetRow key={presets[index].id} preset={presets[index]} bin={bin} actions={actionsOf(presets[index])} index={index} />
          ))}
          {after > 0 && <Spacer height={after} />}
        </tbody>
      </table>
    </PointerMenu>
  )
}

const Spacer = ({ height }: { height: number }) => (
  <tr aria-hidden="true">
    <td colSpan={7} style={{ height, padding: 0 }} />
  </tr>
)

const daysLeft = (deletedAt: number): number => Math.max(0, Math.ceil(BIN_DAYS - (Date.now() - deletedAt) / 86_400_000))

function PresetRow({ preset, bin, actions, index }: { preset: PresetSummary; bin: boolean; actions: readonly Action[]; index: number }) {
  const left = daysLeft(preset.deletedAt ?? Date.now())
  return (
    <tr className="border-b border-rule hover:bg-deep" data-preset={preset.id} aria-rowindex={index + 2}>
      <td className="max-w-0 w-2/5 truncate py-1.5 pr-4 max-[700px]:w-full">
        {bin ? (
          <span className="text-name font-semibold text-ink2">{preset.name}</span>
        ) : (
          <Link to={`/sheet/${preset.id}`} title={preset.name} className="text-name font-semibold hover:text-ember">
            {preset.name}
          </Link>
        )}
      </td>
      <td className="max-w-0 w-1/4 truncate py-1.5 pr-4 text-ink2 max-[700px]:hidden" title={preset.tags.join(' · ')}>
        {preset.tags.join(' · ')}
      </td>
      <td className="num py-1.5 text-right max-[700px]:hidden">{preset.stageCount}</td>
      <td className="num py-1.5 text-right max-[700px]:hidden">{preset.snapshotCount}</td>
      <td className="num py-1.5 text-right max-[700px]:hidden">{preset.tempo}</td>
      <td className="num py-1.5 pl-6 text-label whitespace-nowrap text-ink2">
        {bin ? `${left} ${left === 1 ? 'day' : 'days'} left` : when(preset.updatedAt)}
      </td>
      <td className="py-1.5 pl-4 text-right">
        <ActionsMenu actions={actions} label={`Actions for ${preset.name}`} className="act text-[12px]" words="Actions" />
      </td>
    </tr>
  )
}

/** What can be done with a preset on the shelf or in the bin. */
function usePresetActions(bin: boolean): (preset: PresetSummary) => readonly Action[] {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [load] = useLazyPresetQuery()
  const fail = (error: unknown) => dispatch(notified({ kind: 'warning', text: sentenceOf(error) }))
  const withDocument = async (id: string, work: (document: Preset) => Promise<void> | void) => {
    const answer = await load(id)
    if (answer.data) await work(answer.data.document)
    else fail(answer.error)
  }
  const duplicate = async (document: Preset) => {
    const made = await dispatch(addPreset({ ...document, name: `${document.name} copy`.slice(0, 80) }))
    if ('error' in made) fail(made.error)
  }
  const save = (document: Preset) =>
    download(`${fileName(document.name)}.json`, `${JSON.stringify(document, null, 2)}\n`, 'application/json')
  return ({ id, name }) =>
    bin
      ? [{ label: 'Put back on the shelf', act: () => void dispatch(bringBack(id, name)) }]
      : [
          { label: 'Open', act: () => void navigate(`/sheet/${id}`) },
          { label: 'Duplicate', act: () => void withDocument(id, duplicate) },
          { label: 'Export as JSON', act: () => void withDocument(id, save) },
          { label: 'Delete', act: () => void dispatch(binPreset(id, name)) },
        ]
}
