import { TubeAmp, type AmpChannel, type ParamValue, type TubeAmpDesign, type ToneStackParts } from '@fulgor/core/signal'
import { inertIf, stage, type StageModel } from './model'
import { choice, db, knob, onOff, percent, type ParamSpecs } from './params'

type Values = Readonly<Record<string, ParamValue>>

/** The knobs that an amp has, over those that all have. */
interface Front {
  readonly gain: string
  readonly knobs: readonly ('bass' | 'mid' | 'treble' | 'tone' | 'presence' | 'cut' | 'master')[]
  readonly bright?: 'off' | 'on'
  readonly channels?: readonly (readonly [id: string, name: string])[]
  readonly initial?: Readonly<Record<string, number>>
  readonly valves: 'large' | 'small'
  readonly sag?: number
}

const KNOBS = {
  bass: { label: 'Bass' },
  mid: { label: 'Mid' },
  treble: { label: 'Treble', short: 'treb' },
  tone: { label: 'Tone' },
  presence: { label: 'Presence', short: 'pres' },
  cut: { label: 'Cut' },
  master: { label: 'Master', short: 'mstr' },
}

function amp(entry: { id: string; name: string; purpose: string; substitute: string; front: Front }, design: TubeAmpDesign): StageModel {
  const { front, ...words } = entry
  const initial = (key: string, value: number) => front.initial?.[key] ?? value
  const params: ParamSpecs = {
    ...(front.channels
      ? { channel: choice({ label: 'Channel', short: 'ch', options: front.channels, initial: front.channels[0][0] }) }
      : {}),
    gain: knob({ label: front.gain, short: front.gain === 'Volume' ? 'vol' : 'gain', initial: initial('gain', 4) }),
    ...Object.fromEntries(front.knobs.map((key) => [key, knob({ ...KNOBS[key], initial: initial(key, key === 'cut' ? 4 : 5) })])),
    ...(front.bright ? { bright: onOff({ label: 'Bright', initial: front.bright }) } : {}),
    valves: choice({
      label: 'Valves',
      short: 'valves',
      options: [
        ['large', 'Large, scooped'],
        ['small', 'Small, mid-forward'],
      ],
      initial: front.valves,
    }),
    power: db({ label: 'Power below full', short: 'pwr', min: 0, max: 20, initial: 0 }),
    sag: percent({ label: 'Sag', initial: front.sag ?? 30 }),
  }
  return stage({
    ...words,
    family: 'amp',
    charts: ['response', 'feel'],
    linear: false,
    headline: ['gain', front.knobs.includes('mid') ? 'mid' : front.knobs.includes('tone') ? 'tone' : 'treble'],
    params,
    ...(front.bright === undefined
      ? {}
      : {
          inert: (values: Values) =>
            inertIf(
              Number(values.gain) >= 9.5,
              ['bright'],
              'The capacitor bridges the volume pot; turned up full there is nothing left to bridge.',
            ),
        }),
    build: ({ quality }) => new TubeAmp(design, quality),
  })
}

/** Component values in kΩ, pF, nF, nF. */
const parts = (r1: number, r2: number, r3: number, r4: number, c1: number, c2: number, c3: number): ToneStackParts => ({
  r1: r1 * 1e3,
  r2: r2 * 1e3,
  r3: r3 * 1e3,
  r4: r4 * 1e3,
  c1: c1 * 1e-12,
  c2: c2 * 1e-9,
  c3: c3 * 1e-9,
})
const one = (channel: AmpChannel) => ({ only: channel })

const pier = amp(
  {
    id: 'amp.pier',
    name: 'Pier 85',
    purpose: 'High headroom and a deep clean: stays clear under drives and loud picking.',
    substitute: 'A large clean amp with negative feedback; set it where a hard strum only just compresses.',
    front: { gain: 'Volume', knobs: ['bass', 'mid', 'treble', 'presence', 'master'], bright: 'off', valves: 'large', sag: 10 },
  },
  {
    bright: { hz: 2_000, db: 9 },
    channels: one({
      stages: [
        { gain: 1.1, bias: 0.06, couplingHz: 18, millerHz: 15_000 },
        { gain: 9, bias: -0.1, couplingHz: 18, millerHz: 14_000 },
      ],
      gainBefore: 1,
      toneBefore: 2,
      powerGain: 66,
      outputDb: 15,
    }),
    toneStack: { kind: 'three-knob', parts: parts(250, 250, 10, 100, 250, 100, 47) },
    power: { feedback: 0.75, bias: 0.01, presenceDb: 7, presenceHz: 3_400, sagDepth: 0.2, sagTimes: [0.03, 0.12] },
  },
)

const estuary = amp(
  {
    id: 'amp.estuary',
    name: 'Estuary 40',
    purpose: 'A scooped clean with springy lows, and a second channel that grinds when pushed.',
    substitute: 'A two-channel amp with scooped mids; for the grind channel the closest mild overdrive channel.',
    front: {
      gain: 'Volume',
      knobs: ['bass', 'mid', 'treble', 'presence', 'master'],
      bright: 'on',
      channels: [
        ['clean', 'Clean'],
        ['grind', 'Grind'],
      ],
      initial: { master: 6 },
      valves: 'large',
      sag: 20,
    },
  },
  {
    bright: { hz: 1_500, db: 10 },
    channels: {
      clean: {
        stages: [
          { gain: 1.8, bias: 0.1, couplingHz: 30, millerHz: 12_000 },
          { gain: 14, bias: -0.15, couplingHz: 30, millerHz: 12_000 },
        ],
        gainBefore: 1,
        toneBefore: 1,
        powerGain: 30,
        outputDb: 6,
      },
      grind: {
        stages: [
          { gain: 2.4, bias: 0.15, couplingHz: 60, millerHz: 11_000 },
          { gain: 60, bias: -0.25, couplingHz: 70, millerHz: 9_000 },
          { gain: 8, bias: 0.2, couplingHz: 50, millerHz: 9_000 },
        ],
        gainBefore: 1,
        toneBefore: 3,
        powerGain: 12,
        outputDb: 1.5,
      },
    },
    toneStack: { kind: 'three-knob', parts: parts(250, 250, 6.8, 100, 120, 100, 47) },
    power: { feedback: 0.5, bias: 0.02, presenceDb: 6, presenceHz: 3_000, sagDepth: 0.35, sagTimes: [0.02, 0.15] },
  },
)

const lantern = amp(
  {
    id: 'amp.lantern',
    name: 'Lantern 15',
    purpose: 'A small two-stage valve amp: clean and springy when turned down, early and mid-forward breakup when turned up.',
    substitute: 'A low-wattage valve amp with three tone knobs and a master; match the gain at which a hard strum starts to break up.',
    front: { gain: 'Gain', knobs: ['bass', 'mid', 'treble', 'presence', 'master'], initial: { presence: 4 }, valves: 'small' },
  },
  {
    channels: one({
      stages: [
        { gain: 3.6, bias: 0.15, couplingHz: 70, millerHz: 9_000 },
        { gain: 50, bias: -0.3, couplingHz: 20, millerHz: 9_000 },
      ],
      gainBefore: 1,
      toneBefore: 2,
      powerGain: 19,
      outputDb: 3,
    }),
    toneStack: { kind: 'three-knob', parts: parts(250, 1_000, 25, 56, 250, 20, 20) },
    power: { feedback: 0, bias: 0.02, presenceDb: 10, presenceHz: 3_200, sagDepth: 0.5, sagTimes: [0.015, 0.15] },
  },
)

const skiff = amp(
  {
    id: 'amp.skiff',
    name: 'Skiff 5',
    purpose: 'Five watts, one tone knob, no master: raw and touch-sensitive, cleans up with the guitar’s volume.',
    substitute: 'A single-ended practice amp; turn it up and control it from the guitar.',
    front: { gain: 'Volume', knobs: ['tone'], initial: { gain: 5 }, valves: 'small', sag: 60 },
  },
  {
    inputHz: [40, 11_000],
    channels: one({
      stages: [
        { gain: 3, bias: 0.2, couplingHz: 55, millerHz: 9_000 },
        { gain: 11, bias: 0.3, couplingHz: 60, millerHz: 8_000 },
      ],
      gainBefore: 1,
      toneBefore: 1,
      powerGain: 3.2,
      outputDb: 6,
    }),
    toneStack: { kind: 'one-knob', source: 100e3, pot: 500e3, capacitor: 4.7e-9 },
    power: { feedback: 0, bias: 0.35, presenceDb: 1, presenceHz: 3_000, sagDepth: 0.55, sagTimes: [0.01, 0.2] },
  },
)

const bellbuoy = amp(
  {
    id: 'amp.bellbuoy',
    name: 'Bellbuoy 30',
    purpose: 'Chiming class A without negative feedback: bright, quick, with a soft slide into breakup.',
    substitute: 'A class-A amp with a cut knob; the cut works from the top down, more is darker.',
    front: {
      gain: 'Volume',
      knobs: ['bass', 'treble', 'cut', 'master'],
      bright: 'on',
      initial: { gain: 4.5, master: 7 },
      valves: 'small',
      sag: 40,
    },
  },
  {
    inputHz: [30, 16_000],
    bright: { hz: 1_800, db: 8 },
    channels: one({
      stages: [
        { gain: 3.2, bias: 0.12, couplingHz: 45, millerHz: 13_000 },
        { gain: 26, bias: 0.28, couplingHz: 40, millerHz: 13_000 },
      ],
      gainBefore: 1,
      toneBefore: 2,
      powerGain: 16,
      outputDb: 3,
    }),
    toneStack: { kind: 'two-knob', parts: parts(1_000, 1_000, 10, 100, 50, 22, 22), mid: 1 },
    power: { feedback: 0, bias: 0.08, presenceDb: 0, presenceHz: 3_000, sagDepth: 0.4, sagTimes: [0.012, 0.1] },
  },
)

const breakwater = amp(
  {
    id: 'amp.breakwater',
    name: 'Breakwater 45',
    purpose: 'Mid-forward crunch that opens up when the power stage works.',
    substitute: 'A mid-forward crunch amp without master, or its master at full; then lower its power.',
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'master'],
      bright: 'off',
      initial: { gain: 5, mid: 7, master: 7 },
      valves: 'large',
    },
  },
  {
    inputHz: [60, 13_000],
    bright: { hz: 1_200, db: 10 },
    channels: one({
      stages: [
        { gain: 3.4, bias: 0.2, couplingHz: 110, millerHz: 11_000 },
        { gain: 60, bias: -0.35, couplingHz: 60, millerHz: 10_000 },
        { gain: 2.2, bias: 0.1 },
      ],
      gainBefore: 1,
      toneBefore: 3,
      powerGain: 14,
      outputDb: -7,
    }),
    toneStack: { kind: 'three-knob', parts: parts(270, 1_000, 22, 47, 560, 22, 15) },
    power: { feedback: 0.35, bias: 0.03, presenceDb: 9, presenceHz: 2_800, sagDepth: 0.35, sagTimes: [0.018, 0.14] },
  },
)

const riptide = amp(
  {
    id: 'amp.riptide',
    name: 'Riptide 50',
    purpose: 'Crunch with two gain stages more: singing and aggressive, with the lows kept short before the clipping.',
    substitute: 'A hot-rodded crunch channel with a master; bass down before the gain, presence up.',
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'master'],
      bright: 'off',
      initial: { gain: 5.5, mid: 6, master: 4 },
      valves: 'large',
    },
  },
  {
    inputHz: [90, 12_000],
    bright: { hz: 1_600, db: 8 },
    channels: one({
      stages: [
        { gain: 4, bias: 0.25, couplingHz: 150, millerHz: 10_000 },
        { gain: 40, bias: -0.4, couplingHz: 110, millerHz: 9_000 },
        { gain: 9, bias: 0.3, couplingHz: 90, millerHz: 8_000, out: 1 },
        { gain: 5, bias: -0.15, couplingHz: 30, millerHz: 9_000 },
      ],
      gainBefore: 1,
      toneBefore: 4,
      powerGain: 12,
      outputDb: 2,
    }),
    toneStack: { kind: 'three-knob', parts: parts(220, 1_000, 25, 33, 470, 22, 22) },
    power: { feedback: 0.45, bias: 0.02, presenceDb: 10, presenceHz: 3_000, sagDepth: 0.25, sagTimes: [0.015, 0.12] },
  },
)

const ironwork = amp(
  {
    id: 'amp.ironwork',
    name: 'Ironwork 100',
    purpose: 'Tight modern high gain with three channels: palm mutes stop dead and the lows stay in line.',
    substitute: 'A modern high-gain amp; a low cut before the gain and a gate keyed from the guitar do the rest.',
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'master'],
      bright: 'off',
      channels: [
        ['lead', 'Lead'],
        ['rhythm', 'Rhythm'],
        ['clean', 'Clean'],
      ],
      initial: { gain: 5, master: 4 },
      valves: 'large',
      sag: 5,
    },
  },
  {
    inputHz: [80, 12_000],
    bright: { hz: 1_800, db: 6 },
    channels: {
      lead: {
        stages: [
          { gain: 4.5, bias: 0.2, couplingHz: 220, millerHz: 9_500 },
          { gain: 70, bias: -0.35, hardness: 0.3, couplingHz: 160, millerHz: 8_500 },
          { gain: 12, bias: 0.3, hardness: 0.3, couplingHz: 80, millerHz: 7_500 },
          { gain: 6, bias: -0.1, couplingHz: 25, millerHz: 8_500 },
        ],
        gainBefore: 1,
        toneBefore: 4,
        powerGain: 9,
        outputDb: 6,
      },
      rhythm: {
        stages: [
          { gain: 4, bias: 0.2, couplingHz: 200, millerHz: 10_000 },
          { gain: 40, bias: -0.3, hardness: 0.2, couplingHz: 140, millerHz: 9_000 },
          { gain: 5, bias: 0.2, couplingHz: 40, millerHz: 9_000 },
        ],
        gainBefore: 1,
        toneBefore: 3,
        powerGain: 9,
        outputDb: 7,
      },
      clean: {
        stages: [
          { gain: 1.6, bias: 0.08, couplingHz: 30, millerHz: 14_000 },
          { gain: 10, bias: -0.1, couplingHz: 25, millerHz: 13_000 },
        ],
        gainBefore: 1,
        toneBefore: 2,
        powerGain: 44,
        outputDb: 11,
      },
    },
    toneStack: { kind: 'three-knob', parts: parts(250, 1_000, 20, 39, 500, 20, 20) },
    power: { feedback: 0.85, bias: 0.005, presenceDb: 8, presenceHz: 3_600, sagDepth: 0.15, sagTimes: [0.02, 0.08] },
  },
)

const cormorant = amp(
  {
    id: 'amp.cormorant',
    name: 'Cormorant 50',
    purpose: 'A smooth lead voice: tone controls before the gain, a rounded top, long sustain.',
    substitute: 'A lead channel with the EQ before the gain; roll the treble off and push the mids.',
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'master'],
      initial: { gain: 6, bass: 4, mid: 6, presence: 3, master: 4 },
      valves: 'small',
      sag: 35,
    },
  },
  {
    inputHz: [50, 10_000],
    channels: one({
      stages: [
        { gain: 4.5, bias: 0.1, couplingHz: 90, millerHz: 8_500 },
        { gain: 220, bias: -0.2, couplingHz: 90, millerHz: 6_500 },
        { gain: 7, bias: 0.25, couplingHz: 60, millerHz: 5_500 },
        { gain: 3, bias: -0.1, couplingHz: 25, millerHz: 6_500, out: 0.1 },
      ],
      gainBefore: 1,
      toneBefore: 1,
      powerGain: 56,
      outputDb: 4,
    }),
    toneStack: { kind: 'three-knob', parts: parts(250, 250, 25, 100, 330, 68, 33) },
    power: { feedback: 0.5, bias: 0.02, presenceDb: 7, presenceHz: 2_600, sagDepth: 0.35, sagTimes: [0.02, 0.18] },
  },
)

const dredger = amp(
  {
    id: 'amp.dredger',
    name: 'Dredger 200',
    purpose: 'A bass-type amp for layers: full lows that stay clear under a guitar, and for octave lanes.',
    substitute: 'A bass amp with shelving tone controls; a low-passed copy of the guitar serves in a pinch.',
    front: { gain: 'Drive', knobs: ['bass', 'treble', 'master'], initial: { gain: 3, master: 5 }, valves: 'large', sag: 15 },
  },
  {
    inputHz: [12, 9_000],
    channels: one({
      stages: [
        { gain: 1.8, bias: 0.1, couplingHz: 10, millerHz: 8_000 },
        { gain: 24, bias: -0.2, couplingHz: 12, millerHz: 6_000 },
      ],
      gainBefore: 1,
      toneBefore: 2,
      powerGain: 16,
      outputDb: 13,
    }),
    toneStack: { kind: 'shelves', bassHz: 110, trebleHz: 2_400, range: 14 },
    power: { feedback: 0.7, bias: 0.01, presenceDb: 1, presenceHz: 4_000, sagDepth: 0.2, sagTimes: [0.03, 0.12] },
  },
)

export const amps: readonly StageModel[] = [pier, estuary, lantern, skiff, bellbuoy, breakwater, riptide, ironwork, cormorant, dredger]
