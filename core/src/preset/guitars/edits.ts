import type { GuitarProfile } from '@fulgor/core/guitar'
import { edit } from '../edit'
import type { Preset } from '../preset'
import { mapSnapshot, requireSnapshot } from '../snapshots/snapshots'
import { MAX_GUITARS, type Fit, type HandSetting, type OwnHand, type UsedGuitar } from './description'

/** A guitar as a preset keeps it. @param kit id of the guitar in the Kit */
export const usedGuitar = (id: string, profile: GuitarProfile, kit?: string): UsedGuitar => ({
  ...profile,
  id,
  ...(kit === undefined ? {} : { kit }),
})

function requireGuitar(preset: Preset, id: string): UsedGuitar {
  const guitar = preset.guitars.find((g) => g.id === id)
  if (!guitar) throw new RangeError(`There is no guitar “${id}” in this preset.`)
  return guitar
}

const withGuitar = (preset: Preset, guitar: UsedGuitar): Preset => ({
  ...preset,
  guitars: preset.guitars.map((g) => (g.id === guitar.id ? guitar : g)),
})

/** A guitar's fits without those of a position, and with another one. */
const withFit = ({ fits: before = [], ...guitar }: UsedGuitar, position: number, fit: Fit | null): UsedGuitar => {
  const fits = [...before.filter((f) => f.position !== position), ...(fit ? [fit] : [])]
  return fits.length === 0 ? guitar : { ...guitar, fits }
}

export const guitarEdits = {
  /** What the preset was made on: takes the first place, and plays. Its fits go: it is the measure. */
  setGuitar: edit<{ guitar: UsedGuitar; position?: number }>((preset, { guitar: { fits: _, ...guitar }, position = 0 }) => {
    if (position >= guitar.positions.length) throw new RangeError(`“${guitar.name}” has ${guitar.positions.length} positions.`)
    const [first, ...others] = preset.guitars
    const rest = others.filter((g) => g.id !== guitar.id)
    const keptFirst = first.id === guitar.id || !isKept(preset, first) ? [] : [first]
    return onlyThere({
      ...preset,
      guitars: [guitar, ...keptFirst, ...rest].slice(0, MAX_GUITARS),
      madeOn: position,
      hand: { ...preset.hand, guitar: guitar.id, position },
    })
  }),
  /** Adds a guitar, or takes its figures anew; it keeps its fits. */
  putGuitar: edit<{ guitar: UsedGuitar }>((preset, { guitar }) => {
    const before = preset.guitars.find((g) => g.id === guitar.id)
    if (before) return onlyThere(withGuitar(preset, { ...guitar, ...(before.fits ? { fits: before.fits } : {}) }))
    if (preset.guitars.length >= MAX_GUITARS) throw new RangeError(`A preset holds at most ${MAX_GUITARS} guitars.`)
    return { ...preset, guitars: [...preset.guitars, guitar] }
  }),
  removeGuitar: edit<{ guitar: string }>((preset, { guitar }) => {
    const gone = requireGuitar(preset, guitar)
    if (gone === preset.guitars[0]) throw new RangeError('A preset keeps the guitar that it was made on.')
    return onlyThere({ ...preset, guitars: preset.guitars.filter((g) => g !== gone) })
  }),
  /** What plays; of a snapshot only what it has for itself, null as the preset. */
  setHand: edit<{ snapshot: string | null; hand: Partial<HandSetting> | null }>(
    (preset, { snapshot, hand }) => {
      if (hand?.guitar !== undefined) requireGuitar(preset, hand.guitar)
      if (snapshot === null) return { ...preset, hand: { ...preset.hand, ...hand } }
      const { hand: before } = requireSnapshot(preset, snapshot)
      const next: OwnHand | null = hand && { ...before, ...hand }
      return mapSnapshot(preset, snapshot, ({ hand: _, ...rest }) => (next ? { ...rest, hand: next } : rest))
    },
    { joins: ({ snapshot, hand }) => `${snapshot ?? ''} ${Object.keys(hand ?? {}).join()}` },
  ),
  /** What a guitar needs in one of its positions; null: nothing. */
  setFit: edit<{ guitar: string; position: number; fit: Fit | null }>((preset, { guitar, position, fit }) =>
    withGuitar(preset, withFit(requireGuitar(preset, guitar), position, fit)),
  ),
}

/** True of a guitar that something still speaks of. */
const isKept = (preset: Preset, { id, fits }: UsedGuitar): boolean =>
  fits !== undefined ||
  preset.riff.made?.guitar === id ||
  preset.snapshots.some((s) => s.hand?.guitar === id || s.riff?.made?.guitar === id)

/** Hands that name what is no longer there play what the preset was made on. */
function onlyThere(preset: Preset): Preset {
  const there = (id: string | undefined) => id === undefined || preset.guitars.some((g) => g.id === id)
  const positions = (id: string) => preset.guitars.find((g) => g.id === id)?.positions.length ?? 1
  const held = (id: string, position: number) => Math.min(position, positions(id) - 1)
  const [first] = preset.guitars
  const hand = there(preset.hand.guitar)
    ? { ...preset.hand, position: held(preset.hand.guitar, preset.hand.position) }
    : { ...preset.hand, guitar: first.id, position: held(first.id, preset.madeOn) }
  return {
    ...preset,
    madeOn: held(first.id, preset.madeOn),
    hand,
    snapshots: preset.snapshots.map((s) => {
      if (!s.hand) return s
      const { hand: own, ...rest } = s
      if (!there(own.guitar)) {
        const { guitar: _g, position: _p, ...knobs } = own
        return Object.keys(knobs).length > 0 ? { ...rest, hand: knobs } : rest
      }
      return own.position === undefined ? s : { ...s, hand: { ...own, position: held(own.guitar ?? hand.guitar, own.position) } }
    }),
  }
}
