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
 * Frames from the chirp's start to its return in what was heard, by the peak of their correlation; null when nothing in it stands
 * clearly out (less than four times the root mean square of all places).
 */
export function chirpDelay(sound: Float32Array, heard: Float32Array): number | null {
  let best = 0
  let most = 0
  let squares = 0
  const places = heard.length - sound.length
  for (let at = 0; at < places; at++) {
    let sum = 0
    for (let n = 0; n < sound.length; n++) sum += sound[n] * heard[at + n]
    squares += sum * sum
    if (Math.abs(sum) > most) {
      most = Math.abs(sum)
      best = at
    }
  }
  return most > 1e-6 && most > 4 * Math.sqrt(squares / places) ? best : null
}
