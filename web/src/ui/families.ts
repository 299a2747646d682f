import type { Family } from '@fulgor/core/catalogue'

export const FAMILY_WORDS: Record<Family, string> = {
  gate: 'Gate',
  compressor: 'Compressors',
  drive: 'Drives',
  filter: 'Filters',
  pitch: 'Pitch',
  amp: 'Amps',
  cabinet: 'Cabinet',
  eq: 'EQ',
  modulation: 'Modulation',
  delay: 'Delays',
  reverb: 'Reverbs',
  utility: 'Utility',
}
