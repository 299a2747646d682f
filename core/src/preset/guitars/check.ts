import { DocumentError } from '@fulgor/core/document'
import type { Preset } from '../preset'
import type { OwnHand } from './description'

/** Whether what plays is there. @throws DocumentError */
export function checkGuitars({ guitars, madeOn, hand, snapshots }: Preset): void {
  const check = (setting: OwnHand, path: string) => {
    const guitar = guitars.find((g) => g.id === (setting.guitar ?? hand.guitar))
    if (!guitar) throw new DocumentError(`${path}.guitar`, `there is no guitar “${setting.guitar ?? hand.guitar}” in this preset.`)
    if (setting.guitar !== undefined && setting.position !== undefined && setting.position >= guitar.positions.length)
      throw new DocumentError(`${path}.position`, `“${guitar.name}” has ${guitar.positions.length} positions.`)
  }
  if (madeOn >= guitars[0].positions.length)
    throw new DocumentError('madeOn', `“${guitars[0].name}” has ${guitars[0].positions.length} positions.`)
  check(hand, 'hand')
  snapshots.forEach((s, i) => s.hand && check(s.hand, `snapshots[${i}].hand`))
}
