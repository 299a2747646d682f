/** 20·log10 ratio to amplitude factor. */
export const dbToGain = (db: number): number => Math.pow(10, db / 20)

/** Amplitude factor to dB; −Infinity for zero. */
export const gainToDb = (gain: number): number => 20 * Math.log10(Math.abs(gain))

/** Full scale (±1) in volts at the peak: 0 dBFS is +12 dBu, a sine of 3.08 V RMS (common practice, no source). */
export const FULL_SCALE_VOLTS = 4.36

/** Turns a 0–10 knob position into the resistance fraction of an audio-taper pot: 10 % at half travel (common practice). */
export const audioTaper = (knob: number): number => (Math.pow(81, knob / 10) - 1) / 80
