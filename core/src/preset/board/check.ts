import { DocumentError } from '@fulgor/core/document'
import { findStage } from '../chain/chain'
import type { Preset } from '../preset'
import { findSnapshot } from '../snapshots/snapshots'
import { GESTURES, type SwitchFunction } from './description'

/** Whether switches name snapshots, stages and sources of the preset. @throws DocumentError */
export function checkBoard(preset: Preset): void {
  preset.board?.switches.forEach((own, i) => {
    for (const gesture of GESTURES) {
      const fn = own[gesture]
      if (fn) checkFunction(preset, fn, `board.switches[${i}].${gesture}`)
    }
  })
}

function checkFunction(preset: Preset, fn: SwitchFunction, path: string): void {
  const there = (id: string, at: string, what: string, found: boolean) => {
    if (!found) throw new DocumentError(`${path}.${at}`, `there is no ${what} “${id}”.`)
  }
  const control = (id: string, at: string) =>
    there(
      id,
      at,
      'source',
      (preset.controls ?? []).some((c) => c.id === id),
    )
  if (fn.do === 'snapshot') there(fn.snapshot, 'snapshot', 'snapshot', findSnapshot(preset, fn.snapshot) !== undefined)
  if (fn.do === 'stages')
    fn.stages.forEach((id, i) => {
      there(id, `stages[${i}]`, 'stage or lane', findStage(preset, id) !== undefined)
    })
  if (fn.do === 'source') control(fn.control, 'control')
  if (fn.do === 'pedals')
    fn.controls.forEach((id, i) => {
      control(id, `controls[${i}]`)
    })
}
