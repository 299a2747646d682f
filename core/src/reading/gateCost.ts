/** A gate set by the noise before it, and what it takes of the notes. */
export interface GateProposal {
  /** dBFS. */
  readonly opensAt: number
  readonly closesAt: number
  /** ms. */
  readonly hold: number
  /** Notes of the riff that fall below where it closes before the next one comes. */
  readonly notes: number
  /** ms by which these end earlier than they would sink into the noise: the middle one and the one that loses most. */
  readonly earlierMs: number
  readonly mostMs: number
}

/** dB that a gate opens and closes above the peaks of the noise: room for hum that swells (common practice, no source). */
export const OPENS_ABOVE_DB = 8
export const CLOSES_ABOVE_DB = 4
const HOLD_MS = 40
/** s in which the detector falls by 8.7 dB: as that of the gate itself. */
const DETECTOR_S = 0.01

/**
 * Sets a gate above a noise and counts what it costs on a riff's own decays: each time the level falls below where the gate closes, the
 * time from then on, less the hold, until the note would meet the noise or the next one comes.
 * @param sound what the gate hears
 * @param noisePeakDbfs peak of the noise there
 */
export function proposeGate(sound: Float32Array, noisePeakDbfs: number, sampleRate: number): GateProposal {
  const opensAt = Math.max(-90, Math.min(-20, Math.ceil(noisePeakDbfs + OPENS_ABOVE_DB)))
  const closesAt = opensAt - (OPENS_ABOVE_DB - CLOSES_ABOVE_DB)
  const [open, close, noise] = [opensAt, closesAt, noisePeakDbfs].map((db) => Math.pow(10, db / 20))
  const decay = Math.exp(-1 / (DETECTOR_S * sampleRate))
  const lost: number[] = []
  let [level, isOpen] = [0, false]
  /** Frames since the level fell below; null while the gate would be open anyway. */
  let below: number | null = null
  const ends = () => {
    if (below !== null) lost.push(Math.max(0, (below / sampleRate) * 1000 - HOLD_MS))
    below = null
  }
  for (const x of sound) {
    level = Math.max(Math.abs(x), level * decay)
    if (level >= open) {
      ends()
      isOpen = true
    } else if (isOpen && level < close) {
      isOpen = false
      below = 0
    } else if (below !== null) {
      if (level <= noise) ends()
      else below++
    }
  }
  ends()
  lost.sort((a, b) => a - b)
  return {
    opensAt,
    closesAt,
    hold: HOLD_MS,
    notes: lost.length,
    earlierMs: lost[Math.floor((lost.length - 1) / 2)] ?? 0,
    mostMs: lost.at(-1) ?? 0,
  }
}
