import { GuitarInput } from '@fulgor/core/signal'
import { stage } from './model'
import { choice, db, hertz, knob, plain, quality } from './params'

const part = (label: string, max: number, initial: number) => plain({ label, min: 0, max, initial })
const taper = (label: string) =>
  choice({
    label,
    options: [
      ['audio', 'Audio'],
      ['linear', 'Linear'],
    ],
    initial: 'audio',
    change: 'glide',
  })

/** dB that one of the bands before the chain gives at most. */
const BAND_DB = 18
const band = (label: string) => db({ label, min: -BAND_DB, max: BAND_DB, initial: 0 })

/**
 * The guitar as the first stage of what is played: its knobs and, per guitar, what suits it to the preset. Not to be added: a preset
 * says which guitar plays it. Its circuit's values come from the guitar, in ohm, henry and farad.
 */
export const guitarInput = stage({
  id: 'guitar',
  name: 'Guitar',
  family: 'utility',
  purpose: 'The guitar’s own volume and tone, and what is set right for it before the first stage.',
  substitute: 'The guitar itself; an input trim and a parametric EQ in front.',
  charts: ['response'],
  linear: true,
  cost: 3,
  headline: ['volume', 'tone'],
  level: db({ label: 'Input trim', short: 'trim', min: -24, max: 24, initial: 0 }),
  params: {
    volume: knob({ label: 'Volume', short: 'vol', initial: 10 }),
    tone: knob({ label: 'Tone', initial: 10 }),
    lowHz: hertz({ label: 'Low shelf', min: 40, max: 1_000, initial: 180 }),
    lowDb: band('Low shelf gain'),
    bellHz: hertz({ label: 'Bell', min: 100, max: 8_000, initial: 900 }),
    bellDb: band('Bell gain'),
    bellQ: quality({ label: 'Bell Q', min: 0.2, max: 8, initial: 0.8 }),
    highHz: hertz({ label: 'High shelf', min: 800, max: 12_000, initial: 3_500 }),
    highDb: band('High shelf gain'),
    resistance: part('Coil, resistance', 100e3, 8_200),
    inductance: part('Coil, inductance', 30, 4.6),
    capacitance: part('Coil, capacitance', 5e-9, 110e-12),
    volumeOhm: part('Volume pot', 2e6, 500e3),
    volumeTaper: taper('Volume taper'),
    bleedFarad: part('Treble bleed, capacitor', 10e-9, 0),
    bleedOhm: part('Treble bleed, resistor', 2e6, 0),
    bleedWay: choice({
      label: 'Treble bleed',
      options: [
        ['none', 'None'],
        ['beside', 'Resistor beside'],
        ['behind', 'Resistor behind'],
      ],
      initial: 'none',
      change: 'glide',
    }),
    toneOhm: part('Tone pot', 2e6, 500e3),
    toneFarad: part('Tone capacitor', 200e-9, 22e-9),
    toneTaper: taper('Tone taper'),
    cableFarad: part('Cable', 20e-9, 450e-12),
    inputOhm: part('Input', 10e6, 1e6),
  },
  build: () => new GuitarInput(),
})
