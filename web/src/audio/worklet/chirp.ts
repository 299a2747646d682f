/** A chirp of 20 ms from 500 Hz to 6 kHz at −20 dBFS with faded ends, for measuring the way out and in again. */
export function chirp(sampleRate: number): Float32Array {
  const frames = Math.round(0.02 * sampleRate)
  let phase = 0
  return Float32Array.from({ length: frames }, (_, n) => {
    phase += (2 * Math.PI * (500 + (5_500 * n) / frames)) / sampleRate
    return 0.1 * Math.sin(phase) * Math.sin((Math.PI * n) / frames)
  })
}

/**
 * Frames from the chirp's start to its return in what was heard, by the peak of their correlation; null when what stands there does
 * not resemble the chirp (correlation coefficient below 0.35, which a loudspeaker and a microphone still pass).
 */
export function chirpDelay(sound: Float32Array, heard: Float32Array): number | null {
  let best = 0
  let most = 0
  for (let at = 0; at + sound.length <= heard.length; at++) {
    let sum = 0
    for (let n = 0; n < sound.length; n++) sum += sound[n] * heard[at + n]
    if (Math.abs(sum) > most) {
      most = Math.abs(sum)
      best = at
    }
  }
  const energy = (x: Float32Array, from: number) => x.subarray(from, from + sound.length).reduce((sum, y) => sum + y * y, 0)
  return most > 0.35 * Math.sqrt(energy(sound, 0) * energy(heard, best)) && most > 1e-9 ? best : null
}
