import { Clipper, MAX_PLACING_MS, OutsideLoop, Placing, Through } from '@fulgor/core/signal'
import { inertIf, stage, type StageModel } from './model'
import { choice, db, ms, pan, percent } from './params'

const polarity = (initial: 'normal' | 'inverted' = 'normal') =>
  choice({
    label: 'Polarity',
    short: 'pol',
    options: [
      ['normal', 'Normal'],
      ['inverted', 'Inverted'],
    ],
    initial,
    change: 'glide',
  })

const plain = { family: 'utility', charts: [], linear: true } as const

/** The strip at the end of a lane; off is mute. */
export const lane = stage({
  id: 'lane',
  name: 'Lane',
  ...plain,
  purpose: 'One of several ways that the signal takes side by side; its level, place, polarity and delay against the others.',
  substitute: 'A parallel path with a mixer at its end.',
  cost: 0.5,
  headline: ['level', 'pan'],
  silentWhenOff: true,
  level: db({ label: 'Level', short: 'lvl', min: -60, max: 12, initial: 0 }),
  params: {
    pan: pan({ label: 'Pan' }),
    polarity: polarity(),
    delay: ms({ label: 'Delay', short: 'dly', min: 0, max: MAX_PLACING_MS, initial: 0, step: 0.1 }),
  },
  build: () => new Placing(),
})

const trim = stage({
  id: 'trim',
  name: 'Trim',
  ...plain,
  purpose: 'Plain gain anywhere in the chain, to hit the next stage harder or softer.',
  substitute: 'A volume or gain block.',
  tags: 'level volume gain utility attenuate',
  onlyLevel: true,
  cost: 0.5,
  headline: ['level'],
  level: db({ label: 'Level', short: 'lvl', min: -60, max: 24, initial: 0 }),
  params: {},
  build: () => new Through(),
})

const panStage = stage({
  id: 'utility.pan',
  name: 'Pan',
  ...plain,
  purpose: 'Moves the sound to a side; the near side keeps its level.',
  substitute: 'A pan block or the pan of the path.',
  tags: 'left right place balance stereo',
  cost: 0.5,
  headline: ['pan'],
  params: { pan: pan({ label: 'Pan' }) },
  build: () => new Placing(),
})

const width = stage({
  id: 'utility.width',
  name: 'Width',
  ...plain,
  purpose: 'Narrows or widens what is stereo already: 0 % is mono, 100 % as it came.',
  substitute: 'A stereo width or mid/side block.',
  tags: 'stereo widen wide mono narrow mid side',
  cost: 0.5,
  headline: ['width'],
  params: { width: percent({ label: 'Width', max: 200, initial: 100 }) },
  build: () => new Placing(),
})

const invert = stage({
  id: 'utility.polarity',
  name: 'Polarity',
  ...plain,
  purpose: 'Turns the signal over, where two lanes would cancel.',
  substitute: 'A phase or polarity switch.',
  tags: 'phase flip invert reverse',
  cost: 0.5,
  headline: ['polarity'],
  params: { polarity: polarity('inverted') },
  build: () => new Placing(),
})

const sampleDelay = stage({
  id: 'utility.delay',
  name: 'Sample delay',
  ...plain,
  purpose: 'Lines up two lanes, or sets one a few milliseconds back.',
  substitute: 'A delay at 100 % wet and no feedback.',
  tags: 'align time offset haas milliseconds',
  cost: 1,
  headline: ['delay'],
  params: { delay: ms({ label: 'Delay', min: 0, max: MAX_PLACING_MS, initial: 1, step: 0.02 }) },
  build: () => new Placing(),
})

const clipper = stage({
  id: 'utility.clipper',
  name: 'Clipper',
  family: 'utility',
  charts: ['feel'],
  linear: false,
  purpose: 'Cuts peaks at a ceiling, hard or soft, with the unclipped sound beside it.',
  substitute: 'A limiter with the fastest times, or a clean drive at low gain.',
  tags: 'limit peaks ceiling loud converter clip',
  cost: 21,
  headline: ['ceiling', 'mix'],
  params: {
    ceiling: db({ label: 'Ceiling', short: 'ceil', min: -36, max: 0, initial: -9 }),
    knee: percent({ label: 'Hardness', short: 'hard', initial: 50 }),
    mix: percent({ label: 'Mix', initial: 100 }),
  },
  inert: (v) => inertIf(v.mix === 0, ['ceiling', 'knee'], 'The mix is at 0 %.'),
  build: ({ quality }) => new Clipper(quality),
})

const loop = stage({
  id: 'utility.loop',
  name: 'Send and return',
  ...plain,
  purpose: 'Where an outside amp or pedal is looped in: its levels, its lateness and its polarity against what passes beside it.',
  substitute: 'The send and return, or effects loop block.',
  tags: 'effects loop send return insert hardware',
  cost: 3,
  headline: ['send', 'return'],
  params: {
    send: db({ label: 'Send', min: -40, max: 12, initial: 0 }),
    return: db({ label: 'Return', short: 'ret', min: -40, max: 12, initial: 0 }),
    trip: ms({ label: 'Trip', min: 0, max: 40, initial: 0, step: 0.05 }),
    polarity: polarity(),
    mix: percent({ label: 'Mix', initial: 100 }),
  },
  build: () => new OutsideLoop(),
})

const output = stage({
  id: 'output',
  name: 'Output',
  ...plain,
  purpose: 'The last trim: levelling writes the change of every snapshot here.',
  substitute: 'The output level of the preset, stored per snapshot.',
  tags: 'level volume master end main out',
  onlyLevel: true,
  cost: 0.5,
  headline: ['level'],
  level: db({ label: 'Level', short: 'lvl', min: -60, max: 24, initial: 0 }),
  params: {
    // changes no sound: it tells the checks what follows
    into: choice({
      label: 'Goes into',
      short: 'into',
      options: [
        ['full', 'Full range: PA, interface, headphones'],
        ['cabinet', 'A guitar cabinet'],
      ],
      initial: 'full',
      change: 'glide',
    }),
  },
  build: () => new Through(),
})

export const utilities: readonly StageModel[] = [trim, panStage, width, invert, sampleDelay, clipper, loop, output]
