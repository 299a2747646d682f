import { presetFields, type Preset } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { TextField } from '../../ui/TextField'

/** What belongs to the preset as a whole: tags and notes. */
export function PresetPanel({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  return (
    <>
      <h2 className="text-title leading-tight">{preset.name}</h2>
      <label className="mt-1 block text-label text-ink3">
        Tags, with commas
        <TextField
          label="Tags of the preset"
          value={preset.tags.join(', ')}
          className="field mt-0.5 block w-full text-body text-ink"
          onCommit={(text) => {
            const tags = [
              ...new Set(
                text
                  .split(',')
                  .map((t) => t.trim())
                  .filter(Boolean),
              ),
            ]
            const long = tags.find((t) => t.length > presetFields.tags.item.most)
            if (long) return `The tag “${long}” is longer than ${presetFields.tags.item.most} characters.`
            if (tags.length > presetFields.tags.most) return `At most ${presetFields.tags.most} tags.`
            dispatch(edit({ type: 'setTags', tags }))
            return null
          }}
        />
      </label>
      <label className="mt-2 block text-label text-ink3">
        Notes
        <TextField
          label="Notes of the preset"
          multiline
          maxLength={presetFields.notes.most}
          value={preset.notes}
          className="field mt-0.5 block w-full text-body text-ink"
          onCommit={(notes) => {
            dispatch(edit({ type: 'setNotes', notes }))
            return null
          }}
        />
      </label>
    </>
  )
}
