import type { Preset } from '../preset'
import type { Fit } from './description'

/** Hands of snapshots without what says which switch position the base's guitar has there; knobs, and guitars of their own, stay. */
const knobsOnly = (preset: Preset): Preset['snapshots'] =>
  preset.snapshots.map((s) => {
    if (!s.hand || s.hand.guitar !== undefined || s.hand.position === undefined) return s
    const { hand, ...rest } = s
    const { position: _, ...knobs } = hand
    return Object.keys(knobs).length > 0 ? { ...rest, hand: knobs } : rest
  })

/** The preset on what it was made on. */
export const onMade = (preset: Preset): Preset => ({
  ...preset,
  hand: { ...preset.hand, guitar: preset.guitars[0].id, position: preset.madeOn },
})

/** The preset on one of its guitars, with this fit and no other; snapshots that name a guitar of their own keep it. */
export const onGuitar = (preset: Preset, guitar: string, position: number, fit: Omit<Fit, 'position'> | null): Preset => ({
  ...preset,
  guitars: preset.guitars.map((g) => {
    if (g.id !== guitar) return g
    const { fits: before = [], ...rest } = g
    const fits = [...before.filter((f) => f.position !== position), ...(fit ? [{ ...fit, position }] : [])]
    return fits.length > 0 ? { ...rest, fits } : rest
  }),
  hand: { ...preset.hand, guitar, position },
  snapshots: knobsOnly(preset),
})

/** The chain alone: a guitar with its knobs up and nothing set right for it. */
export const chainAlone = (preset: Preset): Preset => ({
  ...onMade(preset),
  hand: { guitar: preset.guitars[0].id, position: preset.madeOn, volume: 10, tone: 10 },
  snapshots: preset.snapshots.map(({ hand: _, ...s }) => s),
})
