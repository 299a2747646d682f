import { describe, expect, it } from 'vitest'
import { plotOf, strokesOf, type Curve, type Props } from './chartOption'

const Y: Props['y'] = { min: -60, max: 0, interval: 20, unit: 'dBFS' }
const X: Props['x'] = { min: -72, max: 0, ticks: [-60, -30], format: String, unit: 'dBFS in' }
const curve = (points: Curve['points'], more: Partial<Curve> = {}): Curve => ({ label: '', points, tone: 'ember', ...more })

describe('curves while they move', () => {
  // 300 px less 34 and 8 at the sides, 126 px less 8 and 18 above and below
  const plot = plotOf(Y, undefined, { width: 300, height: 126 })

  it('stand where the drawing has its axes', () => {
    expect(plot).toEqual({ left: 34, top: 8, width: 258, height: 100 })
    expect(plotOf({ ...Y, right: { format: String } }, { left: 20, right: 50 }, { width: 300, height: 126 })).toMatchObject({
      left: 20,
      width: 230,
    })
  })

  it('run from corner to corner in px, up for louder', () => {
    const [{ path }] = strokesOf(
      [
        curve([
          [-72, -60],
          [-36, -30],
          [0, 0],
        ]),
      ],
      X,
      Y,
      plot,
    )
    expect(path).toBe('M0.0 100.0L129.0 50.0L258.0 0.0')
  })

  it('put a decade at its place on a logarithmic axis', () => {
    const [{ path }] = strokesOf(
      [
        curve([
          [20, -60],
          [200, -60],
          [20_000, -60],
        ]),
      ],
      { ...X, log: true, min: 20, max: 20_000 },
      Y,
      plot,
    )
    expect(path).toBe('M0.0 100.0L86.0 100.0L258.0 100.0')
  })

  it('step in the middle between two points, and leave out what is no number', () => {
    const [{ path }] = strokesOf(
      [
        curve(
          [
            [-72, -60],
            [-50, NaN],
            [-36, -30],
          ],
          { stepped: true },
        ),
      ],
      X,
      Y,
      plot,
    )
    expect(path).toBe('M0.0 100.0H64.5V50.0H129.0')
  })

  it('carry their names and lines', () => {
    const flat = [-72, -54, -36, -18, 0].map((at) => [at, -30] as const)
    const [named, plain] = strokesOf([curve(flat, { label: 'out', nameAt: 0.5 }), curve(flat, { tone: 'lane', dashed: true })], X, Y, plot)
    expect(named.name).toMatchObject({ x: 129, y: 50, text: 'out', bold: true })
    expect(named.line).toEqual({ tone: '--ember', width: 2, dash: null })
    expect(plain).toMatchObject({ name: null, line: { tone: '--lane', width: 1.2, dash: [4, 3] } })
  })
})
