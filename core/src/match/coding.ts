import { averageSpectrum, share, type Told } from '@fulgor/core/measure'
import { wholeWindows } from './whole'

const SIZE = 16_384
/** Hz of a shelf that coders cut at, and dB within a kilohertz that make one of a slope. */
const FROM_HZ = 9_500
const TO_HZ = 20_500
const STEP_DB = 18
const SURE_DB = 32

/**
 * Where a file was cut by a lossy coder: the power of its top breaks off within a kilohertz, as no loudspeaker does. Null: it is not.
 * @param sides one channel or two
 */
export function cutOf(sides: readonly Float32Array[], sampleRate: number): Told<number> {
  const { power, binHz } = averageSpectrum(wholeWindows(sides, SIZE), sampleRate, SIZE)
  const db = (from: number, to: number) => {
    const [a, b] = [Math.floor(from / binHz), Math.min(power.length, Math.ceil(to / binHz))]
    let sum = 0
    for (let k = a; k < b; k++) sum += Math.log10(power[k] + 1e-20)
    return (10 * sum) / (b - a)
  }
  const whole = db(100, 5_000)
  let best = { hz: 0, drop: 0 }
  for (let hz = FROM_HZ; hz <= Math.min(TO_HZ, 0.47 * sampleRate); hz += 50) {
    // against what the slope below it would go on to
    const [far, near, above] = [db(hz - 1_700, hz - 900), db(hz - 900, hz - 100), db(hz + 150, hz + 950)]
    const drop = near - above - 1.3 * Math.max(0, far - near)
    if (near > whole - 95 && drop > best.drop) best = { hz, drop }
  }
  if (best.drop < STEP_DB) return { value: null, confidence: 1 - share(best.drop, 6, STEP_DB), words: 'no sign of lossy coding' }
  return {
    value: best.hz,
    confidence: share(best.drop, STEP_DB - 8, SURE_DB),
    words: `cut off at ${(best.hz / 1000).toFixed(1)} kHz, as a lossy coder does`,
  }
}
