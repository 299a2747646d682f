import { describe, expect, it } from 'vitest'
import { createStage, effectiveParams } from '@fulgor/core/preset'
import { noteOfBeats, parseBeats, reverbProposal } from '.'

describe('note values as players write them', () => {
  // by hand: 1/8 of a whole note is half a beat; dotted is three halves, a triplet two thirds of it
  it.each([
    ['1/4', 1],
    ['1/8', 0.5],
    ['1/8d', 0.75],
    ['1/8.', 0.75],
    ['3/16', 0.75],
    ['1/8 dotted', 0.75],
    ['1/8t', 1 / 3],
    ['1/4 triplet', 2 / 3],
    ['Dotted eighth', 0.75],
    ['quarter', 1],
    ['Half note', 2],
    ['2 beats', 2],
    ['1.5 beats', 1.5],
    ['1 bar', 4],
  ])('%s is %s beats', (text, beats) => expect(parseBeats(text)).toBeCloseTo(beats, 9))

  it.each(['375', '375 ms', '1/0', '0/4', 'crotchety', '1/8x', '0 beats'])('%s is none', (text) => expect(parseBeats(text)).toBeNull())

  it('have a name where there is one', () => {
    expect(noteOfBeats(0.75)?.id).toBe('eighth-dotted')
    expect(noteOfBeats(0.7)).toBeNull()
  })
})

const at = (model: string, params: Record<string, number | string>, bpm: number) => {
  const stage = createStage('x', model, params)
  return effectiveParams(stage, stage.params, bpm)
}

describe('what follows the tempo', () => {
  // by hand: a quarter at 120 bpm lasts 500 ms: 2 turns a second; a half note at 96 lasts 1.25 s
  it('rates turn once a note value', () => {
    expect(at('modulation.tremolo', { note: 'eighth' }, 120).rate).toBeCloseTo(4, 9)
    expect(at('modulation.chorus', { note: 'double-whole' }, 120).rate).toBeCloseTo(0.25, 9)
    expect(at('modulation.phaser', { note: 'sixty-fourth' }, 200).rate).toBe(8)
  })

  it('pre-delays and decays last one', () => {
    expect(at('reverb.hall', { preNote: 'thirty-second', decayNote: 'half' }, 96)).toMatchObject({ preDelay: 78.125, decay: 1.25 })
  })

  // 3:4 of a quarter is a dotted eighth; the golden section is (√5 − 1) / 2
  it.each([
    ['3:4', 375],
    ['2:3', 1000 / 3],
    ['1:2', 250],
    ['golden', 309.017],
  ])('the second time of a dual delay hangs on the first by %s', (relation, ms) => {
    expect(at('delay.dual', { note1: 'quarter', relation }, 120).time2).toBeCloseTo(ms, 3)
  })

  it('or by an offset, and else has its own', () => {
    expect(at('delay.dual', { note1: 'quarter', relation: 'offset', offset: -15 }, 120).time2).toBe(485)
    expect(at('delay.dual', { note1: 'quarter', note2: 'eighth' }, 120).time2).toBe(250)
  })
})

describe('a reverb in the song', () => {
  // by hand at 120 bpm: a thirty-second lasts 62.5 ms, a sixteenth triplet 83.3, a sixteenth 125
  it('lets the pick through by a short note value', () => {
    expect(reverbProposal(120, 10, 2).preDelay).toMatchObject({ id: 'thirty-second-triplet' })
    expect(reverbProposal(120, 66, 2).preDelay).toMatchObject({ id: 'thirty-second', ms: 62.5 })
    expect(reverbProposal(120, 90, 2).preDelay).toMatchObject({ id: 'sixteenth-triplet' })
  })

  it('is gone on a beat', () => {
    const { beats, decay } = reverbProposal(120, 100, 2.1)
    expect(beats).toBe(4)
    expect(0.1 + decay).toBeCloseTo(2, 9)
    expect(reverbProposal(60, 0, 0.2)).toMatchObject({ beats: 1, decay: 1 })
  })
})
