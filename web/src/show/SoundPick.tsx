import type { ShownPreset } from '@fulgor/core/plan'
import type { Answer } from '@fulgor/core/show'
import { PresetPick } from '../desk/PresetPick'
import { fetchPreset } from '../state/fetched'
import { notified } from '../state/notices'
import { useAppDispatch } from '../state/store'
import { sentenceOf } from '../api/api'
import { Pick } from '../ui/Pick'

interface Props {
  label: string
  value: Answer | null
  presets: readonly ShownPreset[]
  /** Words for none. */
  none: string
  onChange: (answer: Answer | null) => void
}

/** A snapshot of a preset: those that the show knows in one list, others found on the shelf. */
export function SoundPick({ label, value, presets, none, onChange }: Props) {
  const dispatch = useAppDispatch()
  const known = presets.flatMap(({ id, preset }) =>
    preset.snapshots.map((s, i) => [`${id} ${s.id}`, `${i + 1} ${s.name} · ${preset.name}`] as const),
  )
  const key = value ? `${value.preset} ${value.snapshot}` : ''
  const gone = value !== null && !known.some(([k]) => k === key)
  const take = async (preset: string | null) => {
    if (preset === null) return
    try {
      const { document } = await fetchPreset(dispatch, preset)
      onChange({ preset, snapshot: document.snapshots[0].id })
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: `Not taken: ${sentenceOf(error)}` }))
    }
  }
  return (
    <span className="flex min-w-0 flex-wrap items-baseline justify-end gap-x-3">
      <Pick
        label={label}
        value={key}
        options={[['', none] as const, ...known, ...(gone ? [[key, 'a sound that is gone'] as const] : [])]}
        className="max-w-[210px] font-semibold"
        onChange={(next) => {
          const [preset, snapshot] = next.split(' ')
          onChange(next === '' ? null : { preset, snapshot })
        }}
      />
      <PresetPick label={`${label}: from another preset`} value={null} name="" open={null} onChange={(preset) => void take(preset)} />
    </span>
  )
}
