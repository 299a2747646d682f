import { TubeAmp, type AmpChannel, type PowerSection, type TubeAmpDesign, type ToneStackParts } from '@fulgor/core/signal'
import { inertIf, stage, type StageModel } from './model'
import { choice, db, knob, onOff, percent, type ChoiceSpec, type NumberSpec } from './params'

/** The knobs that an amp has, over those that all have. */
interface Front {
  readonly gain: string
  readonly knobs: readonly (keyof typeof KNOBS)[]
  /** A second input for hot guitars. */
  readonly lowInput?: true
  readonly bright?: 'off' | 'on'
  readonly channels?: readonly (readonly [id: string, name: string])[]
  readonly initial?: Readonly<Record<string, number>>
  readonly valves: PowerSection
  readonly sag?: number
}

const KNOBS = {
  bass: { label: 'Bass' },
  mid: { label: 'Mid' },
  treble: { label: 'Treble', short: 'treb' },
  tone: { label: 'Tone' },
  presence: { label: 'Presence', short: 'pres' },
  cut: { label: 'Cut' },
  depth: { label: 'Depth' },
  voice: { label: 'Mid voicing', short: 'voice' },
  master: { label: 'Master', short: 'mstr' },
}
/** Where knobs stand that do not stand in the middle. */
const INITIAL: Readonly<Record<string, number>> = { cut: 4, presence: 4, depth: 3 }

/** All that an amp may have; what a design lacks is not there. */
type AmpSpecs = Readonly<
  Record<'gain' | 'power' | 'sag' | keyof typeof KNOBS, NumberSpec> & {
    channel: ChoiceSpec
    input: ChoiceSpec<'high' | 'low'>
    bright: ChoiceSpec<'off' | 'on'>
    valves: ChoiceSpec<PowerSection>
  }
>

function amp(
  entry: { id: string; name: string; purpose: string; substitute: string; tags: string; cost: number; front: Front },
  design: TubeAmpDesign,
): StageModel {
  const { front, ...words } = entry
  const initial = (key: string, value: number) => front.initial?.[key] ?? value
  const params = {
    ...(front.channels
      ? { channel: choice({ label: 'Channel', short: 'ch', options: front.channels, initial: front.channels[0][0] }) }
      : {}),
    gain: knob({ label: front.gain, short: front.gain === 'Volume' ? 'vol' : 'gain', initial: initial('gain', 4) }),
    ...Object.fromEntries(front.knobs.map((key) => [key, knob({ ...KNOBS[key], initial: initial(key, INITIAL[key] ?? 5) })])),
    ...(front.lowInput
      ? {
          input: choice({
            label: 'Input',
            short: 'in',
            options: [
              ['high', 'High'],
              ['low', 'Low, half of the guitar'],
            ],
            initial: 'high',
            change: 'glide',
          }),
        }
      : {}),
    ...(front.bright ? { bright: onOff({ label: 'Bright', initial: front.bright }) } : {}),
    valves: choice({
      label: 'Valves',
      short: 'valves',
      options: [
        ['large', 'Large, scooped'],
        ['large-mid', 'Large, mid-forward'],
        ['chime', 'Small, chiming'],
        ['small', 'Small, early'],
      ],
      initial: front.valves,
    }),
    power: db({ label: 'Power below full', short: 'pwr', min: 0, max: 20, initial: 0, ...wattsOf(entry.name) }),
    sag: percent({ label: 'Sag', initial: front.sag ?? 40 }),
  } as AmpSpecs
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
          inert: ({ gain }: { gain: number }) =>
            inertIf(gain >= 9.5, ['bright'], 'The capacitor bridges the volume pot; turned up full there is nothing left to bridge.'),
        }),
    build: ({ quality }) => new TubeAmp(design, quality),
  })
}

/** The number in an amp's name is its power. */
const wattsOf = (name: string): { fullWatts?: number } => {
  const watts = /\d+$/.exec(name)?.[0]
  return watts === undefined ? {} : { fullWatts: Number(watts) }
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
    tags: 'american clean headroom pedal platform loud country scooped',
    cost: 37,
    front: {
      gain: 'Volume',
      knobs: ['bass', 'mid', 'treble', 'presence', 'depth', 'master'],
      lowInput: true,
      bright: 'off',
      initial: { gain: 5, mid: 6 },
      valves: 'large',
      sag: 25,
    },
  },
  {
    bright: { hz: 2_000, db: 6 },
    channels: one({
      stages: [
        { gain: 0.3, bias: 0.06, couplingHz: 18, millerHz: 9_000 },
        { gain: 20, bias: -0.1, couplingHz: 18, millerHz: 9_000, blocking: 0.2 },
      ],
      span: 30,
      gainBefore: 1,
      toneBefore: 2,
      powerGain: 20,
      outputDb: 34,
    }),
    toneStack: { kind: 'three-knob', parts: parts(250, 250, 25, 100, 250, 100, 47) },
    power: { feedback: 0.75, bias: 0.01, presenceDb: 7, presenceHz: 3_400, sagDepth: 0.5, sagTimes: [0.03, 0.16] },
  },
)

const estuary = amp(
  {
    id: 'amp.estuary',
    name: 'Estuary 40',
    purpose: 'A scooped clean with springy lows, and a second channel that grinds when pushed.',
    substitute: 'A two-channel amp with scooped mids; for the grind channel the closest mild overdrive channel.',
    tags: 'american clean scooped springy sparkle surf grind two channel',
    cost: 36,
    front: {
      gain: 'Volume',
      knobs: ['bass', 'mid', 'treble', 'presence', 'voice', 'master'],
      lowInput: true,
      bright: 'off',
      channels: [
        ['clean', 'Clean'],
        ['grind', 'Grind'],
      ],
      initial: { gain: 5, mid: 4.5, treble: 4.5, master: 6 },
      valves: 'large',
      sag: 35,
    },
  },
  {
    bright: { hz: 1_500, db: 7 },
    channels: {
      clean: {
        stages: [
          { gain: 0.3, bias: 0.08, couplingHz: 30, millerHz: 8_000 },
          { gain: 26, bias: -0.15, couplingHz: 30, millerHz: 8_000, blocking: 0.25 },
        ],
        span: 32,
        gainBefore: 1,
        toneBefore: 1,
        powerGain: 44,
        outputDb: 27.5,
      },
      grind: {
        stages: [
          { gain: 0.7, bias: 0.12, couplingHz: 60, millerHz: 9_000 },
          { gain: 60, bias: -0.25, couplingHz: 70, millerHz: 7_000, blocking: 0.35 },
          { gain: 6, bias: 0.2, couplingHz: 50, millerHz: 7_000 },
        ],
        span: 36,
        gainBefore: 1,
        toneBefore: 3,
        powerGain: 12,
        outputDb: 16,
      },
    },
    toneStack: { kind: 'three-knob', parts: parts(250, 250, 10, 100, 150, 100, 47) },
    voiceHz: 650,
    power: { feedback: 0.5, bias: 0.02, presenceDb: 6, presenceHz: 3_000, sagDepth: 0.6, sagTimes: [0.025, 0.18] },
  },
)

const lantern = amp(
  {
    id: 'amp.lantern',
    name: 'Lantern 15',
    purpose: 'A small two-stage valve amp: clean and springy when turned down, early and mid-forward breakup when turned up.',
    substitute: 'A low-wattage valve amp with three tone knobs and a master; match the gain at which a hard strum starts to break up.',
    tags: 'british edge breakup small valve blues crunch bedroom',
    cost: 31,
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'voice', 'master'],
      initial: { gain: 4, mid: 7, treble: 5 },
      valves: 'small',
    },
  },
  {
    channels: one({
      stages: [
        { gain: 0.5, bias: 0.12, couplingHz: 50, millerHz: 9_000 },
        { gain: 90, bias: -0.25, couplingHz: 20, millerHz: 9_000, blocking: 0.35 },
      ],
      span: 36,
      gainBefore: 1,
      toneBefore: 2,
      powerGain: 12,
      outputDb: 23.5,
    }),
    toneStack: { kind: 'three-knob', parts: parts(250, 1_000, 25, 56, 250, 20, 20) },
    voiceHz: 800,
    power: { feedback: 0, bias: 0.02, presenceDb: 10, presenceHz: 3_200, sagDepth: 0.85, sagTimes: [0.015, 0.18] },
  },
)

const skiff = amp(
  {
    id: 'amp.skiff',
    name: 'Skiff 5',
    purpose: 'Five watts, one tone knob, no master: raw and touch-sensitive, cleans up with the guitar’s volume.',
    substitute: 'A single-ended practice amp; turn it up and control it from the guitar.',
    tags: 'small early breakup valve bedroom blues raw low watt american',
    cost: 28,
    front: { gain: 'Volume', knobs: ['tone'], lowInput: true, initial: { gain: 5.5, tone: 8.5 }, valves: 'small', sag: 60 },
  },
  {
    inputHz: [40, 11_000],
    channels: one({
      stages: [
        { gain: 0.5, bias: 0.15, couplingHz: 130, millerHz: 9_500 },
        { gain: 28, bias: 0.3, couplingHz: 130, millerHz: 8_500, blocking: 0.4 },
      ],
      span: 34,
      gainBefore: 1,
      toneBefore: 1,
      powerGain: 2.6,
      outputDb: 19.5,
    }),
    toneStack: { kind: 'one-knob', source: 100e3, pot: 500e3, capacitor: 4.7e-9 },
    power: { feedback: 0, bias: 0.3, presenceDb: 1, presenceHz: 3_000, sagDepth: 0.9, sagTimes: [0.01, 0.22] },
  },
)

const bellbuoy = amp(
  {
    id: 'amp.bellbuoy',
    name: 'Bellbuoy 30',
    purpose: 'Chiming class A without negative feedback: bright, quick, with a soft slide into breakup.',
    substitute: 'A class-A amp with a cut knob; the cut works from the top down, more is darker.',
    tags: 'british chime jangle sparkle top boost indie bright edge',
    cost: 32,
    front: {
      gain: 'Volume',
      knobs: ['bass', 'treble', 'cut', 'master'],
      lowInput: true,
      bright: 'off',
      initial: { gain: 5, cut: 3, bass: 4.5, treble: 5.5, master: 7 },
      valves: 'chime',
      sag: 45,
    },
  },
  {
    inputHz: [30, 16_000],
    bright: { hz: 1_800, db: 7 },
    channels: one({
      stages: [
        { gain: 0.45, bias: 0.1, couplingHz: 40, millerHz: 12_000 },
        { gain: 64, bias: 0.24, couplingHz: 35, millerHz: 11_000, blocking: 0.25 },
      ],
      span: 34,
      gainBefore: 1,
      toneBefore: 2,
      powerGain: 10,
      outputDb: 22,
    }),
    toneStack: { kind: 'two-knob', parts: parts(1_000, 1_000, 10, 100, 50, 22, 22), mid: 1 },
    power: { feedback: 0, bias: 0.08, presenceDb: 0, presenceHz: 3_000, sagDepth: 0.8, sagTimes: [0.012, 0.12] },
  },
)

const breakwater = amp(
  {
    id: 'amp.breakwater',
    name: 'Breakwater 45',
    purpose: 'Mid-forward crunch that opens up when the power stage works.',
    substitute: 'A mid-forward crunch amp without master, or its master at full; then lower its power.',
    tags: 'british crunch rock loud edge classic roar',
    cost: 37,
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'depth', 'master'],
      lowInput: true,
      bright: 'off',
      initial: { gain: 5, mid: 7, master: 7 },
      valves: 'large-mid',
    },
  },
  {
    inputHz: [50, 13_000],
    bright: { hz: 1_200, db: 8 },
    channels: one({
      stages: [
        { gain: 0.6, bias: 0.15, couplingHz: 80, millerHz: 11_000 },
        { gain: 92, bias: -0.3, couplingHz: 50, millerHz: 10_000, blocking: 0.35 },
        { gain: 2.2, bias: 0.1 },
      ],
      span: 38,
      gainBefore: 1,
      toneBefore: 3,
      powerGain: 12,
      outputDb: 7,
    }),
    toneStack: { kind: 'three-knob', parts: parts(270, 1_000, 22, 47, 560, 22, 15) },
    power: { feedback: 0.35, bias: 0.03, presenceDb: 9, presenceHz: 2_800, sagDepth: 0.7, sagTimes: [0.02, 0.16] },
  },
)

const riptide = amp(
  {
    id: 'amp.riptide',
    name: 'Riptide 50',
    purpose: 'Crunch with two gain stages more: singing and aggressive, with the lows kept short before the clipping.',
    substitute: 'A hot-rodded crunch channel with a master; bass down before the gain, presence up.',
    tags: 'british gain rock lead hot rodded eighties crunch',
    cost: 45,
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'depth', 'voice', 'master'],
      bright: 'off',
      initial: { gain: 5.5, mid: 6, master: 4 },
      valves: 'large-mid',
    },
  },
  {
    inputHz: [80, 12_000],
    bright: { hz: 1_600, db: 6 },
    channels: one({
      stages: [
        { gain: 0.8, bias: 0.18, couplingHz: 130, millerHz: 10_000 },
        { gain: 40, bias: -0.4, couplingHz: 100, millerHz: 9_000, blocking: 0.3 },
        { gain: 9, bias: 0.3, couplingHz: 80, millerHz: 8_000, blocking: 0.3 },
        { gain: 3, bias: -0.15, couplingHz: 30, millerHz: 9_000 },
      ],
      span: 42,
      gainBefore: 1,
      toneBefore: 4,
      powerGain: 12,
      outputDb: 10.5,
    }),
    toneStack: { kind: 'three-knob', parts: parts(220, 1_000, 25, 33, 470, 22, 22) },
    voiceHz: 700,
    power: { feedback: 0.45, bias: 0.02, presenceDb: 10, presenceHz: 3_000, sagDepth: 0.6, sagTimes: [0.018, 0.15] },
  },
)

const ironwork = amp(
  {
    id: 'amp.ironwork',
    name: 'Ironwork 100',
    purpose: 'Tight modern high gain with three channels: palm mutes stop dead and the lows stay in line.',
    substitute: 'A modern high-gain amp; a low cut before the gain and a gate keyed from the guitar do the rest.',
    tags: 'modern metal high gain tight chug djent scooped lead',
    cost: 52,
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'depth', 'voice', 'master'],
      bright: 'off',
      channels: [
        ['lead', 'Lead'],
        ['rhythm', 'Rhythm'],
        ['clean', 'Clean'],
      ],
      initial: { gain: 5, master: 4 },
      valves: 'large',
      sag: 20,
    },
  },
  {
    inputHz: [70, 12_000],
    bright: { hz: 1_800, db: 5 },
    channels: {
      lead: {
        stages: [
          { gain: 0.9, bias: 0.15, couplingHz: 200, millerHz: 9_500 },
          { gain: 70, bias: -0.35, hardness: 0.3, couplingHz: 150, millerHz: 8_500, blocking: 0.15 },
          { gain: 12, bias: 0.3, hardness: 0.3, couplingHz: 70, millerHz: 7_500, blocking: 0.15 },
          { gain: 4, bias: -0.1, couplingHz: 25, millerHz: 8_500 },
        ],
        span: 50,
        gainBefore: 1,
        toneBefore: 4,
        powerGain: 9,
        outputDb: 12,
      },
      rhythm: {
        stages: [
          { gain: 0.8, bias: 0.15, couplingHz: 180, millerHz: 10_000 },
          { gain: 80, bias: -0.3, hardness: 0.2, couplingHz: 120, millerHz: 9_000, blocking: 0.15 },
          { gain: 5, bias: 0.2, couplingHz: 40, millerHz: 9_000 },
        ],
        span: 42,
        gainBefore: 1,
        toneBefore: 3,
        powerGain: 9,
        outputDb: 18.5,
      },
      clean: {
        stages: [
          { gain: 0.3, bias: 0.06, couplingHz: 30, millerHz: 12_000 },
          { gain: 10, bias: -0.1, couplingHz: 25, millerHz: 11_000 },
        ],
        span: 30,
        gainBefore: 1,
        toneBefore: 2,
        powerGain: 34,
        outputDb: 36,
      },
    },
    toneStack: { kind: 'three-knob', parts: parts(250, 1_000, 20, 39, 500, 20, 20) },
    voiceHz: 600,
    power: { feedback: 0.85, bias: 0.005, presenceDb: 8, presenceHz: 3_600, sagDepth: 0.35, sagTimes: [0.02, 0.1] },
  },
)

const cormorant = amp(
  {
    id: 'amp.cormorant',
    name: 'Cormorant 50',
    purpose: 'A smooth lead voice: tone controls before the gain, a rounded top, long sustain.',
    substitute: 'A lead channel with the EQ before the gain; roll the treble off and push the mids.',
    tags: 'lead smooth sustain singing fusion liquid boutique solo',
    cost: 40,
    front: {
      gain: 'Gain',
      knobs: ['bass', 'mid', 'treble', 'presence', 'voice', 'master'],
      initial: { gain: 7, bass: 4, mid: 6, presence: 3, master: 4 },
      valves: 'large-mid',
      sag: 45,
    },
  },
  {
    inputHz: [50, 10_000],
    channels: one({
      stages: [
        { gain: 0.6, bias: 0.08, couplingHz: 80, millerHz: 8_500 },
        { gain: 480, bias: -0.15, couplingHz: 80, millerHz: 6_500, blocking: 0.2 },
        { gain: 5, bias: 0.25, couplingHz: 50, millerHz: 5_500 },
        { gain: 2, bias: -0.1, couplingHz: 25, millerHz: 6_500, out: 0.1 },
      ],
      span: 52,
      gainBefore: 1,
      toneBefore: 1,
      powerGain: 56,
      outputDb: 10,
    }),
    toneStack: { kind: 'three-knob', parts: parts(250, 250, 25, 100, 330, 68, 33) },
    voiceHz: 900,
    power: { feedback: 0.5, bias: 0.02, presenceDb: 7, presenceHz: 2_600, sagDepth: 0.65, sagTimes: [0.022, 0.2] },
  },
)

const dredger = amp(
  {
    id: 'amp.dredger',
    name: 'Dredger 200',
    purpose: 'A bass-type amp for layers: full lows that stay clear under a guitar, and for octave lanes.',
    substitute: 'A bass amp with shelving tone controls; a low-passed copy of the guitar serves in a pinch.',
    tags: 'bass doom clean loud thick low headroom',
    cost: 32,
    front: {
      gain: 'Drive',
      knobs: ['bass', 'treble', 'master'],
      lowInput: true,
      initial: { gain: 4, bass: 4.5, treble: 7.5, master: 5 },
      valves: 'large',
      sag: 20,
    },
  },
  {
    inputHz: [12, 9_000],
    channels: one({
      stages: [
        { gain: 0.3, bias: 0.08, couplingHz: 10, millerHz: 8_000 },
        { gain: 40, bias: -0.2, couplingHz: 12, millerHz: 6_000 },
      ],
      span: 32,
      gainBefore: 1,
      toneBefore: 2,
      powerGain: 8,
      outputDb: 29,
    }),
    toneStack: { kind: 'shelves', bassHz: 110, trebleHz: 2_400, range: 14 },
    power: { feedback: 0.7, bias: 0.01, presenceDb: 1, presenceHz: 4_000, sagDepth: 0.45, sagTimes: [0.03, 0.14] },
  },
)

export const amps: readonly StageModel[] = [pier, estuary, lantern, skiff, bellbuoy, breakwater, riptide, ironwork, cormorant, dredger]
