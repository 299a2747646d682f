/** Modified Bessel function of the first kind and order zero, by its series; what a Kaiser window is made of. */
export function bessel0(x: number): number {
  let term = 1
  let sum = 1
  for (let k = 1; term > 1e-14 * sum; k++) sum += term *= (x / (2 * k)) ** 2
  return sum
}
