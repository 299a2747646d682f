import { describe, expect, it } from 'vitest'
import { labelPlaces } from './labelPlaces'

const size = { width: 300, height: 120 }
const line = (y: (x: number) => number) => Array.from({ length: 101 }, (_, i): [number, number] => [i * 3, y(i * 3)])

describe('names at curves', () => {
  it('stand where they are wanted when nothing is in their way', () => {
    expect(labelPlaces([{ points: line(() => 60), width: 40, wanted: 50 }], size)).toEqual([{ index: 50, side: 'top' }])
    expect(labelPlaces([{ points: line(() => 60), width: 40, wanted: -1 }], size)).toEqual([null])
  })

  it('go to the other side, or along the curve, where another curve would strike through them', () => {
    const [own] = labelPlaces(
      [
        { points: line(() => 60), width: 40, wanted: 50 },
        { points: line(() => 50), width: 0, wanted: -1 },
      ],
      size,
    )
    expect(own).toEqual({ index: 50, side: 'bottom' })
    // curves that come together in the middle, above and below
    const near = (x: number) => Math.min(40, Math.abs(x - 150))
    const others = [line((x) => 60 - near(x) - 4), line((x) => 60 + near(x) + 4)].map((points) => ({ points, width: 0, wanted: -1 }))
    const [place] = labelPlaces([{ points: line(() => 60), width: 40, wanted: 50 }, ...others], size)
    expect(Math.abs((place?.index ?? 50) - 50)).toBeGreaterThan(8)
  })

  it('do not lie on one another, nor over the edge', () => {
    const same = { points: line(() => 60), width: 60, wanted: 0 }
    const [a, b] = labelPlaces([same, same], size)
    expect(a?.index).toBeGreaterThanOrEqual(10)
    expect([a?.side, a?.index]).not.toEqual([b?.side, b?.index])
  })
})
