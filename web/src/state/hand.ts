import type { GuitarProfile } from '@fulgor/core/guitar'
import { findSnapshot, handOf, usedGuitar, type Edit, type HandSetting, type Preset } from '@fulgor/core/preset'
import { edit, presentPreset } from './actions'
import type { Thunk } from './store'

/** Where a change of what plays lands: on the lit snapshot what it has for itself, else on the preset. */
function landingEdits(preset: Preset, lit: string | null, change: Partial<HandSetting>): Edit[] {
  const own = findSnapshot(preset, lit)?.hand
  const keys = Object.keys(change) as (keyof HandSetting)[]
  const part = (of: readonly (keyof HandSetting)[]): Partial<HandSetting> => Object.fromEntries(of.map((key) => [key, change[key]]))
  const here = keys.filter((key) => own?.[key] !== undefined)
  const base = keys.filter((key) => own?.[key] === undefined)
  return [
    ...(here.length > 0 ? [{ type: 'setHand', snapshot: lit, hand: part(here) } as const] : []),
    ...(base.length > 0 ? [{ type: 'setHand', snapshot: null, hand: part(base) } as const] : []),
  ]
}

const stepOf = (edits: readonly Edit[]): Edit | null => (edits.length === 0 ? null : edits.length === 1 ? edits[0] : { type: 'all', edits })

/** Turns a knob or the switch of what plays. */
export const setHand =
  (change: Partial<HandSetting>): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const step = preset && stepOf(landingEdits(preset, getState().editor.snapshot, change))
    if (step) dispatch(edit(step))
  }

/** A guitar that a preset can be played on. */
export interface Playable {
  readonly id: string
  readonly profile: GuitarProfile
  /** Where it lies in the Kit. */
  readonly kit?: string
}

/** Plays the preset on a guitar, which it takes a copy of if it has none. What it was made on stays. */
export const playOnGuitar =
  ({ id, profile, kit }: Playable, position?: number): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    const has = preset.guitars.some((g) => g.id === id)
    const at = position ?? (id === preset.guitars[0].id ? preset.madeOn : 0)
    const step = stepOf([
      ...(has ? [] : [{ type: 'putGuitar', guitar: usedGuitar(id, profile, kit) } as const]),
      ...landingEdits(preset, getState().editor.snapshot, { guitar: id, position: at }),
    ])
    if (step) dispatch(edit(step))
  }

/** From now on the preset counts as made on what plays: that is the measure for other guitars. */
export const madeOnThis = (): Thunk => (dispatch, getState) => {
  const preset = presentPreset(getState())
  if (!preset) return
  const { profile, position } = handOf(preset, null)
  dispatch(edit({ type: 'setGuitar', guitar: profile, position }))
}
