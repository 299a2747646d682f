import { GraphicEq, TiltEq } from '@fulgor/core/signal'
import { inertIf, stage, type StageModel } from './model'
import { db, hertz } from './params'
import { hz as name, signed } from './words'

function graphic(
  id: string,
  bands: readonly number[],
  q: number,
  words: { name: string; purpose: string; substitute: string; tags: string; cost: number },
): StageModel {
  const keys = bands.map((hz) => [`g${hz}`, hz] as const)
  return stage({
    id,
    ...words,
    family: 'eq',
    charts: ['response'],
    linear: true,
    headline: [keys[2][0], keys[keys.length - 3][0]],
    summary: (values) => keys.flatMap(([key, at]) => (values[key] === 0 ? [] : [`${name(at)} ${signed(values[key])}`])),
    params: Object.fromEntries(
      keys.map(([key, hz]) => [
        key,
        db({ label: name(hz), short: name(hz).replace(' Hz', '').replace(' kHz', 'k'), min: -15, max: 15, initial: 0 }),
      ]),
    ),
    build: () => new GraphicEq(keys, q),
  })
}

const tilt = stage({
  id: 'eq.tilt',
  name: 'Tilt EQ',
  family: 'eq',
  purpose: 'Turns the whole sound darker or brighter about one frequency.',
  substitute: 'A low shelf and a high shelf at the same frequency, moved against each other.',
  tags: 'equaliser brighter darker tone warm bright harsh',
  cost: 6,
  charts: ['response'],
  linear: true,
  headline: ['tilt', 'pivot'],
  params: {
    tilt: db({ label: 'Tilt', min: -9, max: 9, initial: 0 }),
    pivot: hertz({ label: 'Pivot', min: 200, max: 4_000, initial: 800 }),
  },
  inert: (v) => inertIf(v.tilt === 0, ['pivot'], 'The tilt is at 0 dB.'),
  build: () => new TiltEq(),
})

export const equalisers: readonly StageModel[] = [
  graphic('eq.graphic-7', [100, 200, 400, 800, 1_600, 3_200, 6_400], 1.41, {
    name: 'Graphic EQ 7',
    purpose: 'Seven octave bands where the guitar lives: quick shaping before or behind the amp.',
    substitute: 'A seven-band graphic EQ, or the same bands in a parametric one.',
    tags: 'equaliser contour scooped mids boost bands',
    cost: 3,
  }),
  graphic('eq.graphic-10', [31, 63, 125, 250, 500, 1_000, 2_000, 4_000, 8_000, 16_000], 1.41, {
    name: 'Graphic EQ 10',
    purpose: 'Ten octave bands over the whole range.',
    substitute: 'A ten-band graphic EQ.',
    tags: 'equaliser contour scooped mids boost bands',
    cost: 4,
  }),
  tilt,
]
