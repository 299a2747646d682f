import { describe, expect, it } from 'vitest'
import { noteHz, noteName, noteNumber, parseTuning, tuningName, tuningOffsets } from '.'

const strings = (...notes: string[]) => notes.map((note) => ({ note, cents: 0 }))

describe('notes', () => {
  // MIDI 1.0 (1983): 69 is A4, 60 the middle C; ISO 16:1975: 440 Hz; open strings of a guitar from any handbook
  it.each([
    ['A4', 69, 440],
    ['C4', 60, 261.626],
    ['E2', 40, 82.407],
    ['a2', 45, 110],
    ['G3', 55, 195.998],
    ['B♭1', 34, 58.27],
    ['f#3', 54, 184.997],
    ['Cb4', 59, 246.942],
  ])('%s is number %d, %d Hz', (name, number, hz) => {
    expect(noteNumber(name)).toBe(number)
    expect(noteHz(number)).toBeCloseTo(hz, 2)
    expect(noteNumber(noteName(number))).toBe(number)
  })

  it.each(['H2', 'E', '2', 'E♭', 'E22x', ''])('“%s” is none', (name) => expect(noteNumber(name)).toBeNull())
})

describe('tunings', () => {
  it.each([
    ['drop d', ['D2', 'A2', 'D3', 'G3', 'B3', 'E4']],
    ['Dadgad', ['D2', 'A2', 'D3', 'G3', 'A3', 'D4']],
    ['e standard', ['E2', 'A2', 'D3', 'G3', 'B3', 'E4']],
    ['eb standard', ['E♭2', 'A♭2', 'C♯3', 'F♯3', 'B♭3', 'E♭4']],
    ['D2, A2 D3  F#3 A3 D4', ['D2', 'A2', 'D3', 'F♯3', 'A3', 'D4']],
  ])('%s', (text, notes) => expect(parseTuning(text)).toEqual(notes))

  it.each([
    ['drop z', '“drop” is no note'],
    ['E2 A2', '4 to 12 strings, not 2'],
    ['E2 A2 D3 G3 B3 H4', '“H4”'],
  ])('%s is refused with the reason', (text, says) => {
    const answer = parseTuning(text)
    expect('reason' in answer && answer.reason).toContain(says)
  })

  it('have their names back', () => {
    expect(tuningName(['D2', 'A2', 'D3', 'G3', 'A3', 'D4'])).toBe('DADGAD')
    expect(tuningName(['D2', 'A2', 'D3', 'Gb3', 'A3', 'D4'])).toBe('Open D')
    expect(tuningName(['C2', 'A2', 'D3', 'G3', 'A3', 'D4'])).toBe('C2 A2 D3 G3 A3 D4')
  })

  it('are semitones off E standard for the riffs: pitch, cents and further strings among them', () => {
    expect(tuningOffsets({ a4: 440, strings: strings('D2', 'A2', 'D3', 'G3', 'A3', 'D4') })).toEqual([-2, 0, 0, 0, -2, -2])
    const [low] = tuningOffsets({ a4: 432, strings: [{ note: 'E2', cents: 10 }, ...strings('A2', 'D3', 'G3', 'B3', 'E4')] })
    expect(low).toBeCloseTo(12 * Math.log2(432 / 440) + 0.1, 10)
    expect(tuningOffsets({ a4: 440, strings: strings('B1', 'E2', 'A2', 'D3', 'G3', 'B3', 'E4') })).toEqual([0, 0, 0, 0, 0, 0])
    expect(tuningOffsets({ a4: 440, strings: strings('E1', 'A1', 'D2', 'G2') })).toEqual([0, 0, 0, 0, 0, 0])
  })
})
