import { CleanBoost, Drive, driveCircuits, type DriveCircuit } from '@fulgor/core/signal'
import { stage, type StageModel } from './model'
import { db, knob, onOff, percent, type ParamSpecs, type ParamsOf } from './params'

/** A pedal's level is a pot; noon is unity at the defaults. */
const LEVEL_POT = db({ label: 'Level', short: 'lvl', min: -30, max: 20, initial: 0, pot: true })

function drive<P extends ParamSpecs>(
  entry: {
    id: string
    name: string
    purpose: string
    substitute: string
    tags: string
    cost: number
    headline: readonly (keyof P & string)[]
    params: P
  },
  circuit: DriveCircuit<ParamsOf<P>>,
): StageModel {
  return stage({
    ...entry,
    family: 'drive',
    level: LEVEL_POT,
    charts: ['response', 'feel'],
    linear: false,
    build: ({ quality }) => new Drive(circuit, quality),
  })
}

const cleanBoost = stage({
  id: 'drive.clean-boost',
  name: 'Clean boost',
  family: 'drive',
  purpose: 'Plain gain into the next stage, with a bright switch; what distorts is what comes behind it.',
  substitute: 'A volume or gain block in front of the amp.',
  tags: 'boost solo volume louder push edge transparent',
  cost: 4,
  charts: ['response'],
  linear: true,
  headline: ['boost', 'bright'],
  params: { boost: db({ label: 'Boost', min: 0, max: 24, initial: 8 }), bright: onOff({ label: 'Bright' }) },
  build: () => new CleanBoost(),
})

const transparent = drive(
  {
    id: 'drive.open',
    name: 'Open drive',
    purpose: 'The same tone with more gain: soft symmetric clip, flat mids, bass kept.',
    substitute: 'A transparent overdrive with separate bass and treble.',
    tags: 'overdrive edge breakup transparent low gain stack bluesy crunch',
    cost: 21,
    headline: ['gain', 'treble'],
    params: {
      gain: knob({ label: 'Gain', initial: 4 }),
      bass: knob({ label: 'Bass', initial: 6 }),
      treble: knob({ label: 'Treble', short: 'treb', initial: 6 }),
    },
  },
  driveCircuits.transparent,
)

const midHump = drive(
  {
    id: 'drive.mid-hump',
    name: 'Mid-hump drive',
    purpose: 'Tightens the lows and pushes the mids into the amp, so that a line cuts through.',
    substitute: 'An overdrive with a mid emphasis and rolled-off lows; level high and drive low in front of a driven amp.',
    tags: 'overdrive tighten mids boost lead push metal blues',
    cost: 19,
    headline: ['gain', 'tone'],
    params: { gain: knob({ label: 'Gain', initial: 3 }), tone: knob({ label: 'Tone', initial: 5 }) },
  },
  driveCircuits.midHump,
)

const hardClip = drive(
  {
    id: 'drive.hard-clip',
    name: 'Hard-clip distortion',
    purpose: 'Gritty, even distortion that is all there at low volume.',
    substitute: 'An op-amp distortion with diodes to ground; its filter may turn the other way.',
    tags: 'distortion harsh crunch rock edge bite',
    cost: 19,
    headline: ['gain', 'filter'],
    params: { gain: knob({ label: 'Gain', initial: 5 }), filter: knob({ label: 'Filter', initial: 4 }) },
  },
  driveCircuits.hardClip,
)

const roundFuzz = drive(
  {
    id: 'drive.round-fuzz',
    name: 'Round fuzz',
    purpose: 'Two transistors: woolly and touch-sensitive, cleans up with the guitar’s volume; starved it sputters.',
    substitute: 'A two-transistor fuzz, first in the chain.',
    tags: 'fuzz sixties woolly cleans up psychedelic vintage',
    cost: 27,
    headline: ['fuzz', 'starve'],
    params: {
      fuzz: knob({ label: 'Fuzz', initial: 6 }),
      starve: knob({ label: 'Starve', initial: 2 }),
      tone: knob({ label: 'Tone', initial: 7 }),
    },
  },
  driveCircuits.roundFuzz,
)

const wallFuzz = drive(
  {
    id: 'drive.wall-fuzz',
    name: 'Wall fuzz',
    purpose: 'A wall of sustain from two clipping stages, with a dip in the mids that leaves room for a voice.',
    substitute: 'A sustaining fuzz with one tone knob; add mids behind it if it drowns.',
    tags: 'fuzz wall sustain thick doom shoegaze scooped',
    cost: 29,
    headline: ['sustain', 'tone'],
    params: { sustain: knob({ label: 'Sustain', short: 'sus', initial: 6 }), tone: knob({ label: 'Tone', initial: 5 }) },
  },
  driveCircuits.wallFuzz,
)

const octaveFuzz = drive(
  {
    id: 'drive.octave-fuzz',
    name: 'Octave fuzz',
    purpose: 'An octave above in the fuzz: clearest with single notes high on the neck and the neck pickup.',
    substitute: 'An octave-up fuzz; a ring of the same kind comes from a rectifier before any fuzz.',
    tags: 'fuzz octaver octave up ring harsh psychedelic',
    cost: 27,
    headline: ['fuzz', 'octave'],
    params: {
      fuzz: knob({ label: 'Fuzz', initial: 6 }),
      octave: percent({ label: 'Octave', short: 'oct', initial: 100 }),
      tone: knob({ label: 'Tone', initial: 6 }),
    },
  },
  driveCircuits.octaveFuzz,
)

const trebleBooster = drive(
  {
    id: 'drive.treble-booster',
    name: 'Treble booster',
    purpose: 'Pushes the top of the guitar into a driven amp, so that low strings stay clear.',
    substitute: 'A boost behind a low cut; the range is that cut.',
    tags: 'boost bright treble british edge glam push',
    cost: 19,
    headline: ['boost', 'range'],
    params: { boost: knob({ label: 'Boost', initial: 5 }), range: knob({ label: 'Range', initial: 3 }) },
  },
  driveCircuits.trebleBooster,
)

export const drives: readonly StageModel[] = [cleanBoost, transparent, midHump, hardClip, roundFuzz, wallFuzz, octaveFuzz, trebleBooster]
