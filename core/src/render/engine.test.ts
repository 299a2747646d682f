import { describe, expect, it, vi } from 'vitest'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { responseLibrary } from '@fulgor/core/cabinet'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, blankPreset, createLane, createStage, resolveValues, type ChainNode, type Preset } from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import type { SharedTaps } from './offline'
import { Engine, Renderer, renderPreset, sameStructure, type Plan, type Sound } from '.'

const rate = 48_000
const context = {
  quality: 'live' as const,
  responses: responseLibrary(rate),
}
const pit = demoPresets[0].preset
const riff = synthesiseRiff('open-chords', 'hard', 96, rate).slice(0, rate * 2)

const plan = (preset: Preset, snapshot: string | null): Plan => ({ chain: preset.chain, values: resolveValues(preset, snapshot) })

function throughEngine(p: Plan, input: Float32Array, blockSize: (n: number) => number, change?: { at: number; values: Plan['values'] }) {
  const engine = new Engine(p, context, rate)
  const left = new Float32Array(input)
  const right = new Float32Array(input.length)
  for (let at = 0, n = 0; at < left.length; n++) {
    let size = Math.min(blockSize(n), left.length - at)
    if (change && at < change.at) size = Math.min(size, change.at - at)
    if (change && at === change.at) engine.setValues(change.values)
    engine.process(left.subarray(at, at + size), right.subarray(at, at + size), size)
    at += size
  }
  return { left, right }
}

/** Index of the first sample that differs, −1 if none does. */
const firstDifference = (a: Float32Array, b: Float32Array): number => (a.length === b.length ? a.findIndex((y, n) => y !== b[n]) : 0)

describe('engine', () => {
  it.each([64, 128, 192, 1024])('gives the same samples in blocks of %s as in one piece, over a snapshot change', (size) => {
    const change = { at: 12_352, values: resolveValues(pit, 'storm') }
    const input = riff.slice(0, rate)
    const whole = throughEngine(plan(pit, 'lullaby'), input, () => input.length, change)
    const cut = throughEngine(plan(pit, 'lullaby'), input, () => size, change)
    expect(firstDifference(cut.left, whole.left)).toBe(-1)
    expect(firstDifference(cut.right, whole.right)).toBe(-1)
  })

  it('renders offline, stage by stage, what it plays live', () => {
    const offline = renderPreset({ preset: pit, snapshot: 'storm', dry: riff, sampleRate: rate }, context)
    const live = throughEngine(plan(pit, 'storm'), riff, () => 128)
    expect(firstDifference(offline.left, live.left)).toBe(-1)
    expect(firstDifference(offline.right, live.right)).toBe(-1)
  })

  it.each([44_100, 48_000, 88_200, 96_000])('runs at %s Hz with the same loudness', (sampleRate) => {
    const input = synthesiseRiff('lead-line', 'hard', 120, sampleRate).slice(0, sampleRate * 2)
    const own = {
      quality: 'live' as const,
      responses: responseLibrary(sampleRate),
    }
    const { left } = renderPreset({ preset: pit, snapshot: 'storm', dry: input, sampleRate }, own)
    const rms = Math.sqrt(left.reduce((s, y) => s + y * y, 0) / left.length)
    expect(20 * Math.log10(rms)).toBeGreaterThan(-13.2)
    expect(20 * Math.log10(rms)).toBeLessThan(-11.2)
  })

  it('refuses a sample rate that it does not run at', () => {
    expect(() => new Engine(plan(pit, null), context, 22_050)).toThrow('44,100 to 96,000')
  })

  it('changes no sample for a value that does not change', () => {
    const steady = throughEngine(plan(pit, 'finale'), riff, () => 128)
    const again = throughEngine(plan(pit, 'finale'), riff, () => 128, { at: 4800, values: resolveValues(pit, 'finale') })
    expect(firstDifference(again.left, steady.left)).toBe(-1)
  })

  it('arrives at a new value within 50 ms', () => {
    const quiet = { ...pit, chain: [createStage('out', 'output', { level: -20 })] }
    const loud = { ...pit, chain: [createStage('out', 'output', { level: 0 })] }
    const ones = new Float32Array(9600).fill(0.5)
    const { left } = throughEngine(plan(quiet, null), ones, () => 128, { at: 4800, values: resolveValues(loud, null) })
    expect(left[4799]).toBeCloseTo(0.05, 4)
    expect(left[4800 + 2400]).toBeGreaterThan(0.5 * 0.97)
  })

  it.each(['storm', 'overture', 'chase'])('switches to %s without a click', (snapshot) => {
    const hum = Float32Array.from({ length: rate }, (_, n) => 0.1 * Math.sin((2 * Math.PI * 110 * n) / rate))
    const { left } = throughEngine(plan(pit, 'finale'), hum, () => 128, { at: 24_000, values: resolveValues(pit, snapshot) })
    // a click is energy above 10 kHz: second difference twice, against what the tones themselves have of it
    const edge = (from: number, to: number) => {
      let most = 0
      for (let n = from; n < to; n++)
        most = Math.max(most, Math.abs(left[n] - 4 * left[n - 1] + 6 * left[n - 2] - 4 * left[n - 3] + left[n - 4]))
      return most
    }
    const own = Math.max(edge(12_000, 23_900), edge(36_000, 47_900))
    expect(edge(23_900, 30_000)).toBeLessThan(Math.max(own * 4, 2e-3))
  })

  it('lets the trails of delay and reverb go on over a switch', () => {
    const burst = riff.slice(0, rate * 2).map((x, n) => (n < rate / 2 ? x : 0))
    const dryValues = resolveValues(pit, 'chase')
    const { left } = throughEngine(plan(pit, 'storm'), burst, () => 128, { at: 26_048, values: dryValues })
    const never = throughEngine(plan(pit, 'chase'), burst, () => 128)
    const energy = (x: Float32Array) => x.slice(40_000, 90_000).reduce((s, y) => s + y * y, 0)
    expect(energy(left)).toBeGreaterThan(10 * energy(never.left))
  })

  it('fades a bypassed stage out and lets it wake from silence', () => {
    const chain = [createStage('x', 'drive.open', { gain: 8, level: 10 })]
    const bare = { ...blankPreset('bare'), chain }
    const values = (on: boolean) => resolveValues({ ...bare, chain: [{ ...chain[0], on }] }, null)
    const tone = Float32Array.from({ length: rate / 2 }, (_, n) => 0.2 * Math.sin((2 * Math.PI * 200 * n) / rate))
    const at = 9_600
    const out = throughEngine({ chain, values: values(true) }, tone, () => 128, { at, values: values(false) }).left
    const back = throughEngine({ chain, values: values(false) }, tone, () => 128, { at, values: values(true) }).left
    const always = (on: boolean) => throughEngine({ chain, values: values(on) }, tone, () => 128).left
    const [on, off] = [always(true), always(false)]
    // a tenth of a second later it is what it would always have been
    for (let n = at + 4_800; n < tone.length; n++) {
      expect(Math.abs(out[n] - off[n])).toBeLessThan(1e-6)
      expect(Math.abs(back[n] - on[n])).toBeLessThan(1e-3)
    }
    // on the way it runs from the one to the other and never jumps
    const jump = (x: Float32Array, from: number, to: number) => {
      let most = 0
      for (let n = from; n < to; n++) most = Math.max(most, Math.abs(x[n] - x[n - 1]))
      return most
    }
    for (const x of [out, back]) expect(jump(x, at, at + 4_800)).toBeLessThan(1.2 * Math.max(jump(on, 4_800, at), jump(off, 4_800, at)))
    expect(out[at + 20]).not.toBe(off[at + 20])
  })

  it('is never NaN or out of bounds at the extremes of every parameter', () => {
    let seed = 42
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
    for (let round = 0; round < 24; round++) {
      const chain: ChainNode[] = catalogue.map((model, i) =>
        createStage(
          `s${i}`,
          model.id,
          Object.fromEntries(
            Object.entries(model.params).map(([key, spec]) => [
              key,
              spec.kind === 'choice'
                ? spec.options[Math.floor(random() * spec.options.length)].value
                : random() < 0.5
                  ? spec.min
                  : spec.max,
            ]),
          ),
        ),
      )
      chain.sort(() => random() - 0.5)
      // two stretches of it side by side, one of them split again
      const inner = chain.splice(5, 8)
      const deeper = chain.splice(10, 4)
      chain.splice(7, 0, {
        kind: 'parallel',
        id: 'p',
        lanes: [
          createLane('l1', inner, { pan: 100 * (2 * random() - 1), delay: 100 * random() }),
          createLane('l2', [{ kind: 'parallel', id: 'q', lanes: [createLane('l3', deeper), createLane('l4')] }], { level: 12 }),
        ],
      })
      const { left, right } = throughEngine(plan({ ...pit, chain }, null), riff.slice(0, 12_000), () => 512)
      expect(left.every((y) => Math.abs(y) < 1e9)).toBe(true)
      expect(right.every((y) => Math.abs(y) < 1e9)).toBe(true)
    }
  })

  it('stays fast when the input has died away (no denormals)', () => {
    const silence = new Float32Array(rate * 4)
    silence.set(riff.slice(0, 4800))
    const { left } = throughEngine(plan(pit, 'lullaby'), silence, () => 128)
    expect(left.slice(-4800).every((y) => y === 0 || Math.abs(y) > 1e-300)).toBe(true)
  })
})

describe('a stage that fails', () => {
  it('is mute in its lane, told once, while the other lane goes on; with nobody to be told the failure goes to the caller', () => {
    const model = modelOf('utility.width')
    const build = model.build.bind(model)
    const spy = vi.spyOn(model, 'build').mockImplementation((of) =>
      Object.assign(build(of), {
        process: () => {
          throw new RangeError('unreachable')
        },
      }),
    )
    const lanes = [createLane('a', [createStage('w', 'utility.width')]), createLane('b', [])]
    const chain: ChainNode[] = [{ kind: 'parallel', id: 'p', lanes }]
    const p = { chain, values: resolveValues({ ...blankPreset('x'), chain }, null) }
    const run = (failed?: (stage: string, error: unknown) => void) => {
      const left = new Float32Array(640).fill(0.5)
      new Engine(p, { ...context, ...(failed ? { failed } : {}) }, rate).process(left, new Float32Array(640), 640)
      return left
    }
    const told: string[] = []
    const out = run((stage, error) => told.push(`${stage}: ${String(error)}`))
    expect(told).toEqual(['w: RangeError: unreachable'])
    expect(Math.max(...out)).toBeCloseTo(0.5, 5)
    expect(() => run()).toThrow('unreachable')
    spy.mockRestore()
  })
})

describe('parallel lanes', () => {
  const lane = (id: string, level: number, pan: number, nodes: ChainNode[], polarity = 'normal') =>
    createLane(id, nodes, { level, pan, polarity })
  const split = (...lanes: ReturnType<typeof lane>[]): Preset => ({ ...blankPreset('x'), chain: [{ kind: 'parallel', id: 'p', lanes }] })
  const run = (preset: Preset) => renderPreset({ preset, snapshot: null, dry: riff.slice(0, 9600), sampleRate: rate }, context)

  it('sum to the input when two empty lanes stand at −6.02 dB', () => {
    const { left } = run(split(lane('a', -6.0206, 0, []), lane('b', -6.0206, 0, [])))
    left.forEach((y, n) => expect(y).toBeCloseTo(riff[n], 6))
  })

  it('cancel when one is inverted, also with different latencies that are made up for', () => {
    const empty = run(split(lane('a', 0, 0, []), lane('b', 0, 0, [], 'inverted')))
    expect(Math.max(...empty.left.map(Math.abs))).toBeLessThan(1e-9)
    const bypassed = { ...createStage('amp', 'amp.lantern'), on: false }
    const compensated = run(split(lane('a', 0, 0, [bypassed]), lane('b', 0, 0, [], 'inverted')))
    expect(Math.max(...compensated.left.map(Math.abs))).toBeLessThan(1e-9)
  })

  it('pan hard to one side', () => {
    const { left, right } = run(split(lane('a', 0, -100, []), lane('b', -60, 100, [])))
    expect(Math.max(...left.map(Math.abs))).toBeGreaterThan(500 * Math.max(...right.map(Math.abs)))
  })
})

describe('parallel lanes, live and offline', () => {
  const amps: Preset = {
    ...pit,
    chain: [
      createStage('gate', 'gate', { key: 'dry' }),
      {
        kind: 'parallel',
        id: 'p',
        lanes: [
          createLane('a', [createStage('left', 'amp.bellbuoy')], { pan: -100, level: -3 }),
          createLane(
            'b',
            [
              createStage('boost', 'drive.clean-boost'),
              {
                kind: 'parallel',
                id: 'q',
                lanes: [
                  createLane('c', [createStage('right', 'amp.riptide')]),
                  createLane('d', [createStage('octave', 'pitch.octave-down')]),
                ],
              },
            ],
            { pan: 100, delay: 12 },
          ),
        ],
      },
      createStage('plate', 'reverb.plate'),
    ],
    snapshots: [{ id: 's', name: 'S', stages: { b: { params: { level: -6 } }, c: { on: false } } }],
  }

  it('give the same samples two deep, with side-chain, strips and snapshots', () => {
    const offline = renderPreset({ preset: amps, snapshot: 's', dry: riff.slice(0, 24_000), sampleRate: rate }, context)
    const live = throughEngine(plan(amps, 's'), riff.slice(0, 24_000), () => 192)
    expect(firstDifference(offline.left, live.left)).toBe(-1)
    expect(firstDifference(offline.right, live.right)).toBe(-1)
  })

  it('mute a lane without a click, and a snapshot moves its level', () => {
    const tone = Float32Array.from({ length: 19_200 }, (_, n) => 0.3 * Math.sin((2 * Math.PI * 220 * n) / rate))
    const preset: Preset = {
      ...blankPreset('x'),
      chain: [{ kind: 'parallel', id: 'p', lanes: [createLane('a', [], { level: -6 }), createLane('b', [], { level: -6 })] }],
    }
    const muted = applyEdit(preset, { type: 'setOn', stage: 'b', snapshot: null, on: false })
    const { left } = throughEngine(plan(preset, null), tone, () => 128, { at: 9600, values: resolveValues(muted, null) })
    const step = (from: number, to: number) => {
      let most = 0
      for (let n = from + 1; n < to; n++) most = Math.max(most, Math.abs(left[n] - left[n - 1]))
      return most
    }
    expect(step(9600, 12_000)).toBeLessThan(1.05 * step(4800, 9600))
    expect(Math.max(...left.slice(14_400)) / Math.max(...left.slice(4800, 9600))).toBeCloseTo(0.5, 2)
  })
})

describe('renderer', () => {
  it('renders only from the changed stage on', () => {
    const renderer = new Renderer(context)
    const job = { preset: pit, snapshot: 'storm', dryKey: 'r', dry: riff, sampleRate: rate }
    const first = [...renderer.render(job)]
    const changed = {
      ...pit,
      chain: pit.chain.map((n) => (n.kind === 'stage' && n.id === 'eq' ? { ...n, params: { ...n.params, gain3: 5 } } : n)),
    }
    const second = [...renderer.render({ ...job, preset: changed })]
    const same = first.map((tap, i) => tap.sound === second[i].sound)
    expect(first.map((t) => t.stage)).toEqual(['gate', 'drive', 'amp', 'cab', 'eq', 'delay', 'hall', 'out'])
    expect(same).toEqual([true, true, true, true, false, false, false, false])
  })

  it('says that a level turns a sound that is known, and makes its samples only when they are asked for', () => {
    const renderer = new Renderer(context)
    const at = (out: number) => {
      const preset = applyEdit(pit, { type: 'setParam', stage: 'out', snapshot: 'storm', param: 'level', value: out })
      const taps = [...renderer.render({ preset, snapshot: 'storm', dryKey: 'r', dry: riff, sampleRate: rate })]
      return { before: taps[taps.length - 2].sound, sound: taps[taps.length - 1].sound }
    }
    const [soft, loud] = [at(-12), at(3)]
    expect(loud.before).toBe(soft.before)
    expect(loud.sound.scaled?.of).toBe(soft.before)
    expect(loud.sound.scaled?.gain).toBeCloseTo(Math.pow(10, 3 / 20), 12)
    expect((loud.sound as unknown as { made: unknown }).made).toBeNull()
    // the samples are those of the runner
    const { left } = throughEngine(
      plan(applyEdit(pit, { type: 'setParam', stage: 'out', snapshot: 'storm', param: 'level', value: 3 }), 'storm'),
      riff,
      () => 128,
    )
    expect(firstDifference(loud.sound.left, left)).toBe(-1)
    // one that is off passes what it gets by rules of its own
    const off = applyEdit(pit, { type: 'setOn', stage: 'out', on: false, snapshot: 'storm' })
    const taps = [...renderer.render({ preset: off, snapshot: 'storm', dryKey: 'r', dry: riff, sampleRate: rate })]
    expect(taps[taps.length - 1].sound.scaled).toBeUndefined()
  })

  it('knows a structural change from a change of values', () => {
    expect(sameStructure(plan(pit, 'storm'), plan(pit, 'chase'))).toBe(true)
    expect(sameStructure(plan(pit, null), plan({ ...pit, chain: pit.chain.slice(1) }, null))).toBe(false)
  })
})

describe('renderers of several threads', () => {
  const job = { preset: pit, snapshot: 'storm', dryKey: 'r', dry: riff.slice(0, 9_600), sampleRate: rate }

  it('name alike what is made alike, and only that', () => {
    const names = (of: typeof job, quality: 'live' | 'high' = 'live') =>
      [...new Renderer({ ...context, quality }).render(of)].map((tap) => tap.key)
    const first = names(job)
    expect(new Set(first).size).toBe(first.length)
    expect(names(job)).toEqual(first)
    const louder = applyEdit(pit, { type: 'setParam', stage: 'eq', snapshot: null, param: 'gain3', value: 5 })
    const other = names({ ...job, preset: louder })
    expect(first.map((key, k) => key === other[k])).toEqual([true, true, true, true, false, false, false, false])
    for (const all of [names({ ...job, dryKey: 's' }), names(job, 'high')]) expect(all.some((key) => first.includes(key))).toBe(false)
  })

  it('find what another one has made of the same, and tell what they make', () => {
    const laid = new Map<string, Sound>()
    const rooms: number[] = []
    const shared: SharedTaps = {
      find: (key) => laid.get(key),
      made: (key, sound) => laid.set(key, sound),
      gone: () => undefined,
      passing: () => undefined,
      room: (frames) => {
        rooms.push(frames)
        return new Float32Array(frames)
      },
    }
    const [one, two] = [new Renderer(context, 320e6, shared), new Renderer(context, 320e6, shared)]
    const first = [...one.render(job)]
    const made = rooms.length
    expect(made).toBeGreaterThanOrEqual(7)
    const again = [...two.render(job)]
    expect(rooms.length).toBe(made)
    // the output turns what the other one has laid down
    again.slice(0, -1).forEach((tap, k) => expect(tap.sound).toBe(first[k].sound))
    expect(again[7].sound.scaled?.of).toBe(first[6].sound)
    // what passes by is laid down for nobody
    const before = laid.size
    for (const tap of two.render({ ...job, dryKey: 'passes', passing: new Set(['gate']) })) expect(tap.sound.left.length).toBe(9_600)
    expect(laid.size).toBe(before)
  })

  it('tell what they keep no longer, and forget what another one wants back', () => {
    const laid = new Map<string, Sound>()
    const gone: string[] = []
    const passing: Sound[] = []
    const shared: SharedTaps = {
      find: (key) => laid.get(key),
      made: (key, sound) => void laid.set(key, sound),
      gone: (key) => void gone.push(key),
      passing: (sound) => void passing.push(sound),
      room: (frames) => new Float32Array(frames),
    }
    // little more than one rendering has room
    const small = new Renderer(context, 500_000, shared)
    const first = [...small.render(job)]
    expect(gone).toEqual([])
    for (const name of ['s', 't']) for (const tap of small.render({ ...job, dryKey: name })) expect(tap.sound.left.length).toBe(9_600)
    expect(gone.slice(0, 3)).toEqual(first.slice(0, 3).map((tap) => tap.key))
    // a level has no samples of its own, and goes with what it turns
    expect(first[7].sound.scaled?.of).toBe(first[6].sound)
    expect(gone).not.toContain(first[7].key)

    const [one, two] = [new Renderer(context, 320e6, shared), new Renderer(context, 320e6, shared)]
    const made = [...one.render({ ...job, dryKey: 'u' })]
    const found = [...two.render({ ...job, dryKey: 'u' })]
    expect(found[6].sound).toBe(made[6].sound)
    laid.clear()
    two.forget(made[6].key, made[5].sound)
    expect([...two.render({ ...job, dryKey: 'u' })][6].sound).toBe(made[6].sound)
    two.forget(made[6].key, made[6].sound)
    const anew = [...two.render({ ...job, dryKey: 'u' })]
    expect(anew[5].sound).toBe(made[5].sound)
    expect(anew[6].sound).not.toBe(made[6].sound)
    expect(anew[7].sound.scaled?.of).toBe(anew[6].sound)

    expect(passing).toEqual([])
    const louder = applyEdit(pit, { type: 'setParam', stage: 'eq', snapshot: null, param: 'gain3', value: 5 })
    const passed = [...two.render({ ...job, dryKey: 'u', preset: louder, passing: new Set(['eq']) })].filter(({ sound }) => !sound.scaled)
    const since = passed.slice(passed.findIndex(({ stage }) => stage === 'eq'))
    expect(since.length).toBeGreaterThan(1)
    expect(since.map(({ sound }, k) => sound === passing[k])).toEqual(passing.map(() => true))
  })

  it('write every sample of a sound, whatever stood in its room', () => {
    const clean = [...new Renderer(context).render(job)]
    const shared: SharedTaps = {
      find: () => undefined,
      made: () => undefined,
      gone: () => undefined,
      passing: () => undefined,
      room: (frames) => new Float32Array(frames).fill(7),
    }
    const used = [...new Renderer(context, 320e6, shared).render(job)]
    for (const [k, { sound }] of used.entries()) {
      expect(sound.left).toEqual(clean[k].sound.left)
      expect(sound.right).toEqual(clean[k].sound.right)
    }
  })
})
