import { list, number, optional, record, text, type RecordOf } from '@fulgor/core/document'

const asideField = record({
  /** Names the finding: its rule, stages and snapshots. */
  finding: text(400),
  /** Its figure when it was set aside; asked again once it is clearly worse. */
  amount: optional(number([-1e6, 1e6])),
  reason: optional(text(200)),
})

/** A finding that the player has set aside. */
export type Aside = RecordOf<typeof asideField.fields>

export const asidesField = list(asideField, 200)
