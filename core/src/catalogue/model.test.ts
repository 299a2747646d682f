import { describe, expect, it } from 'vitest'
import { Gate, Tremolo } from '@fulgor/core/signal'
import { catalogue } from '.'
import { stage } from './model'
import { choice, db, hertz, ms, percent } from './params'

const words = { id: 'x', name: 'X', purpose: '', substitute: '', charts: [], linear: true, cost: 1 } as const
const gate = {
  threshold: db({ label: 'Threshold', min: -80, max: 0, initial: -50 }),
  hysteresis: db({ label: 'Hysteresis', min: 0, max: 20, initial: 6 }),
  attack: ms({ label: 'Attack', min: 0.1, max: 50, initial: 1 }),
  hold: ms({ label: 'Hold', min: 0, max: 500, initial: 40 }),
  release: ms({ label: 'Release', min: 5, max: 1000, initial: 80 }),
  range: db({ label: 'Range', min: 6, max: 90, initial: 60 }),
}
const key = <V extends string>(...values: readonly V[]) =>
  choice<V>({ label: 'Key', options: values.map((v) => [v, v] as const), initial: values[0] })

describe('a model', () => {
  // the compiler is the check: `npm run typecheck` fails where an error that is expected here is none
  it('is built of what takes just its parameters', () => {
    stage({ ...words, family: 'gate', headline: ['threshold'], params: { ...gate, key: key('own', 'dry') }, build: () => new Gate() })
    const { hold: _hold, ...shorter } = gate
    // @ts-expect-error a parameter is missing that the processor reads
    stage({ ...words, family: 'gate', headline: [], params: { ...shorter, key: key('own', 'dry') }, build: () => new Gate() })
    // @ts-expect-error a choice that the processor does not know
    stage({ ...words, family: 'gate', headline: [], params: { ...gate, key: key('own', 'dry', 'side') }, build: () => new Gate() })
    const rate = hertz({ label: 'Rate', min: 0.1, max: 10, initial: 4 })
    const spread = percent({ label: 'Spread', initial: 0 })
    const tremolo = { rate, spread, deep: percent({ label: 'Depth', initial: 50 }), shape: key('sine', 'triangle') }
    // @ts-expect-error a parameter has another name than the processor reads
    stage({ ...words, family: 'modulation', headline: [], params: tremolo, build: () => new Tremolo() })
    // @ts-expect-error a headline names what is no parameter
    stage({ ...words, family: 'gate', headline: ['thresh'], params: { ...gate, key: key('own', 'dry') }, build: () => new Gate() })
  })

  it('takes the traits of its family, and its own over them', () => {
    const made = stage({
      ...words,
      family: 'delay',
      voice: false,
      headline: [],
      params: {},
      tags: 'echo  wash',
      build: () => new Tremolo() as never,
    })
    expect(made).toMatchObject({ trails: true, wet: true, byFoot: true, voice: false, tags: ['echo', 'wash'] })
    expect(Object.keys(made.params)).toEqual(['trails', 'level'])
    expect(stage({ ...words, family: 'amp', headline: [], params: {}, build: () => new Tremolo() as never }).trails).toBeUndefined()
  })

  it('that repeats says where its repeats are', () => {
    const values = { time: 300, feedback: 40, time1: 500, feedback1: 20, level1: 0, time2: 375, feedback2: 30, level2: -2 }
    for (const model of catalogue.filter((m) => m.family === 'delay' && m.id !== 'delay.doubler')) {
      const lines = model.echoes?.(values) ?? []
      expect(lines.length, model.id).toBe(model.id === 'delay.dual' ? 2 : 1)
      expect(lines[0], model.id).toEqual(
        model.id === 'delay.dual' ? { time: 500, feedback: 20, level: 0 } : { time: 300, feedback: 40, level: 0 },
      )
    }
  })
})
