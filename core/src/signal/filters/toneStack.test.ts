import { describe, expect, it } from 'vitest'
import { analogDb, bassTaper, bilinear, digitalMagnitude, publishedParts, stackTransfer, toneStackTransfer } from '..'

// Circuit and component values: Yeh & Smith, DAFx-06. The expected curve is solved here from the circuit itself by nodal analysis,
// so that neither a slip in the published polynomial nor one in our copy of it could pass.

type Complex = [number, number]
const add = (a: Complex, b: Complex): Complex => [a[0] + b[0], a[1] + b[1]]
const sub = (a: Complex, b: Complex): Complex => [a[0] - b[0], a[1] - b[1]]
const mul = (a: Complex, b: Complex): Complex => [a[0] * b[0] - a[1] * b[1], a[0] * b[1] + a[1] * b[0]]
const div = (a: Complex, b: Complex): Complex => {
  const m = b[0] ** 2 + b[1] ** 2
  return [(a[0] * b[0] + a[1] * b[1]) / m, (a[1] * b[0] - a[0] * b[1]) / m]
}

function solve(matrix: Complex[][], right: Complex[]): Complex[] {
  const n = right.length
  for (let k = 0; k < n; k++) {
    const pivot = matrix.slice(k).reduce((best, row, i) => (Math.hypot(...row[k]) > Math.hypot(...matrix[best][k]) ? k + i : best), k)
    ;[matrix[k], matrix[pivot]] = [matrix[pivot], matrix[k]]
    ;[right[k], right[pivot]] = [right[pivot], right[k]]
    for (let r = k + 1; r < n; r++) {
      const factor = div(matrix[r][k], matrix[k][k])
      for (let c = k; c < n; c++) matrix[r][c] = sub(matrix[r][c], mul(factor, matrix[k][c]))
      right[r] = sub(right[r], mul(factor, right[k]))
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    for (let c = k + 1; c < n; c++) right[k] = sub(right[k], mul(matrix[k][c], right[c]))
    right[k] = div(right[k], matrix[k][k])
  }
  return right
}

/** Nodes: 0 top of treble pot, 1 its wiper (output), 2 top of bass pot, 3 behind the slope resistor, 4 top of mid pot, 5 its wiper. */
function circuitDb(hz: number, treble: number, mid: number, bass: number): number {
  const { r1, r2, r3, r4, c1, c2, c3 } = publishedParts
  const y = Array.from({ length: 6 }, () => Array.from({ length: 6 }, (): Complex => [0, 0]))
  const current = Array.from({ length: 6 }, (): Complex => [0, 0])
  const w = 2 * Math.PI * hz
  const r = (ohm: number): Complex => [1 / Math.max(ohm, 1e-2), 0]
  const c = (farad: number): Complex => [0, w * farad]
  const connect = (a: number, b: number | 'ground' | 'source', g: Complex) => {
    y[a][a] = add(y[a][a], g)
    if (b === 'source') current[a] = add(current[a], g)
    else if (b !== 'ground') {
      y[b][b] = add(y[b][b], g)
      y[a][b] = sub(y[a][b], g)
      y[b][a] = sub(y[b][a], g)
    }
  }
  connect(0, 'source', c(c1))
  connect(0, 1, r(r1 * (1 - treble)))
  connect(1, 2, r(r1 * treble))
  connect(3, 'source', r(r4))
  connect(3, 2, c(c2))
  connect(3, 5, c(c3))
  connect(2, 4, r(r2 * bass))
  connect(4, 5, r(r3 * (1 - mid)))
  connect(5, 'ground', r(r3 * mid))
  return 20 * Math.log10(Math.hypot(...solve(y, current)[1]))
}

const settings = [
  [0.5, 0.5, 0.5],
  [0, 0, 0.05],
  [1, 1, 1],
  [1, 0, 0.5],
  [0, 1, 0.5],
  [0.5, 0, 1],
  [0.2, 0.8, 0.1],
  [0.8, 0.2, 0.9],
  [0.5, 1, 0],
] as const
const hz = Array.from({ length: 40 }, (_, i) => 20 * Math.pow(1000, i / 39))

describe('tone stack', () => {
  it.each(settings)('follows the circuit at treble %s, mid %s, bass %s', (treble, mid, bass) => {
    const analog = toneStackTransfer(publishedParts, { treble, mid, bass })
    for (const f of hz) expect(Math.abs(analogDb(analog, f) - circuitDb(f, treble, mid, bass))).toBeLessThan(0.01)
  })

  it.each(settings)('runs at four times 48 kHz within 0.1 dB of the circuit at treble %s, mid %s, bass %s', (treble, mid, bass) => {
    const out = new Float64Array(8)
    bilinear(toneStackTransfer(publishedParts, { treble, mid, bass }), 192_000, out)
    for (const f of [50, 100, 400, 1000, 3000, 10_000])
      expect(Math.abs(20 * Math.log10(digitalMagnitude(out, f, 192_000)) - circuitDb(f, treble, mid, bass))).toBeLessThan(0.1)
  })

  // impedances of R and 1/jωC by hand: a resistor into a capacitor with a pot in series
  it('runs a one-knob stack as its divider', () => {
    const stack = { kind: 'one-knob', source: 100e3, pot: 500e3, capacitor: 4.7e-9 } as const
    const out = new Float64Array(8)
    for (const knob of [0, 0.5, 1]) {
      bilinear(stackTransfer(stack, { treble: knob, mid: 0.5, bass: 0.5 }), 192_000, out)
      const r = 500e3 * knob ** 2
      for (const f of [100, 1000, 8000]) {
        const x = 1 / (2 * Math.PI * f * 4.7e-9)
        const expected = Math.hypot(r, x) / Math.hypot(r + 100e3, x)
        expect(Math.abs(20 * Math.log10(digitalMagnitude(out, f, 192_000) / expected))).toBeLessThan(0.1)
      }
    }
  })

  it('runs shelves flat with both knobs in the middle, and to their range at the ends', () => {
    const stack = { kind: 'shelves', bassHz: 110, trebleHz: 2_400, range: 14 } as const
    const db = (bass: number, treble: number, f: number) => analogDb(stackTransfer(stack, { bass, treble, mid: 0.5 }), f)
    for (const f of [30, 500, 9_000]) expect(db(bassTaper(5), 0.5, f)).toBeCloseTo(0, 1)
    expect(db(1, 0.5, 5)).toBeCloseTo(14, 0)
    expect(db(bassTaper(5), 0, 40_000)).toBeCloseTo(-14, 0)
  })
})
