import { halfBandCoefficients } from '@fulgor/core/signal'
import { kernelFor } from './interpolation'
import type { Signal } from './loudness'

const COEFFICIENTS = halfBandCoefficients(4, 0.12)

/**
 * Half the rate of one channel or two, 32-bit, for spectra: flat to 0.38 of the new Nyquist frequency and more, images 70 dB down, phase not kept.
 * Source: Valenzuela & Constantinides, IEE Proceedings 130-G, 1983 (half-band filter as two allpass paths).
 */
export const halved = (signal: Signal): Float32Array[] => kernelFor(4_096).halved(signal, COEFFICIENTS)
