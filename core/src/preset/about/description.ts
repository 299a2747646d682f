import { list, number, optional, text } from '@fulgor/core/document'
import { TEMPO_RANGE } from '@fulgor/core/recording'

export const aboutFields = {
  name: text(80),
  tags: list(text(30), 20),
  notes: text(10_000, { least: 0 }),
  /** bpm. */
  tempo: number(TEMPO_RANGE, { about: 'Quarter notes a minute.' }),
  /** Id in the Kit of the recording that it is to come near to. */
  reference: optional(text(40)),
}
