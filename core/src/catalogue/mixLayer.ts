import { cents, db, ms, pan, type NumberSpec } from './params'

/** What can be set of a layer in a mix. */
export const layerSpecs = {
  level: db({ label: 'Level', short: 'lvl', min: -40, max: 12, initial: 0 }),
  pan: pan({ label: 'Pan' }),
  delay: ms({ label: 'Delay', short: 'dly', min: 0, max: 100, initial: 0, step: 0.5 }),
  detune: cents({ label: 'Detune', short: 'det', min: -50, max: 50, initial: 0 }),
} satisfies Record<string, NumberSpec>

export type LayerParam = keyof typeof layerSpecs
