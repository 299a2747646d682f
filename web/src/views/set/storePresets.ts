import type { ShownPreset } from '@fulgor/core/plan'
import { readPreset, type Preset } from '@fulgor/core/preset'
import { api, sentenceOf } from '../../api/api'
import { fetchPreset } from '../../state/fetched'
import type { AppDispatch } from '../../state/store'

/** A preset as text, its fields in the order of their description. */
const asStored = (preset: Preset): string => JSON.stringify(readPreset(JSON.parse(JSON.stringify(preset))))

/**
 * Stores presets as saved versions, each over what it was made of. One that was changed meanwhile stops it before anything is stored.
 * @param from what they were made of
 * @returns why nothing, or not all, was stored; null where all was
 */
export async function storePresets(
  dispatch: AppDispatch,
  from: readonly ShownPreset[],
  to: readonly ShownPreset[],
  note: string,
): Promise<string | null> {
  const changed = to.flatMap((next) => {
    const old = from.find((p) => p.id === next.id)
    return old && old.preset !== next.preset && asStored(old.preset) !== asStored(next.preset) ? [{ old, next }] : []
  })
  const revisions: number[] = []
  try {
    for (const { old } of changed) {
      const now = await fetchPreset(dispatch, old.id)
      if (asStored(now.document) !== asStored(old.preset)) return `“${old.preset.name}” was changed meanwhile; the plan is made anew.`
      revisions.push(now.revision)
    }
    for (const [i, { next }] of changed.entries()) {
      const request = { id: next.id, document: next.preset, baseRevision: revisions[i], save: true, note }
      await dispatch(api.endpoints.updatePreset.initiate(request)).unwrap()
    }
    return null
  } catch (error) {
    return sentenceOf(error)
  }
}
