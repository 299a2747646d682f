import { GUITARS } from '@fulgor/core/guitar'
import type { ChannelSource, MicBench } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, createChannel, defaultMic } from '@fulgor/core/catalogue'
import { layOut } from '@fulgor/core/board'
import {
  CAPACITIES,
  createControl,
  createLane,
  createStage,
  DEFAULT_MIDI,
  DEFAULT_SCALE,
  EMPTY_BOARD,
  playedOn,
  LINEAR,
  PRESET_FORMAT,
  PRESET_VERSION,
  type ChainNode,
  type Control,
  type ControlTarget,
  type Curve,
  type DeviceProfile,
  type Preset,
  type Snapshot,
  type StageOverride,
} from '@fulgor/core/preset'
import { doubleCut } from './guitars'

const snapshot = (id: string, name: string, stages: Record<string, StageOverride>): Snapshot => ({ id, name, stages })

/** The pit guitarist's main preset for the stage show The Salt Road: mono house PA, six sounds on one preset. */
const pitStages: Preset = {
  format: PRESET_FORMAT,
  version: PRESET_VERSION,
  name: 'Salt Road, pit main',
  tags: ['The Salt Road', 'pit', 'mono PA'],
  notes: 'One preset for the whole show. Bridge humbucker, straight to the house PA in mono. Lead wants the delay, lullaby wants air.',
  tempo: 96,
  targetLufs: -18,
  riff: { id: 'open-chords', strength: 'hard' },
  ...playedOn(doubleCut, 'demo-double-cut', 'demo-double-cut'),
  chain: [
    createStage('gate', 'gate', { threshold: -62 }),
    { ...createStage('drive', 'drive.mid-hump', { gain: 2, tone: 5, level: 0 }), on: false },
    createStage('amp', 'amp.lantern', { gain: 4, bass: 4, mid: 5.5, treble: 5.5, master: 4 }),
    createStage('cab', 'cabinet', { response: 'open-1x12-coil' }),
    createStage('eq', 'eq.parametric', { lowCut: 88, bell2: 800, gain2: -2, q2: 1.1, highCut: 8_200, lowSlope: '12', highSlope: '12' }),
    createStage('delay', 'delay.digital', { note: 'eighth-dotted', time: 469, feedback: 28, tone: 3_600, mix: 14 }),
    createStage('hall', 'reverb.hall', { preDelay: 24, decay: 2.1, mix: 14 }),
    createStage('out', 'output', { level: 0 }),
  ],
  snapshots: [
    snapshot('overture', 'Overture clean', { amp: { params: { gain: 3.2 } }, delay: { on: false }, hall: { params: { mix: 20 } } }),
    snapshot('strum', 'Pit strum', { eq: { params: { lowCut: 140 } }, delay: { on: false }, hall: { params: { mix: 8 } } }),
    snapshot('storm', 'Storm lead', {
      gate: { params: { threshold: -56 } },
      drive: { on: true, params: { gain: 4.2, level: 2 } },
      amp: { params: { gain: 6.2, mid: 7 } },
      eq: { params: { gain2: 1.5, highCut: 6_800 } },
      delay: { params: { mix: 24, feedback: 36 } },
    }),
    snapshot('lullaby', 'Lullaby', {
      gate: { params: { threshold: -70 } },
      amp: { params: { gain: 2.8, treble: 4.2 } },
      eq: { params: { highGain: -2 } },
      delay: { params: { note: 'quarter', mix: 18 } },
      hall: { params: { decay: 3.4, mix: 30 } },
    }),
    snapshot('chase', 'Chase', {
      gate: { params: { threshold: -54, release: 40 } },
      drive: { on: true },
      amp: { params: { gain: 5.4, bass: 3 } },
      delay: { on: false },
      hall: { params: { mix: 6 } },
    }),
    snapshot('finale', 'Finale', {
      drive: { on: true, params: { gain: 3 } },
      amp: { params: { gain: 4.6 } },
      hall: { params: { decay: 2.6 } },
    }),
  ],
}

const aim = (
  id: string,
  stage: string,
  param: string,
  from: number,
  to: number,
  curve: Curve,
  snapshots: readonly string[],
): ControlTarget => ({ id, stage, param, from, to, curve, snapshots })
const LATE: Curve = { shape: 'exponential', heel: 0.03, toe: 0 }

/** What the pit guitarist's feet do: delay and hall by one pedal, a swell by the other, and an echo thrown behind a last chord. */
const pitControls: readonly Control[] = [
  {
    ...createControl('pedal1', 'pedal', 'Delay in'),
    onSnapshot: 'pickup',
    midi: { type: 'cc', channel: 1, number: 11 },
    targets: [
      aim('mix1', 'delay', 'mix', 0, 32, LATE, ['storm', 'finale']),
      aim('feedback1', 'delay', 'feedback', 24, 38, LINEAR, ['storm', 'finale']),
      aim('hall1', 'hall', 'mix', 8, 22, { ...LINEAR, heel: 0.4 }, ['storm', 'finale']),
    ],
  },
  {
    ...createControl('pedal2', 'pedal', 'Swell'),
    rest: 1,
    smoothing: 40,
    midi: { type: 'cc', channel: 1, number: 4 },
    // into the master, so that what levelling turns stays its own and the echoes ring on
    targets: [aim('master2', 'amp', 'master', 0, 4, { shape: 'exponential', heel: 0.02, toe: 0 }, ['overture', 'lullaby'])],
  },
  {
    ...createControl('throw', 'momentary', 'Echo throw'),
    targets: [
      aim('throw1', 'delay', 'on', 0, 1, LINEAR, ['strum', 'chase']),
      aim('throw2', 'delay', 'mix', 14, 45, LINEAR, ['strum', 'chase']),
    ],
  },
]

export const pitRack: DeviceProfile = {
  ...DEFAULT_SCALE,
  name: 'Floor unit “pit rack”',
  capacity: CAPACITIES[1].capacity,
  kit: 'demo-pit-rack',
}

/** Ids of the demo's own, the same at every start. */
const counted = (prefix: string): (() => string) => {
  let next = 0
  return () => `${prefix}${++next}`
}

const pitPlayed: Preset = { ...pitStages, device: pitRack, controls: pitControls, midiPlan: { ...DEFAULT_MIDI, program: 11 } }
const pitMain: Preset = { ...pitPlayed, board: layOut(pitPlayed, CAPACITIES[1].capacity, EMPTY_BOARD, counted('switch')) }

/** Two microphones at the upper driver, the ribbon laid on the coil, and a little of the air before the cabinet. */
const tideBench: MicBench = {
  cab: { driver: 'tight', size: '12', drivers: '4', back: 'closed', second: 'same' },
  channels: [
    createChannel('coil', { ...defaultMic('coil'), offset: 12, distance: 25 } as ChannelSource),
    {
      ...createChannel('ribbon', { ...defaultMic('ribbon'), offset: 48, bearing: 150, distance: 97, angle: 18 } as ChannelSource),
      level: -1.5,
      delay: -236,
    },
    {
      ...createChannel('air', { ...defaultMic('large-condenser'), offset: 0, distance: 173, reflections: 20, room: 15 } as ChannelSource),
      level: -16,
    },
  ],
  frames: 2_048,
}

/** Lead of the instrumental EP Low Tide Signals, recorded at home. */
const tideLead: Preset = {
  format: PRESET_FORMAT,
  version: PRESET_VERSION,
  name: 'Low Tide Signals, lead',
  tags: ['Low Tide Signals', 'EP', 'lead'],
  notes: 'Melody of the title track. Bright repeats are part of the part.',
  tempo: 108,
  targetLufs: -18,
  riff: { id: 'lead-line', strength: 'hard' },
  ...playedOn(doubleCut, 'demo-double-cut', 'demo-double-cut'),
  chain: [
    createStage('gate', 'gate', { threshold: -60 }),
    createStage('drive', 'drive.mid-hump', { gain: 3.5, tone: 5.5, level: 3 }),
    createStage('amp', 'amp.lantern', { gain: 6, bass: 3.5, mid: 6.5, treble: 5, presence: 5, master: 6, sag: 45 }),
    { ...createStage('cab', 'cabinet', { response: BENCH_RESPONSE }), bench: tideBench },
    createStage('eq', 'eq.parametric', { lowCut: 110, bell3: 2_600, gain3: 2, q3: 0.9, highCut: 7_400, highSlope: '24', lowSlope: '12' }),
    createStage('delay', 'delay.digital', { note: 'eighth-dotted', feedback: 38, tone: 7_000, mix: 26 }),
    createStage('hall', 'reverb.hall', { preDelay: 85, decay: 2.8, mix: 18 }),
    createStage('out', 'output', { level: -17.6 }),
  ],
  snapshots: [
    snapshot('theme', 'Theme', {}),
    snapshot('answer', 'Answer', {
      drive: { on: false },
      amp: { params: { gain: 4.8 } },
      delay: { params: { note: 'quarter', mix: 32 } },
      out: { params: { level: -12 } },
    }),
    snapshot('close', 'Close, dry', {
      delay: { on: false },
      hall: { params: { mix: 8, preDelay: 20 } },
      out: { params: { level: -15.5 } },
    }),
  ],
}

/** Two amps left and right, an octave below them and a plate to one side: the wall of the EP's last track. */
const tideWall: Preset = {
  format: PRESET_FORMAT,
  version: PRESET_VERSION,
  name: 'Low Tide Signals, wall',
  tags: ['Low Tide Signals', 'EP', 'wall'],
  notes: 'Two amps hard left and right, matched by loudness. The octave lane feeds the bass amp; take it out where a bass plays.',
  tempo: 92,
  targetLufs: -18,
  riff: { id: 'open-chords', strength: 'hard' },
  ...playedOn(GUITARS[1]),
  chain: [
    createStage('gate', 'gate', { threshold: -60 }),
    createStage('boost', 'drive.treble-booster', { boost: 3.5, range: 6, level: -6 }),
    {
      kind: 'parallel',
      id: 'amps',
      lanes: [
        createLane(
          'left',
          [createStage('chime', 'amp.bellbuoy', { gain: 6.5, cut: 5 }), createStage('cab1', 'cabinet', { response: 'open-2x12-ribbon' })],
          { pan: -100, level: -3 },
        ),
        createLane(
          'right',
          [createStage('crunch', 'amp.breakwater', { gain: 5.5 }), createStage('cab2', 'cabinet', { response: 'closed-4x12-coil' })],
          { pan: 100, level: -3 },
        ),
        createLane(
          'below',
          [createStage('octave', 'pitch.octave-down', { mix: 100, tone: 1_400 }), createStage('bass', 'amp.dredger', { gain: 2.5 })],
          { level: -14 },
        ),
      ],
    },
    createStage('eq', 'eq.parametric', { lowCut: 72, bell2: 2_200, gain2: -1.5, highCut: 9_500, lowSlope: '12', highSlope: '12' }),
    {
      kind: 'parallel',
      id: 'space',
      lanes: [
        createLane('dry'),
        createLane('plate', [createStage('plate1', 'reverb.plate', { mix: 100, decay: 2.6, preDelay: 40 })], { level: -15, pan: 45 }),
      ],
    },
    createStage('out', 'output', { level: -2.7 }),
  ],
  snapshots: [
    snapshot('full', 'Full', {}),
    snapshot('thin', 'Thin', {
      below: { on: false },
      boost: { on: false },
      crunch: { params: { gain: 3.6 } },
      chime: { params: { gain: 4.5 } },
      out: { params: { level: 5.2 } },
    }),
    snapshot('far', 'Far', {
      plate: { params: { level: -8 } },
      left: { params: { level: -6 } },
      right: { params: { level: -6 } },
      out: { params: { level: 0 } },
    }),
  ],
}

/** A clean for both. */
const harbourClean: Preset = {
  format: PRESET_FORMAT,
  version: PRESET_VERSION,
  name: 'Harbour clean',
  tags: ['Low Tide Signals', 'clean'],
  notes: 'Sixteenths with room to breathe; the ribbon keeps the top soft.',
  tempo: 104,
  targetLufs: -18,
  riff: { id: 'funk', strength: 'normal' },
  ...playedOn(GUITARS[3]),
  chain: [
    createStage('amp', 'amp.lantern', { gain: 5, bass: 4.5, mid: 4, treble: 6, presence: 4, master: 6, sag: 25 }),
    createStage('cab', 'cabinet', { response: 'open-2x12-ribbon' }),
    createStage('eq', 'eq.parametric', { lowCut: 100, lowGain: -1.5, highGain: 2, highCut: 12_000, lowSlope: '12', highSlope: '12' }),
    { ...createStage('delay', 'delay.digital', { note: 'sixteenth-dotted', feedback: 18, mix: 12 }), on: false },
    createStage('hall', 'reverb.hall', { preDelay: 12, decay: 1.6, mix: 20 }),
    createStage('out', 'output', { level: 5.7 }),
  ],
  snapshots: [
    snapshot('verse', 'Verse', {}),
    snapshot('bridge', 'Bridge', {
      delay: { on: true, params: { mix: 22 } },
      hall: { params: { decay: 3, mix: 34 } },
      out: { params: { level: 2.7 } },
    }),
  ],
}

/** What `npm run demo` puts on the shelf, with fixed ids. */
export const demoPresets: readonly { readonly id: string; readonly preset: Preset }[] = [
  { id: 'demo-pit-main', preset: pitMain },
  { id: 'demo-tide-lead', preset: tideLead },
  { id: 'demo-tide-wall', preset: tideWall },
  { id: 'demo-harbour-clean', preset: harbourClean },
]

/** The dearest stage of each family in a row, for the bench. */
export const dearestChain: readonly ChainNode[] = [
  createStage('gate', 'gate', { key: 'dry' }),
  createStage('comp', 'compressor.optical'),
  createStage('wah', 'filter.envelope', { mix: 40 }),
  createStage('octave', 'pitch.octave-up', { mix: 15 }),
  createStage('fuzz', 'drive.wall-fuzz', { sustain: 3, level: -6 }),
  createStage('amp', 'amp.ironwork', { channel: 'lead' }),
  createStage('cab', 'cabinet', { response: 'closed-4x12-coil' }),
  createStage('eq', 'eq.parametric', { gain1: -2, gain2: -1, gain3: 1, lowGain: -1, highGain: 1, lowSlope: '24', highSlope: '24' }),
  createStage('rotary', 'modulation.rotary'),
  createStage('delay', 'delay.dual'),
  createStage('spring', 'reverb.spring'),
  createStage('out', 'output'),
]
