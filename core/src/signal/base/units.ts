/** 20·log10 ratio to amplitude factor. */
export const dbToGain = (db: number): number => Math.pow(10, db / 20)

/** Amplitude factor to dB; −Infinity for zero. */
export const gainToDb = (gain: number): number => 20 * Math.log10(Math.abs(gain))

/** Full scale (±1) in volts at the peak: 0 dBFS is +12 dBu, a sine of 3.08 V RMS (common practice, no source). */
export const FULL_SCALE_VOLTS = 4.36

/**
 * Gain of a knob 0–10 whose travel is even in dB: unity at 10, `span` dB less at 0, which is silence; the last half mark fades to it.
 */
export const evenTaper = (knob: number, span: number): number => Math.min(1, knob / 0.5) * dbToGain((knob / 10 - 1) * span)

/** Turns a 0–10 knob position into the resistance fraction of an audio-taper pot: 10 % at half travel (common practice). */
export const audioTaper = (knob: number): number => (Math.pow(81, knob / 10) - 1) / 80
