import { bessel0 } from '@fulgor/core/signal'
import { MeasuringKernel } from './kernel'

const PHASES = 4
const TAPS = 24

/** Three interpolating phases of a Kaiser-windowed sinc at four times the rate (the fourth phase is the signal itself). */
const interpolators: readonly Float64Array[] = Array.from({ length: PHASES - 1 }, (_, p) => {
  const beta = 7
  const taps = Float64Array.from({ length: TAPS }, (_, k) => {
    const x = k - TAPS / 2 + 1 - (p + 1) / PHASES
    const u = x / (TAPS / 2)
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * (bessel0(beta * Math.sqrt(Math.max(0, 1 - u * u))) / bessel0(beta))
  })
  const sum = taps.reduce((a, b) => a + b)
  return taps.map((h) => h / sum)
})

/** Between samples the signal can exceed its neighbours by no more than this factor. */
export const REACH = Math.max(...interpolators.map((f) => f.reduce((sum: number, h) => sum + Math.abs(h), 0)))

const kernels = new Map<number, MeasuringKernel>()

/** The kernel of this thread for transforms of `size`. */
export function kernelFor(size: number): MeasuringKernel {
  let kernel = kernels.get(size)
  if (!kernel) kernels.set(size, (kernel = new MeasuringKernel(size, interpolators)))
  return kernel
}
