import type { PickupPosition } from '@fulgor/core/guitar'

const held = (share: number): number => Math.min(1, Math.max(0, share))

/** Place of a level on the scale from −100 to 0 dBFS. */
export const levelShare = (dbfs: number): number => held((dbfs + 100) / 100)

/** Place of a brightness on the scale from 500 Hz to 5 kHz, in octaves. */
export const brightnessShare = (hz: number): number => held(Math.log(hz / 500) / Math.log(10))

/** Hum and hiss together, dBFS. */
export const noiseDbfs = ({ humDbfs, hissDbfs }: Pick<PickupPosition, 'humDbfs' | 'hissDbfs'>): number =>
  10 * Math.log10(Math.pow(10, humDbfs / 10) + Math.pow(10, hissDbfs / 10))
