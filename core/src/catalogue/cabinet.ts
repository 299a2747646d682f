import { Cabinet } from '@fulgor/core/signal'
import { cabinetResponses } from '@fulgor/core/cabinet'
import { stage } from './model'
import { choice } from './params'

/** The choice that plays the stage's own bench. */
export const BENCH_RESPONSE = 'bench'

export const cabinet = stage({
  id: 'cabinet',
  name: 'Cabinet',
  family: 'cabinet',
  purpose: 'Loudspeaker, box and microphone: it shapes the sound more than any other stage.',
  substitute: 'An impulse-response block; the closest box size, back and microphone type.',
  tags: 'cab speaker ir impulse response microphone box',
  cost: 9,
  charts: ['response'],
  linear: true,
  headline: ['response', 'level'],
  params: {
    response: choice({
      label: 'Response',
      short: 'ir',
      // the bench's blend stands in the stage itself
      options: [...cabinetResponses.map((r) => [r.id, r.name] as const), [BENCH_RESPONSE, 'Blend of the mic bench'] as const],
      initial: cabinetResponses[0].id,
    }),
  },
  build: ({ responses }) => new Cabinet(responses),
})
