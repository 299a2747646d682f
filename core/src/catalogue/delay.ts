import { Delay, MAX_DELAY_MS } from '@fulgor/core/signal'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { stage } from './model'
import { choice, hertz, ms, percent } from './params'

export const delay = stage({
  id: 'delay.digital',
  name: 'Delay',
  family: 'delay',
  purpose: 'Repeats in time with the song; the tone darkens each repeat so that it stays behind the next note.',
  substitute: 'Any digital delay with time, feedback and a high cut; type the time in ms.',
  charts: ['tail'],
  linear: true,
  headline: ['time', 'mix'],
  sync: { time: 'time', note: 'note' },
  params: {
    note: choice({
      label: 'Note value',
      short: 'note',
      options: [['free', 'Free (ms)'], ...NOTE_VALUES.map((n) => [n.id, n.name] as const)],
      initial: 'eighth-dotted',
      change: 'resolve',
    }),
    time: ms({ label: 'Time', min: 1, max: MAX_DELAY_MS, initial: 375, taper: 'log' }),
    feedback: percent({ label: 'Feedback', short: 'fb', max: 98, initial: 30 }),
    tone: hertz({ label: 'Tone', min: 800, max: 20_000, initial: 4_000 }),
    mix: percent({ label: 'Mix', initial: 20 }),
  },
  build: () => new Delay(),
})
