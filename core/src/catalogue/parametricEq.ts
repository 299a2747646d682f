import { ParametricEq } from '@fulgor/core/signal'
import { inertIf, stage } from './model'
import { choice, db, hertz, quality } from './params'
import { hz, signed } from './words'

const SLOPES = [
  ['off', 'Off'],
  ['6', '6 dB/oct'],
  ['12', '12 dB/oct'],
  ['24', '24 dB/oct'],
] as const

const FLAT = 'Its gain is at 0 dB.'
const gain = (label: string, short: string) => db({ label, short, min: -18, max: 18, initial: 0 })
const width = (label: string, short: string) => quality({ label, short, min: 0.2, max: 10, initial: 1 })

export const parametricEq = stage({
  id: 'eq.parametric',
  name: 'Parametric EQ',
  family: 'eq',
  purpose: 'Cuts what is in the way and lifts what is missing, at exact frequencies.',
  substitute: 'Any parametric EQ; where the slopes differ, compare the loss in dB an octave past the corner.',
  tags: 'equaliser contour mud harsh presence notch low high cut',
  cost: 3,
  charts: ['response'],
  linear: true,
  headline: ['lowCut', 'highCut'],
  summary: (v) => [
    ...(v.lowSlope === 'off' ? [] : [`from ${hz(v.lowCut)}`]),
    ...(v.lowGain === 0 ? [] : [`low ${signed(v.lowGain)}`]),
    ...([1, 2, 3] as const).flatMap((n) => (v[`gain${n}`] === 0 ? [] : [`${hz(v[`bell${n}`])} ${signed(v[`gain${n}`])}`])),
    ...(v.highGain === 0 ? [] : [`high ${signed(v.highGain)}`]),
    ...(v.highSlope === 'off' ? [] : [`to ${hz(v.highCut)}`]),
  ],
  params: {
    lowSlope: choice({ label: 'Low cut slope', short: 'lc', options: SLOPES, initial: 'off' }),
    lowCut: hertz({ label: 'Low cut', short: 'cut', min: 20, max: 800, initial: 80 }),
    lowShelf: hertz({ label: 'Low shelf', short: 'ls', min: 40, max: 800, initial: 150 }),
    lowGain: gain('Low shelf gain', 'low'),
    bell1: hertz({ label: 'Bell 1', short: 'b1', min: 40, max: 2_000, initial: 350 }),
    gain1: gain('Bell 1 gain', 'g1'),
    q1: width('Bell 1 width', 'q1'),
    bell2: hertz({ label: 'Bell 2', short: 'b2', min: 100, max: 8_000, initial: 800 }),
    gain2: gain('Bell 2 gain', 'g2'),
    q2: width('Bell 2 width', 'q2'),
    bell3: hertz({ label: 'Bell 3', short: 'b3', min: 500, max: 16_000, initial: 3_000 }),
    gain3: gain('Bell 3 gain', 'g3'),
    q3: width('Bell 3 width', 'q3'),
    highShelf: hertz({ label: 'High shelf', short: 'hs', min: 1_000, max: 12_000, initial: 5_000 }),
    highGain: gain('High shelf gain', 'high'),
    highSlope: choice({ label: 'High cut slope', short: 'hc', options: SLOPES, initial: 'off' }),
    highCut: hertz({ label: 'High cut', short: 'top', min: 1_000, max: 20_000, initial: 9_000 }),
  },
  inert: (v) => ({
    ...inertIf(v.lowSlope === 'off', ['lowCut'], 'Its slope is off.'),
    ...inertIf(v.highSlope === 'off', ['highCut'], 'Its slope is off.'),
    ...inertIf(v.lowGain === 0, ['lowShelf'], FLAT),
    ...inertIf(v.highGain === 0, ['highShelf'], FLAT),
    ...inertIf(v.gain1 === 0, ['bell1', 'q1'], FLAT),
    ...inertIf(v.gain2 === 0, ['bell2', 'q2'], FLAT),
    ...inertIf(v.gain3 === 0, ['bell3', 'q3'], FLAT),
  }),
  build: () => new ParametricEq(),
})
