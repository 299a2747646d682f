/** A complex number, real and imaginary part. */
export type Complex = readonly [re: number, im: number]

/**
 * All roots of a real polynomial, Durand–Kerner (Kerner, Numerische Mathematik 8, 1966) on the monic polynomial.
 * @param ascending coefficients from the constant term on; leading ones may be nought
 */
export function rootsOf(ascending: readonly number[]): Complex[] {
  const most = ascending.reduce((m, c) => Math.max(m, Math.abs(c)), 0)
  let degree = ascending.length - 1
  while (degree > 0 && Math.abs(ascending[degree]) <= 1e-30 * most) degree--
  if (degree < 1) return []
  const c = ascending.slice(0, degree + 1).map((x) => x / ascending[degree])
  // Cauchy's bound gives a circle around all roots; the start is not symmetric to the real axis
  const radius = 1 + c.slice(0, degree).reduce((m, x, k) => Math.max(m, Math.pow(Math.abs(x), 1 / (degree - k))), 0)
  const roots = Array.from({ length: degree }, (_, k) => {
    const angle = (2 * Math.PI * k) / degree + 0.4
    return [radius * Math.pow(0.5, k) * Math.cos(angle), radius * Math.pow(0.5, k) * Math.sin(angle)] as [number, number]
  })
  for (let turn = 0; turn < 500; turn++) {
    let moved = 0
    for (let k = 0; k < degree; k++) {
      const [x, y] = roots[k]
      let [re, im] = [1, 0]
      for (let p = degree - 1; p >= 0; p--) [re, im] = [re * x - im * y + c[p], re * y + im * x]
      for (let j = 0; j < degree; j++) {
        if (j === k) continue
        const [u, v] = [x - roots[j][0], y - roots[j][1]]
        const m = u * u + v * v || 1e-300
        ;[re, im] = [(re * u + im * v) / m, (im * u - re * v) / m]
      }
      roots[k][0] -= re
      roots[k][1] -= im
      moved = Math.max(moved, Math.hypot(re, im) / (1e-30 + Math.hypot(x, y)))
    }
    if (moved < 1e-13) break
  }
  return roots
}
