import { memo, type ComponentProps } from 'react'
import { findStage } from '@fulgor/core/preset'
import { edit, landsIn, presentPreset, resetValue, setValue } from '../../state/actions'
import { useAppDispatch, type Thunk } from '../../state/store'
import { typedValue } from '../../state/typedValue'
import { ChoiceRow } from '../../ui/ChoiceRow'
import { ParamRow } from '../../ui/ParamRow'

type Own = 'onChange' | 'onReset' | 'typed'

/** A number of the chosen stage. All that it shows comes as plain values: it is drawn anew only when one of them has changed. */
export const StageValue = memo(function StageValue({
  stage,
  takesTimes,
  ...shown
}: Omit<ComponentProps<typeof ParamRow>, Own> & {
  readonly stage: string
  /** Note values and times may be typed. */
  readonly takesTimes: boolean
}) {
  const dispatch = useAppDispatch()
  const { name } = shown
  return (
    <ParamRow
      {...shown}
      typed={takesTimes ? (text) => dispatch(typeTime(stage, name, text)) : undefined}
      onChange={(value) => dispatch(setValue(stage, name, value))}
      onReset={() => dispatch(resetValue(stage, name))}
    />
  )
})

/** A choice of the chosen stage; see {@link StageValue}. */
export const StageChoice = memo(function StageChoice({
  stage,
  ...shown
}: Omit<ComponentProps<typeof ChoiceRow>, Own> & { readonly stage: string }) {
  const dispatch = useAppDispatch()
  const { name } = shown
  return (
    <ChoiceRow {...shown} onChange={(value) => dispatch(setValue(stage, name, value))} onReset={() => dispatch(resetValue(stage, name))} />
  )
})

/** Takes a typed time; '' has taken it, else the reason. */
export const typeTime =
  (id: string, key: string, text: string): Thunk<string> =>
  (dispatch, getState) => {
    const state = getState()
    const preset = presentPreset(state)
    const stage = preset && findStage(preset, id)
    if (!preset || !stage) return ''
    const typed = typedValue(preset, stage, { lit: state.editor.snapshot, goes: (param) => landsIn(state, id, param) }, key, text)
    if (typed.ok) dispatch(edit(typed.edit))
    return typed.ok ? '' : typed.reason
  }
