/** Share of the effect in %, so that dry and wet are both whole at 50 and 100 is the effect alone. */
export function mixGains(percent: number): { dry: number; wet: number } {
  return { dry: Math.min(1, 2 - percent / 50), wet: Math.min(1, percent / 50) }
}
