import { Cabinet } from '@fulgor/core/signal'
import { cabinetResponses } from '@fulgor/core/cabinet'
import { stage } from './model'
import { choice } from './params'

export const cabinet = stage({
  id: 'cabinet',
  name: 'Cabinet',
  family: 'cabinet',
  purpose: 'Loudspeaker, box and microphone: it shapes the sound more than any other stage.',
  substitute: 'An impulse-response block; the closest box size, back and microphone type.',
  charts: ['response'],
  linear: true,
  headline: ['response', 'level'],
  params: {
    response: choice({
      label: 'Response',
      short: 'ir',
      options: cabinetResponses.map((r) => [r.id, r.name] as const),
      initial: cabinetResponses[0].id,
    }),
  },
  build: ({ responses }) => new Cabinet(responses),
})
