const held = (share: number): number => Math.min(1, Math.max(0, share))

/** Place of a level on the scale from −100 to 0 dBFS. */
export const levelShare = (dbfs: number): number => held((dbfs + 100) / 100)

/** Place of a brightness on the scale from 500 Hz to 5 kHz, in octaves. */
export const brightnessShare = (hz: number): number => held(Math.log(hz / 500) / Math.log(10))
