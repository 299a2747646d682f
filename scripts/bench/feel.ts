/**
 * Is the guitar believable? Figures of riffs, gain laws, silence, decays and microphones as plain tables: `feel [PART …]`.
 */
import { micResponse, responseLibrary } from '@fulgor/core/cabinet'
import { catalogue, defaultMic, modelOf } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import { averageSpectrum, bandPower, centroid, loudness, thirdOctaves } from '@fulgor/core/measure'
import { GUITARS, type GuitarProfile } from '@fulgor/core/guitar'
import { blankPreset, createStage, handOf, resolveValues, type ChainNode, type ParamMap } from '@fulgor/core/preset'
import { Engine, renderPreset, stageFeel } from '@fulgor/core/render'
import { shippedRiffs, STROKE_DB, synthesiseRiff } from '@fulgor/core/riffs'

const RATE = 48_000
const context = { quality: 'live' as const, responses: responseLibrary(RATE) }
const db = (power: number) => 10 * Math.log10(power + 1e-20)
const cell = (value: number | null | undefined, places = 0, width = 7) =>
  (value === null || value === undefined || !Number.isFinite(value) ? '–' : value.toFixed(places).replace('-', '−')).padStart(width)
const title = (text: string) => console.log(`\n${text}\n${'-'.repeat(text.length)}`)

const through = (chain: readonly ChainNode[], dry: Float32Array) => {
  const { left, right } = renderPreset({ preset: { ...blankPreset('feel'), chain }, snapshot: null, dry, sampleRate: RATE }, context)
  return left === right ? [left] : [left, right]
}
const scaled = (x: Float32Array, gainDb: number) => x.map((v) => v * Math.pow(10, gainDb / 20))
const spectrumOf = (x: ArrayLike<number>) => averageSpectrum([Float32Array.from(x)], RATE)
const band = (x: Float32Array, low: number, high: number) => db(bandPower(spectrumOf(x), low, high))
const crest = (x: Float32Array) => db(x.reduce((m, y) => Math.max(m, y * y), 0)) - db(x.reduce((s, y) => s + y * y, 0) / x.length)

/** Slope of the third octaves from 100 Hz to 4 kHz by least squares, dB per octave. */
function tilt(x: ArrayLike<number>): number {
  const bands = thirdOctaves(spectrumOf(x)).filter((b) => b.hz >= 100 && b.hz <= 4000)
  const points = bands.map((b) => [Math.log2(b.hz), b.db ?? -140])
  const mean = (i: number) => points.reduce((s, p) => s + p[i], 0) / points.length
  const [mx, my] = [mean(0), mean(1)]
  return points.reduce((s, p) => s + (p[0] - mx) * (p[1] - my), 0) / points.reduce((s, p) => s + (p[0] - mx) ** 2, 0)
}

const parts: Record<string, () => void> = { riffs, rigs, laws, spread, silence, decay, demo, mics }

function riffs(): void {
  title('Dry riffs, hard: third octaves dBFS, tilt 100 Hz–4 kHz in dB per octave, loudest band, centroid')
  const at = [80, 200, 400, 800, 1600, 3150, 5000]
  console.log(`${''.padEnd(30)}${at.map((hz) => String(hz).padStart(7)).join('')}   tilt    peak  centr`)
  for (const { id } of shippedRiffs) {
    const x = synthesiseRiff(id, 'hard', 96, RATE)
    const bands = thirdOctaves(spectrumOf(x))
    const loudest = bands.reduce((a, b) => ((b.db ?? -200) > (a.db ?? -200) ? b : a))
    console.log(
      `${id.padEnd(30)}${at.map((hz) => cell(bands.find((b) => b.hz === hz)?.db)).join('')}${cell(tilt(x), 1)}${cell(loudest.hz)}${cell(centroid(spectrumOf(x)))}`,
    )
  }
}

const ampChains = (): [string, ParamMap, string][] =>
  catalogue
    .filter((m) => m.family === 'amp')
    .flatMap((m): [string, ParamMap, string][] => {
      const channel = m.params.channel
      if (channel?.kind !== 'choice') return [[m.id, {}, m.id]]
      return channel.options.map((o) => [m.id, { channel: o.value }, `${m.id} ${o.value}`])
    })

function rigs(): void {
  title('After amp at its defaults and closed 4×12: 100–400 Hz over 1.6–4 kHz, dB; after the amp alone: 5–7 kHz over 440 Hz')
  const chords = ['open-chords', 'palm-muted', 'sixteenth-strum', 'stabs', 'low-riff'].filter((id) => shippedRiffs.some((r) => r.id === id))
  console.log(`${''.padEnd(26)}${chords.map((c) => c.slice(0, 12).padStart(13)).join('')}   bright`)
  for (const [model, params, name] of ampChains()) {
    const figures = chords.map((id) => {
      const dry = synthesiseRiff(id, 'hard', 96, RATE).slice(0, 5 * RATE)
      const [out] = through([createStage('a', model, params), createStage('c', 'cabinet', { response: 'closed-4x12-coil' })], dry)
      return band(out, 100, 400) - band(out, 1600, 4000)
    })
    const gain = (hz: number) => {
      const x = Float32Array.from({ length: RATE / 2 }, (_, n) => 1e-4 * Math.sin((2 * Math.PI * hz * n) / RATE))
      const [out] = through([createStage('a', model, params)], x)
      return db(out.slice(RATE / 4).reduce((s, y) => s + y * y, 0) / (RATE / 4))
    }
    console.log(`${name.padEnd(26)}${figures.map((f) => cell(f, 1, 13)).join('')}${cell(gain(6000) - gain(440), 1, 9)}`)
  }
}

/** Peak of a hard strum of a shipped guitar, dBFS. */
const hardest = (guitar: GuitarProfile): number => guitar.positions[0].hard.peakDbfs

/** The softest stroke of each of the four guitars that reaches a level: s, n, h, or – where none does. */
const strokes = (db: number | null): string =>
  GUITARS.map((guitar) => {
    const over = (db ?? 99) - hardest(guitar)
    return over <= STROKE_DB.soft ? 's' : over <= STROKE_DB.normal ? 'n' : over <= STROKE_DB.hard ? 'h' : '–'
  }).join('')

const DRIVE_KNOBS = ['gain', 'fuzz', 'sustain', 'boost']

const MARKS = [0, 2, 4, 6, 8, 10]

function laws(): void {
  title(
    'Gain laws: knob 0–10; output at −40 dBFS in (dB gain), edges at 1 and 10 % THD (220 Hz, dBFS), dynamics soft to hard (LU), crest (dB)',
  )
  const soft = synthesiseRiff('open-chords', 'soft', 96, RATE).slice(0, 3 * RATE)
  const hard = synthesiseRiff('open-chords', 'hard', 96, RATE).slice(0, 3 * RATE)
  const models: [string, ParamMap, string][] = [
    ...ampChains(),
    ...catalogue.filter((m) => m.family === 'drive' && !m.linear).map((m): [string, ParamMap, string] => [m.id, {}, m.id]),
  ]
  console.log(`${''.padEnd(26)}   knob    gain      1%     10%    dyn   crest   LUFS  1% 10% in strokes`)
  for (const [model, params, name] of models) {
    const key = DRIVE_KNOBS.find((k) => k in modelOf(model).params) ?? 'gain'
    for (const value of MARKS) {
      const stage = createStage('a', model, { ...params, [key]: value })
      const feel = stageFeel(stage, context, RATE)
      const at40 = feel.outputDb[feel.inputDb.findIndex((x) => x >= -39)] + 39 + 3.01
      const [quiet, loud] = [soft, hard].map((dry) => through([stage], scaled(dry, -4)))
      const [q, l] = [quiet, loud].map((x) => loudness(x, RATE).integratedLufs ?? -100)
      console.log(
        `${(value === 0 ? name : '').padEnd(26)}${cell(value)}${cell(at40, 1, 8)}${cell(feel.edges[0].inputDb, 0, 8)}${cell(feel.edges[2].inputDb, 0, 8)}${cell(l - q, 1)}${cell(crest(loud[0]), 1, 8)}${cell(l, 1)}  ${strokes(feel.edges[0].inputDb)} ${strokes(feel.edges[2].inputDb)}`,
      )
    }
  }
}

function spread(): void {
  title('Loudness of every amp at its defaults on the four guitars, hard open chords, LUFS after closed 4×12')
  const hard = synthesiseRiff('open-chords', 'hard', 96, RATE).slice(0, 3 * RATE)
  const all: number[][] = GUITARS.map(() => [])
  for (const [model, params, name] of ampChains()) {
    const row = GUITARS.map((g, i) => {
      const out = through(
        [createStage('a', model, params), createStage('c', 'cabinet', { response: 'closed-4x12-coil' })],
        scaled(hard, hardest(g) + 7),
      )
      const lufs = loudness(out, RATE).integratedLufs ?? -100
      all[i].push(lufs)
      return lufs
    })
    console.log(`${name.padEnd(26)}${row.map((f) => cell(f, 1, 9)).join('')}`)
  }
  console.log(`${'spread, LU'.padEnd(26)}${all.map((a) => cell(Math.max(...a) - Math.min(...a), 1, 9)).join('')}`)
}

function silence(): void {
  title('Cost of silence: ms for 4 s of sound, and for 4 s of zeros 6 s behind it')
  const riff = synthesiseRiff('open-chords', 'hard', 96, RATE)
  for (const model of catalogue.filter((m) => m.id !== 'lane')) {
    const chain = [createStage('a', model.id)]
    const engine = new Engine({ chain, values: resolveValues({ ...blankPreset('s'), chain }, null) }, context, RATE)
    const run = (seconds: number, feed: (n: number) => number) => {
      const left = new Float32Array(128)
      const right = new Float32Array(128)
      const start = performance.now()
      for (let at = 0; at < seconds * RATE; at += 128) {
        for (let i = 0; i < 128; i++) left[i] = feed(at + i)
        engine.process(left, right, 128)
      }
      return performance.now() - start
    }
    run(1, (n) => riff[n % riff.length])
    const sound = run(4, (n) => riff[n % riff.length])
    run(6, () => 0)
    const quiet = run(4, () => 0)
    console.log(`${model.id.padEnd(26)}${cell(sound, 0, 8)}${cell(quiet, 0, 8)}${cell(quiet / sound, 2, 8)}`)
  }
}

/** Schroeder, JASA 1965; RT60 from −5 to −35 dB (ISO 3382), of the band 500 Hz–2 kHz. */
function decay(): void {
  title('Reverbs: measured decay over the set one, 500 Hz–2 kHz, at 0.6, 2 and 6 s')
  for (const id of catalogue.filter((m) => m.family === 'reverb').map((m) => m.id)) {
    const spec = modelOf(id).params.decay
    const row = [0.6, 2, 6].map((seconds) => {
      if (spec.kind !== 'number' || seconds > spec.max || seconds < spec.min) return null
      const frames = Math.round(RATE * Math.min(9, seconds * 1.3 + 0.3))
      const x = new Float32Array(frames)
      x[100] = 1
      const eq = createStage('e', 'eq.parametric', { lowCut: 500, lowSlope: '24', highCut: 2000, highSlope: '24' })
      const params = { preDelay: 0, decay: seconds, lowCut: 20, highCut: 20_000, mix: 100 }
      const out = through([createStage('r', id, params), eq], x)
      const integral = new Float32Array(frames + 1)
      for (let n = frames - 1; n >= 0; n--) integral[n] = integral[n + 1] + out.reduce((s, c) => s + c[n] ** 2, 0)
      const time = (level: number) => integral.findIndex((e) => db(e / integral[0]) < level) / RATE
      return (2 * (time(-35) - time(-5))) / seconds
    })
    console.log(`${id.padEnd(26)}${row.map((f) => cell(f, 2, 9)).join('')}`)
  }
}

function demo(): void {
  title('Demo presets, every snapshot: LUFS, 100–400 Hz over 1.6–4 kHz, tilt, centroid')
  for (const { preset } of demoPresets)
    for (const { id, name } of preset.snapshots) {
      const riff = preset.snapshots.find((s) => s.id === id)?.riff ?? preset.riff
      const dry = scaled(synthesiseRiff(riff.id, riff.strength, preset.tempo, RATE), handOf(preset, id).pickup.hard.peakDbfs + 7)
      const { left, right } = renderPreset({ preset, snapshot: id, dry, sampleRate: RATE }, context)
      const lufs = loudness(left === right ? [left] : [left, right], RATE).integratedLufs
      console.log(
        `${`${preset.name}, ${name}`.padEnd(44)}${cell(lufs, 1)}${cell(band(left, 100, 400) - band(left, 1600, 4000), 1)}${cell(tilt(left), 1)}${cell(centroid(spectrumOf(left)))}`,
      )
    }
}

function mics(): void {
  title('Moving coil before the bright 12 inch driver at 25 mm: dB against the place on axis, by mm off and by angle')
  const cab = { driver: 'bright', size: '12', drivers: '1', back: 'closed' } as const
  const at = [1000, 2000, 3150, 4000, 5000, 8000, 12000]
  const response = (offset: number, angle: number, hz: number) => {
    const { kind: _kind, ...place } = defaultMic('coil') as { kind: 'mic' } & Parameters<typeof micResponse>[1]
    const taps = micResponse(cab, { ...place, offset, distance: 25, angle, reflections: 0, room: 0 }, RATE, 2048)
    // a third of an octave, so that single notches do not mislead
    let power = 0
    for (let k = -6; k <= 6; k++) {
      const f = hz * Math.pow(2, k / 36)
      let re = 0
      let im = 0
      taps.forEach((h, n) => {
        re += h * Math.cos((2 * Math.PI * f * n) / RATE)
        im -= h * Math.sin((2 * Math.PI * f * n) / RATE)
      })
      power += re * re + im * im
    }
    return db(power / 13)
  }
  console.log(`${''.padEnd(26)}${at.map((hz) => String(hz).padStart(8)).join('')}`)
  for (const [offset, angle] of [
    [0, 45],
    [20, 0],
    [40, 0],
    [60, 0],
    [80, 0],
    [120, 0],
  ])
    console.log(
      `${`${offset} mm, ${angle}°`.padEnd(26)}${at.map((hz) => cell(response(offset, angle, hz) - response(0, 0, hz), 1, 8)).join('')}`,
    )
}

const wanted = process.argv.slice(2)
for (const [name, part] of Object.entries(parts)) if (wanted.length === 0 || wanted.includes(name)) part()
