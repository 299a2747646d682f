import { describe, expect, it } from 'vitest'
import { barsAt, looped, loopSeconds, newRecording, onBeats, readRecording, recordingId, tempoOfBars, within } from '.'

const FILE = 'a'.repeat(64)
const riff = newRecording('riff', 'Verse, dry', FILE, 12.5)

describe('a recording of the Kit', () => {
  it('is read as it was written, and named by its file', () => {
    expect(readRecording(JSON.parse(JSON.stringify(riff)))).toEqual(riff)
    expect(recordingId(FILE)).toBe('a'.repeat(40))
  })

  it('refuses by field what cannot be', () => {
    const put = (part: object) => () => readRecording({ ...riff, ...part })
    expect(put({ part: { from: 3, to: 2 } })).toThrow('part.to')
    expect(put({ part: { from: 3, to: 13 } })).toThrow('within the file, which is 12.50 s long')
    expect(put({ tempo: 5 })).toThrow('tempo')
    expect(put({ file: 'x' })).toThrow('SHA-256')
    expect(put({ use: 'song' })).toThrow('use')
  })

  it('tells the tempo of its bars, and the bars of its tempo', () => {
    // four bars of four at 120: 8 s
    expect(tempoOfBars(4, 4, 8)).toBe(120)
    expect(barsAt(120, 4, 8)).toBe(4)
    // two bars of three at 90: 4 s
    expect(tempoOfBars(2, 3, 4)).toBe(90)
    expect(loopSeconds(riff)).toBe(12.5)
    expect(loopSeconds({ ...riff, part: { from: 1, to: 9 } })).toBe(8)
  })

  it('ends a loop on a beat that still lies within the file', () => {
    expect(onBeats({ from: 1, to: 4.9 }, 120, 12)).toEqual({ from: 1, to: 5 })
    expect(onBeats({ from: 1, to: 1.05 }, 120, 12)).toEqual({ from: 1, to: 1.5 })
    expect(onBeats({ from: 11, to: 12 }, 90, 12)).toEqual({ from: 11, to: 11 + 60 / 90 })
    expect(onBeats({ from: 11.8, to: 12 }, 90, 12)).toEqual({ from: 11.8, to: 12 })
    expect(onBeats({ from: 1, to: 4.9 }, null, 12)).toEqual({ from: 1, to: 4.9 })
  })

  it('is dragged either way, and never to nothing or beyond its ends', () => {
    expect(within({ from: 5, to: 2 }, 12)).toEqual({ from: 2, to: 5 })
    expect(within({ from: -3, to: 40 }, 12)).toEqual({ from: 0, to: 12 })
    const least = within({ from: 12, to: 12 }, 12)
    expect(least.to - least.from).toBeCloseTo(0.1)
  })
})

describe('its loop', () => {
  const RATE = 48_000
  const ramp = Float32Array.from({ length: 4 * RATE }, (_, n) => n)

  it('is the stretch, with its end led into what stands before its start', () => {
    const out = looped(ramp, { from: 1, to: 3 }, RATE)
    expect(out).toHaveLength(2 * RATE)
    expect(out[0]).toBe(RATE)
    expect(out[RATE]).toBe(2 * RATE)
    // the last sample is nearly the one before the first
    expect(Math.abs(out[out.length - 1] - (RATE - 1))).toBeLessThan(0.006 * 2 * RATE)
  })

  it('from the very start has nothing to lead into, and the whole file is untouched', () => {
    expect(Array.from(looped(ramp, { from: 0, to: 1 }, RATE).slice(-2))).toEqual([RATE - 2, RATE - 1])
    expect(looped(ramp, null, RATE)).toBe(ramp)
  })
})
