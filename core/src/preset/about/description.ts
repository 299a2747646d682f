import { list, number, text, type Range } from '@fulgor/core/document'

/** bpm that a preset or one of its snapshots may have. */
export const TEMPO_RANGE: Range = [20, 400]

export const aboutFields = {
  name: text(80),
  tags: list(text(30), 20),
  notes: text(10_000, { least: 0 }),
  /** bpm. */
  tempo: number(TEMPO_RANGE, { about: 'Quarter notes a minute.' }),
}
