import { useMemo } from 'react'
import { auditOf, auditProposals, ownSnapshots, type Plan, type ShownPreset, type Usage } from '@fulgor/core/plan'
import type { DeviceCapacity } from '@fulgor/core/preset'
import { useResponsesQuery } from '../../api/api'

const KINDS: readonly (readonly [Usage['kind'], string])[] = [
  ['snapshot', 'Snapshots'],
  ['stage', 'Stages'],
  ['source', 'Sources'],
  ['switch', 'Switches'],
  ['response', 'Responses'],
]

/** What the night never uses or uses once, and what that takes up. */
export function UsagePanel(props: { plan: Plan | null; presets: readonly ShownPreset[]; capacity: DeviceCapacity | null }) {
  const { plan, presets, capacity } = props
  const { data: files } = useResponsesQuery(undefined)
  const found = useMemo(() => {
    if (!plan) return null
    const size = capacity ?? undefined
    const usage = auditOf(plan, presets, size)
    return { usage, says: auditProposals(usage, ownSnapshots(plan, presets, size), presets) }
  }, [plan, presets, capacity])
  if (!found) return <p className="py-2 text-ink2">Counting …</p>
  const nameOf = (u: Usage) => (u.kind === 'response' ? (files?.find((f) => f.hash === u.id)?.name ?? u.name) : u.name)
  return (
    <div className="text-[12px]">
      <h2 className="text-section font-bold">What the night uses</h2>
      {found.says.length > 0 && (
        <ul aria-label="What could be freed" className="border-t border-rule">
          {found.says.map((words) => (
            <li key={words} className="border-b border-rule py-0.5">
              {words}
            </li>
          ))}
        </ul>
      )}
      {KINDS.map(([kind, name]) => {
        const rows = found.usage.filter((u) => u.kind === kind)
        const rare = rows.filter((u) => u.times < 2)
        if (rows.length === 0) return null
        return (
          <section key={kind} aria-label={name} data-usage={kind}>
            <h3 className="mt-1.5 border-t border-ink pt-0.5 text-[13px] font-bold">
              {name}{' '}
              <span className="font-normal text-ink2">
                <span className="num">{rows.length - rare.length}</span> of <span className="num">{rows.length}</span> used more than once
              </span>
            </h3>
            <ul>
              {rare.map((u) => (
                <li key={`${u.preset} ${u.id}`} className="grid grid-cols-[minmax(0,1fr)_44px_108px] gap-x-2 border-t border-rule py-0.5">
                  <span className="truncate" title={nameOf(u)}>
                    {nameOf(u)}
                  </span>
                  <b>{u.times === 0 ? 'never' : 'once'}</b>
                  <span className="truncate text-ink2" title={u.costs}>
                    {u.costs}
                  </span>
                </li>
              ))}
            </ul>
          </section>
        )
      })}
    </div>
  )
}
