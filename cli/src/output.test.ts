import { expect, it } from 'vitest'
import { fileNames } from './output'

it('gives every snapshot a file of its own, also where names come down to the same', () => {
  expect(fileNames('mix.wav', ['Lead', 'Lead!', 'LEAD', '???', 'Strofe ä', 'Lead 2'])).toEqual([
    'mix Lead.wav',
    'mix Lead 2.wav',
    'mix LEAD 3.wav',
    'mix 4.wav',
    'mix Strofe ä.wav',
    'mix Lead 2 2.wav',
  ])
  expect(fileNames('folder.d/mix', ['A'])).toEqual(['folder.d/mix A.wav'])
})
