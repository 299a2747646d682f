import { profileOf } from '@fulgor/core/guitar'
import { applyEdit, usedGuitar, type Edit, type Preset, type RiffChoice } from '@fulgor/core/preset'
import { isShipped } from '@fulgor/core/reading'
import { shippedRiffs } from '@fulgor/core/riffs'
import type { RecordingSummary } from '@fulgor/core/api'
import { sentenceOf, useRecordingsQuery } from '../api/api'
import { edit, presentPreset } from './actions'
import { ALL_OF_THEM, fetchGuitar, fetchRecordings } from './fetched'
import { notified } from './notices'
import type { Thunk } from './store'

const NONE: readonly RecordingSummary[] = []
/** The player's own riffs, by name. */
export function useOwnRiffs(): readonly RecordingSummary[] {
  const { data } = useRecordingsQuery(ALL_OF_THEM)
  return data?.items.filter((r) => r.use === 'riff') ?? NONE
}

/** Every riff by id and name, the shipped ones first. */
export const riffNames = (own: readonly RecordingSummary[]): readonly (readonly [id: string, name: string])[] => [
  ...shippedRiffs.map((r) => [r.id, r.name] as const),
  ...own.map((r) => [r.file, r.name] as const),
]

/** The preset's guitar that a riff was recorded on, where it has it. */
function madeIn(preset: Preset, told: RecordingSummary['made'] | undefined): RiffChoice['made'] {
  const guitar = told && preset.guitars.find((g) => g.kit === told.guitar || g.id === told.guitar)
  return guitar ? { guitar: guitar.id, position: told.position } : undefined
}

/** A riff in another one's place: how it is picked stays; loop and guitar are those of the new one. */
export function riffFor(preset: Preset, before: RiffChoice, id: string, own: readonly RecordingSummary[]): RiffChoice {
  if (isShipped(id)) {
    const { part: _p, made: _m, ...rest } = before
    return { ...rest, id }
  }
  const told = own.find((r) => r.file === id)
  const made = madeIn(preset, told?.made)
  return { id, strength: before.strength, ...(told?.part ? { part: told.part } : {}), ...(made ? { made } : {}) }
}

/** Puts a riff in, with its loop; the guitar that it was recorded on comes along. */
export const chooseRiff =
  (id: string): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const listed = isShipped(id)
      ? NONE
      : await fetchRecordings(dispatch).then(
          ({ items }) => items,
          () => NONE,
        )
    const preset = presentPreset(getState())
    if (!preset) return
    const told = listed.find((r) => r.file === id)?.made
    const edits: Edit[] = []
    if (told && !madeIn(preset, told))
      try {
        const { document } = await fetchGuitar(dispatch, told.guitar)
        edits.push({ type: 'putGuitar', guitar: usedGuitar(told.guitar, profileOf(document), told.guitar) })
      } catch (error) {
        const why = `The guitar that it was recorded on is not to be had; it is played as it is. ${sentenceOf(error)}`
        dispatch(notified({ kind: 'warning', text: why }))
      }
    const now = presentPreset(getState())
    if (!now) return
    const whole = edits.reduce(applyEdit, now)
    edits.push({ type: 'setRiff', riff: riffFor(whole, now.riff, id, listed) })
    dispatch(edit(edits.length === 1 ? edits[0] : { type: 'all', edits }))
  }

/** True where the Kit loops another stretch of the riff than the preset does. */
export const isTrimmedAnew = (riff: RiffChoice, own: readonly RecordingSummary[]): boolean => {
  const told = own.find((r) => r.file === riff.id)
  return told !== undefined && (told.part?.from !== riff.part?.from || told.part?.to !== riff.part?.to)
}
