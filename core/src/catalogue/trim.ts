import { Trim } from '@fulgor/core/signal'
import { stage } from './model'
import { db } from './params'

export const output = stage({
  id: 'output',
  name: 'Output',
  family: 'utility',
  purpose: 'The last trim: levelling writes the change of every snapshot here.',
  substitute: 'The output level of the preset, stored per snapshot.',
  charts: [],
  linear: true,
  headline: ['level'],
  params: { level: db({ label: 'Level', short: 'lvl', min: -60, max: 24, initial: 0 }) },
  build: () => new Trim(),
})

export const trim = stage({
  id: 'trim',
  name: 'Trim',
  family: 'utility',
  purpose: 'Plain gain anywhere in the chain, to hit the next stage harder or softer.',
  substitute: 'A volume or gain block.',
  charts: [],
  linear: true,
  headline: ['level'],
  params: { level: db({ label: 'Level', short: 'lvl', min: -40, max: 24, initial: 0 }) },
  build: () => new Trim(),
})
