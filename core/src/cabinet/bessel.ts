/**
 * Bessel function of the first kind and order one; absolute error below 1e-7.
 * Source: Abramowitz & Stegun, Handbook of Mathematical Functions, NBS 1964, 9.4.4 and 9.4.6.
 */
export function besselJ1(x: number): number {
  const size = Math.abs(x)
  if (size <= 3) {
    const t = (size / 3) ** 2
    return x * (0.5 + t * (-0.56249985 + t * (0.21093573 + t * (-0.03954289 + t * (0.00443319 + t * (-0.00031761 + t * 0.00001109))))))
  }
  const t = 3 / size
  const amplitude =
    0.79788456 + t * (0.00000156 + t * (0.01659667 + t * (0.00017105 + t * (-0.00249511 + t * (0.00113653 - t * 0.00020033)))))
  const phase =
    size - 2.35619449 + t * (0.12499612 + t * (0.0000565 + t * (-0.00637879 + t * (0.00074348 + t * (0.00079824 - t * 0.00029166)))))
  return (Math.sign(x) * amplitude * Math.cos(phase)) / Math.sqrt(size)
}

/**
 * Far-field directivity of a rigid piston in a baffle, 2·J1(ka·sinθ)/(ka·sinθ): 1 on axis, its first null at ka·sinθ = 3.832.
 * Source: Beranek, Acoustics, 1954, ch. 4.
 */
export function pistonDirectivity(kaSinTheta: number): number {
  return Math.abs(kaSinTheta) < 1e-6 ? 1 : (2 * besselJ1(kaSinTheta)) / kaSinTheta
}
