import { bessel0 } from '@fulgor/core/signal'
import { MeasuringKernel } from './kernel'

const PHASES = 4
const TAPS = 24

/** Three interpolating phases of a Kaiser-windowed sinc at four times the rate (the fourth phase is the signal itself). */
export const interpolators: readonly Float64Array[] = Array.from({ length: PHASES - 1 }, (_, p) => {
  const beta = 7
  const taps = Float64Array.from({ length: TAPS }, (_, k) => {
    const x = k - TAPS / 2 + 1 - (p + 1) / PHASES
    const u = x / (TAPS / 2)
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * (bessel0(beta * Math.sqrt(Math.max(0, 1 - u * u))) / bessel0(beta))
  })
  const sum = taps.reduce((a, b) => a + b)
  return taps.map((h) => h / sum)
})

/**
 * A phase as a mean of its two neighbours and what it makes of second differences: all its taps sum to one, so that what the neighbours
 * leave of them, sum and moment both zero, is a second difference of weights.
 * @returns the sum of those weights' magnitudes
 */
function bendOf(taps: Float64Array): number {
  const middle = TAPS / 2 - 1
  const left = taps.slice()
  // the neighbours' mean has the same centre as the taps
  const centre = taps.reduce((sum, h, k) => sum + h * (k - middle), 0)
  left[middle] -= 1 - centre
  left[middle + 1] -= centre
  let [slope, weight, total] = [0, 0, 0]
  for (const h of left) {
    slope += h
    weight += slope
    total += Math.abs(weight)
  }
  return total
}

/** Between two samples the signal exceeds the higher one by no more than this times the largest second difference in reach. */
export const BEND = Math.max(...interpolators.map(bendOf))

const kernels = new Map<number, MeasuringKernel>()

/** The kernel of this thread for transforms of `size`. */
export function kernelFor(size: number): MeasuringKernel {
  let kernel = kernels.get(size)
  if (!kernel) kernels.set(size, (kernel = new MeasuringKernel(size, interpolators)))
  return kernel
}
