import { describe, expect, it } from 'vitest'
import { matching } from './matching'

const entries = ['Level all snapshots', 'Add Tape delay', 'Storm lead', 'Shelf'].map((words) => ({
  words,
  also: words.startsWith('Add') ? 'delay slapback echo' : '',
}))
const found = (text: string) => matching(entries, text).map((e) => e.words)

describe('finding', () => {
  it('takes all words in any order, and what players call it', () => {
    expect(found('snapshots level')).toEqual(['Level all snapshots'])
    expect(found('SLAPBACK')).toEqual(['Add Tape delay'])
    expect(found('nothing')).toEqual([])
  })

  it('puts first what begins with the text, then what holds it, then other words; the order else stays', () => {
    expect(found('s')).toEqual(['Storm lead', 'Shelf', 'Level all snapshots', 'Add Tape delay'])
    expect(found('')).toHaveLength(4)
  })
})
