import { describe, expect, it } from 'vitest'
import { freeStretch, joined, marksOf, MOST_MARKED_S, MOST_MARKS, newRecording, readRecording, timeInFile, withMark, withoutMark } from '.'

const song = newRecording('reference', 'Storm theme', 'b'.repeat(64), 200)

describe('stretches of a reference', () => {
  it('are those that are marked, or a minute away from the start', () => {
    expect(marksOf({ marks: [{ from: 1, to: 2 }], seconds: 200 })).toEqual([{ from: 1, to: 2 }])
    expect(marksOf({ seconds: 40 })).toEqual([{ from: 0, to: 40 }])
    expect(marksOf(song)).toEqual([{ from: 20, to: 80 }])
    expect(marksOf({ seconds: 61 })).toEqual([{ from: 1, to: 61 }])
  })

  it('are drawn in any order, become one where they touch, and are moved in their place', () => {
    const one = withMark([], { from: 30, to: 40 }, null, 200)
    const two = withMark(one, { from: 10, to: 5 }, null, 200)
    expect(two).toEqual([
      { from: 5, to: 10 },
      { from: 30, to: 40 },
    ])
    expect(withMark(two, { from: 8, to: 32 }, null, 200)).toEqual([{ from: 5, to: 40 }])
    expect(withMark(two, { from: 6, to: 12 }, 0, 200)).toEqual([
      { from: 6, to: 12 },
      { from: 30, to: 40 },
    ])
    expect(withMark(two, { from: 195, to: 260 }, null, 200).at(-1)).toEqual({ from: 195, to: 200 })
    expect(withoutMark(two, 0)).toEqual([{ from: 30, to: 40 }])
  })

  it('have room behind the last one, or in the widest gap', () => {
    expect(freeStretch([], 200)).toEqual({ from: 0, to: 10 })
    expect(freeStretch([{ from: 20, to: 40 }], 200)).toEqual({ from: 41, to: 51 })
    expect(freeStretch([{ from: 20, to: 40 }], 43)).toEqual({ from: 41, to: 43 })
    expect(
      freeStretch(
        [
          { from: 5, to: 10 },
          { from: 30, to: 200 },
        ],
        200,
      ),
    ).toEqual({ from: 11, to: 21 })
    expect(freeStretch([{ from: 0, to: 200 }], 200)).toBeNull()
  })

  it('last no longer together than is looked at, and are no more than a few', () => {
    const long = withMark([], { from: 0, to: 190 }, null, 200)
    expect(long).toEqual([{ from: 0, to: MOST_MARKED_S }])
    expect(withMark(long, { from: 150, to: 160 }, null, 200)).toBe(long)
    const most = Array.from({ length: MOST_MARKS }, (_, k) => ({ from: 10 * k, to: 10 * k + 1 }))
    expect(withMark(most, { from: 155, to: 156 }, null, 200)).toBe(most)
    expect(withMark(most, { from: 155, to: 156 }, 3, 200)).toHaveLength(MOST_MARKS)
  })

  it('are refused by field where they overlap, run out of the file or last too long', () => {
    const put = (marks: object[]) => () => readRecording({ ...song, marks })
    expect(put([{ from: 1, to: 2 }])().marks).toHaveLength(1)
    expect(put([{ from: 1, to: 201 }])).toThrow('marks[0].to')
    expect(
      put([
        { from: 1, to: 5 },
        { from: 4, to: 6 },
      ]),
    ).toThrow('marks[1].from')
    expect(put([{ from: 0, to: 121 }])).toThrow(`may last ${MOST_MARKED_S} s together`)
    expect(() => readRecording({ ...song, view: 'both' })).toThrow('view')
  })

  it('are heard as one: constant stays constant over a seam, and each time has its place in the file', () => {
    const even = joined([new Float32Array(1_000).fill(0.5), new Float32Array(800).fill(0.5)], 48_000)
    expect(even).toHaveLength(1_800 - 400)
    for (const v of even) expect(v).toBeCloseTo(0.5, 6)
    expect([...joined([Float32Array.of(0.25, 0.5)], 48_000)]).toEqual([0.25, 0.5])
    const marks = [
      { from: 10, to: 14 },
      { from: 30, to: 31 },
    ]
    expect([0, 3.5, 4.5].map((s) => timeInFile(marks, s))).toEqual([10, 13.5, 30.5])
  })
})
