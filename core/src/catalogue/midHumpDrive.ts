import { MidHumpDrive } from '@fulgor/core/signal'
import { stage } from './model'
import { db, knob } from './params'

export const midHumpDrive = stage({
  id: 'drive.mid-hump',
  name: 'Mid-hump drive',
  family: 'drive',
  purpose: 'Tightens the lows and pushes the mids into the amp, so that a line cuts through.',
  substitute: 'An overdrive with a mid emphasis and rolled-off lows; level high and drive low in front of a driven amp.',
  charts: ['response', 'transfer'],
  linear: false,
  headline: ['gain', 'tone'],
  params: {
    gain: knob({ label: 'Gain', initial: 3 }),
    tone: knob({ label: 'Tone', initial: 5 }),
    level: db({ label: 'Level', short: 'lvl', min: -20, max: 20, initial: 0 }),
  },
  build: () => new MidHumpDrive(),
})
