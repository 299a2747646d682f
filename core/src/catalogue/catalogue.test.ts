import { describe, expect, it } from 'vitest'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { catalogue, FAMILIES, findModel, modelOf, parseValue, formatValue, type NumberSpec, type ParamSpec } from '.'

const defaults = (params: Readonly<Record<string, ParamSpec>>) =>
  Object.fromEntries(Object.entries(params).map(([key, spec]) => [key, spec.initial]))
const count = (family: string) => catalogue.filter((m) => m.family === family).length

describe('the catalogue', () => {
  it('holds the rack that the design asks for', () => {
    expect(count('amp')).toBeGreaterThanOrEqual(9)
    expect(count('drive')).toBeGreaterThanOrEqual(8)
    expect(count('compressor')).toBeGreaterThanOrEqual(3)
    expect(count('reverb')).toBe(5)
    expect(count('delay')).toBe(8)
    expect(count('modulation')).toBe(7)
    for (const family of FAMILIES) expect([family, count(family) > 0]).toEqual([family, true])
  })

  it('has every id and every name once', () => {
    expect(new Set(catalogue.map((m) => m.id)).size).toBe(catalogue.length)
    expect(new Set(catalogue.map((m) => m.name)).size).toBe(catalogue.length)
  })

  it('finds models by id and refuses unknown ones', () => {
    expect(findModel('amp.pier')?.name).toBe('Pier 85')
    expect(findModel('amp.nothing')).toBeUndefined()
    expect(() => modelOf('amp.nothing')).toThrow('There is no stage model “amp.nothing”.')
  })

  it.each(catalogue.map((m) => [m.id, m] as const))('%s says what it is for and what serves in its place', (_, model) => {
    for (const sentence of [model.purpose, model.substitute]) {
      expect(sentence).toMatch(/^[A-Z0-9].*\.$/s)
      expect(sentence.length).toBeGreaterThan(20)
    }
    expect(model.headline.length).toBeGreaterThan(0)
    for (const key of model.headline) expect(model.params).toHaveProperty(key)
    expect(model.params.level.kind).toBe('number')
  })

  it.each(catalogue.map((m) => [m.id, m] as const))('%s has sound parameters', (_, model) => {
    for (const [key, spec] of Object.entries(model.params)) {
      expect(key).toMatch(/^[a-z][A-Za-z0-9]*$/)
      expect(spec.label.length).toBeGreaterThan(0)
      if (spec.kind === 'choice') {
        expect(spec.options.map((o) => o.value)).toContain(spec.initial)
        expect(new Set(spec.options.map((o) => o.value)).size).toBe(spec.options.length)
      } else {
        expect([key, spec.min < spec.max, spec.initial >= spec.min, spec.initial <= spec.max]).toEqual([key, true, true, true])
        if (spec.taper === 'log') expect(spec.min).toBeGreaterThan(0)
      }
    }
  })

  it.each(catalogue.flatMap((m) => (m.sync ? [[m.id, m] as const] : [])))('%s can follow the tempo', (_, model) => {
    for (const { time, note } of model.sync ?? []) {
      const spec = model.params[time]
      expect(['ms', 's', 'hz']).toContain(spec.kind === 'number' ? spec.unit : 'none')
      const choice = model.params[note]
      if (choice.kind !== 'choice') throw new Error(note)
      expect(choice.change).toBe('resolve')
      expect(choice.options.map((o) => o.value)).toEqual(['free', ...NOTE_VALUES.map((n) => n.id)])
    }
  })

  it.each(catalogue.flatMap((m) => (m.inert ? [[m.id, m] as const] : [])))(
    '%s names real parameters when it calls them inert',
    (_, model) => {
      const settings = [defaults(model.params)]
      // every parameter at each of its ends, one at a time
      for (const [key, spec] of Object.entries(model.params)) {
        const ends = spec.kind === 'number' ? [spec.min, spec.max, 0] : spec.options.map((o) => o.value)
        for (const value of ends) settings.push({ ...defaults(model.params), [key]: value })
      }
      if ('from' in model.params) settings.push({ ...defaults(model.params), from: 500, to: 500 })
      let found = 0
      for (const values of settings)
        for (const [key, reason] of Object.entries(model.inert?.(values) ?? {})) {
          expect(model.params).toHaveProperty(key)
          found++
          expect(reason).toMatch(/^[A-Z].*\.$/)
        }
      expect(found).toBeGreaterThan(0)
    },
  )

  it('tells that a bright switch is inert with the volume full up, and a cut whose slope is off', () => {
    const pier = modelOf('amp.pier')
    expect(pier.inert?.({ ...defaults(pier.params), gain: 10 })).toHaveProperty('bright')
    expect(pier.inert?.({ ...defaults(pier.params), gain: 5 })).not.toHaveProperty('bright')
    const eq = modelOf('eq.parametric')
    expect(eq.inert?.({ ...defaults(eq.params), lowSlope: 'off' })).toHaveProperty('lowCut')
  })
})

describe('typed values', () => {
  const spec = (model: string, key: string): NumberSpec => {
    const found = modelOf(model).params[key]
    if (found.kind !== 'number') throw new Error(key)
    return found
  }
  it.each([
    ['lane', 'pan', '30 left', -30],
    ['lane', 'pan', 'L30', -30],
    ['lane', 'pan', 'right 45 %', 45],
    ['lane', 'pan', 'c', 0],
    ['lane', 'pan', '-20', -20],
    ['pitch.interval', 'interval', '-5 st', -5],
    ['pitch.interval', 'fine', '12 cents', 12],
    ['compressor.vca', 'ratio', '4:1', 4],
    ['compressor.vca', 'ratio', '6.45 : 1', 6.45],
    ['modulation.chorus', 'rate', '0.35 Hz', 0.35],
    ['reverb.plate', 'decay', '1800 ms', 1.8],
    ['amp.skiff', 'gain', '3:00', 8],
    ['amp.skiff', 'power', '10 dB', 10],
  ] as const)('%s %s: “%s” is %s', (model, key, text, value) => {
    expect(parseValue(spec(model, key), text)).toMatchObject({ ok: true, value })
  })

  it.each([
    ['lane', 'pan', '130 left', 'Pan runs from'],
    ['compressor.vca', 'ratio', '0.5', 'Ratio runs from'],
    ['pitch.interval', 'interval', '40', 'Interval runs from'],
    ['modulation.chorus', 'rate', '3 dB', 'is not given in “db”'],
    ['amp.skiff', 'gain', '6:00', 'it runs from 7:00 to 5:00'],
  ] as const)('%s %s: “%s” is refused, %s', (model, key, text, words) => {
    const parsed = parseValue(spec(model, key), text)
    expect(parsed.ok ? '' : parsed.reason).toContain(words)
  })

  it.each([
    ['lane', 'pan', -100, '100% left'],
    ['lane', 'pan', 0, 'centre'],
    ['compressor.vca', 'ratio', 4, '4.00 : 1'],
    ['pitch.detune', 'cents', 8, '8 cents'],
    ['modulation.chorus', 'rate', 0.8, '0.8 Hz'],
    ['reverb.ambience', 'decay', 0.35, '0.35 s'],
  ] as const)('%s %s %s reads %s', (model, key, value, text) => {
    expect(formatValue(spec(model, key), value)).toBe(text)
  })
})

describe('what players look for', () => {
  it('every model but the lane has words of its own, none of them twice', () => {
    for (const { id, tags } of catalogue.filter((m) => m.id !== 'lane')) {
      expect(tags.length, id).toBeGreaterThan(2)
      expect(new Set(tags).size, id).toBe(tags.length)
    }
  })

  it.each([
    ['british', 'amp.bellbuoy'],
    ['chime', 'amp.bellbuoy'],
    ['scooped', 'eq.graphic-7'],
    ['octaver', 'pitch.octave-down'],
    ['slapback', 'delay.tape'],
    ['edge', 'amp.lantern'],
    ['thicken', 'pitch.detune'],
    ['contour', 'eq.parametric'],
    ['harsh', 'eq.tilt'],
  ])('“%s” leads to %s', (word, id) => expect(catalogue.find((m) => m.id === id)?.tags).toContain(word))
})
