import type { Smooth } from './smooth'

/** What goes on dry and what of the effect: how every effect with a mix glides. */
export interface DryWet {
  readonly dry: Smooth
  readonly wet: Smooth
}

/** Share of the effect in %, so that dry and wet are both whole at 50 and 100 is the effect alone. */
export function mixGains(percent: number): { dry: number; wet: number } {
  return { dry: Math.min(1, 2 - percent / 50), wet: Math.min(1, percent / 50) }
}

/** Lets both glide to a mix in %, by gains of their own. */
export function setMix({ dry, wet }: DryWet, percent: number, immediate: boolean, dryGain = 1, wetGain = 1): void {
  const gains = mixGains(percent)
  dry.set(gains.dry * dryGain, immediate)
  wet.set(gains.wet * wetGain, immediate)
}
