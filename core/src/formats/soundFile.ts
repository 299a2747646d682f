/** Why a file cannot be read as a sound: one sentence for the player. */
export class SoundFileError extends Error {
  override readonly name: string = 'SoundFileError'
}

/** A sound file in memory: one or two channels, full scale ±1. */
export interface SoundFileData {
  readonly sampleRate: number
  /** Bits a sample in the file. */
  readonly bits: number
  readonly float: boolean
  readonly channels: readonly Float32Array[]
  /** Frames that the header promises and the file does not hold: it was cut short. */
  readonly missing?: number
}
