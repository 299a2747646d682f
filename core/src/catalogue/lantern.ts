import { TubeAmp } from '@fulgor/core/signal'
import { stage } from './model'
import { db, knob, percent } from './params'

export const lantern = stage({
  id: 'amp.lantern',
  name: 'Lantern 15',
  family: 'amp',
  purpose: 'A small two-stage valve amp: clean and springy when turned down, early and mid-forward breakup when turned up.',
  substitute: 'A low-wattage valve amp with three tone knobs and a master; match the gain at which a hard strum starts to break up.',
  charts: ['response', 'transfer'],
  linear: false,
  headline: ['gain', 'mid'],
  params: {
    gain: knob({ label: 'Gain', initial: 4 }),
    bass: knob({ label: 'Bass', initial: 5 }),
    mid: knob({ label: 'Mid', initial: 5 }),
    treble: knob({ label: 'Treble', short: 'treb', initial: 5 }),
    presence: knob({ label: 'Presence', short: 'pres', initial: 4 }),
    master: knob({ label: 'Master', short: 'mstr', initial: 5 }),
    sag: percent({ label: 'Sag', initial: 30 }),
    level: db({ label: 'Level', short: 'lvl', min: -30, max: 12, initial: 0 }),
  },
  build: () =>
    new TubeAmp({
      toneStack: { r1: 250e3, r2: 1e6, r3: 25e3, r4: 56e3, c1: 250e-12, c2: 20e-9, c3: 20e-9 },
      stageGain: 50,
      stageVolts: 60,
      bias: [0.15, -0.3],
      couplingHz: 70,
      millerHz: 9_000,
      powerGain: 24,
      sagDepth: 0.5,
    }),
})
