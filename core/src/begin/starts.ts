import { blankPreset, createStage, playedOn, type ChainNode, type Preset, type Role } from '@fulgor/core/preset'
import type { GuitarProfile } from '@fulgor/core/guitar'
import type { SoundRole } from '@fulgor/core/show'

/** What a sound is begun from. */
export interface Start {
  readonly name: string
  /** Why it looks as it does, in a sentence. */
  readonly about: string
  readonly role: Role
  readonly riff: Preset['riff']
  readonly chain: () => readonly ChainNode[]
}

const out = () => createStage('out', 'output')
const off = (node: ReturnType<typeof createStage>) => ({ ...node, on: false })

/** A place to begin for each role: our own, common practice, no source. What comes in time stands in the chain and is off until the dry sound is judged. */
export const STARTS: Readonly<Record<SoundRole, Start>> = {
  clean: {
    name: 'Clean',
    about: 'An amp with room to spare, an open cabinet, a low cut: it stays clean under a hard strum.',
    role: 'clean',
    riff: { id: 'open-chords', strength: 'normal' },
    chain: () => [
      createStage('amp', 'amp.estuary', { gain: 2.2, bass: 4, mid: 5, treble: 5.5, master: 4 }),
      createStage('cab', 'cabinet', { response: 'open-2x12-ribbon' }),
      createStage('eq', 'eq.parametric', { lowSlope: '12', lowCut: 90 }),
      off(createStage('delay', 'delay.digital', { note: 'quarter', mix: 14 })),
      off(createStage('room', 'reverb.plate', { decay: 1.6, mix: 16 })),
      out(),
    ],
  },
  edge: {
    name: 'Edge of breakup',
    about: 'Gain where soft picking is clean and a hard strum breaks up: the hand decides.',
    role: 'rhythm',
    riff: { id: 'open-chords', strength: 'hard' },
    chain: () => [
      createStage('amp', 'amp.bellbuoy', { gain: 4, bass: 4, treble: 5, cut: 5 }),
      createStage('cab', 'cabinet', { response: 'open-2x12-ribbon' }),
      createStage('eq', 'eq.parametric', { lowSlope: '12', lowCut: 90 }),
      off(createStage('delay', 'delay.tape', { note: 'eighth-dotted', mix: 14 })),
      off(createStage('room', 'reverb.spring', { decay: 1.8, mix: 14 })),
      out(),
    ],
  },
  crunch: {
    name: 'Crunch',
    about: 'An amp past its edge, a drive in front that waits, the lows cut before they blur.',
    role: 'rhythm',
    riff: { id: 'open-chords', strength: 'hard' },
    chain: () => [
      createStage('gate', 'gate', { threshold: -62 }),
      off(createStage('drive', 'drive.mid-hump', { gain: 2, tone: 5, level: 2 })),
      createStage('amp', 'amp.breakwater', { gain: 5, bass: 4, mid: 6, treble: 5 }),
      createStage('cab', 'cabinet', { response: 'closed-4x12-coil' }),
      createStage('eq', 'eq.parametric', { lowSlope: '12', lowCut: 90 }),
      off(createStage('delay', 'delay.digital', { note: 'quarter', mix: 10 })),
      off(createStage('room', 'reverb.room', { decay: 0.8, mix: 10 })),
      out(),
    ],
  },
  'high-gain': {
    name: 'High gain',
    about: 'Drive at zero pushes and tightens the amp; the gate closes the stops; mids stay in.',
    role: 'lead',
    riff: { id: 'lead-line', strength: 'hard' },
    chain: () => [
      createStage('gate', 'gate', { threshold: -58 }),
      createStage('drive', 'drive.mid-hump', { gain: 1, tone: 5.5, level: 4 }),
      createStage('amp', 'amp.ironwork', { channel: 'lead', gain: 5, bass: 4, mid: 6, treble: 5 }),
      createStage('cab', 'cabinet', { response: 'closed-4x12-coil' }),
      createStage('eq', 'eq.parametric', { lowSlope: '12', lowCut: 100 }),
      off(createStage('delay', 'delay.digital', { note: 'eighth-dotted', mix: 20, feedback: 32 })),
      off(createStage('hall', 'reverb.hall', { decay: 2.2, mix: 14 })),
      out(),
    ],
  },
  ambience: {
    name: 'Ambience',
    about: 'A clean amp and long, dark repeats into a long hall: what is heard is what comes after.',
    role: 'ambience',
    riff: { id: 'arpeggio', strength: 'normal' },
    chain: () => [
      createStage('amp', 'amp.estuary', { gain: 2, bass: 4, mid: 5, treble: 4.5, master: 4 }),
      createStage('cab', 'cabinet', { response: 'open-2x12-ribbon' }),
      createStage('eq', 'eq.parametric', { lowSlope: '12', lowCut: 110 }),
      off(createStage('delay', 'delay.diffused', { note: 'quarter', feedback: 42, mix: 34 })),
      off(createStage('hall', 'reverb.hall', { preDelay: 30, decay: 4.5, mix: 36 })),
      out(),
    ],
  },
  'bass-layer': {
    name: 'Bass-type layer',
    about: 'An octave below through a bass amp, with nothing on top: it lies under another part.',
    role: 'effect',
    riff: { id: 'low-riff', strength: 'normal' },
    chain: () => [
      createStage('octave', 'pitch.octave-down', { mix: 100, tone: 1_200 }),
      createStage('amp', 'amp.dredger', { gain: 2.5 }),
      createStage('cab', 'cabinet', { response: 'closed-4x12-coil' }),
      createStage('eq', 'eq.parametric', { lowSlope: '12', lowCut: 45, highSlope: '24', highCut: 1_800 }),
      out(),
    ],
  },
  acoustic: {
    name: 'Acoustic-like',
    about: 'No amp and no cabinet: a compressor, an EQ that gives back the air, and a small room.',
    role: 'clean',
    riff: { id: 'arpeggio', strength: 'normal' },
    chain: () => [
      createStage('comp', 'compressor.optical', { sustain: 3.5 }),
      createStage('eq', 'eq.parametric', { lowSlope: '12', lowCut: 80, bell2: 900, gain2: -4, q2: 0.8, highShelf: 6_000, highGain: 4 }),
      createStage('room', 'reverb.room', { decay: 0.7, mix: 18 }),
      out(),
    ],
  },
}

/** A preset to begin a sound with. @param guitar what it is made on; by itself the start’s own */
export function startOf(
  role: SoundRole,
  name: string,
  tempo: number | null,
  guitar?: { profile: GuitarProfile; kit: string; position: number },
): Preset {
  const start = STARTS[role]
  const blank = blankPreset(name)
  const made = guitar ? playedOn(guitar.profile, 'made-on', guitar.kit) : null
  return {
    ...blank,
    tempo: tempo ?? blank.tempo,
    riff: start.riff,
    ...(made && guitar ? { ...made, madeOn: guitar.position, hand: { ...made.hand, position: guitar.position } } : {}),
    chain: start.chain(),
    snapshots: [{ id: 's1', name: name.slice(0, 80), role: start.role, stages: {} }],
  }
}
