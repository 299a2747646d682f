import { useEffect, useMemo, useState } from 'react'
import { modelOf, type StageModel } from '@fulgor/core/catalogue'
import { applyEdit, type Edit, type Preset, type StageNode } from '@fulgor/core/preset'
import { renderingOf } from '../../threads/riffSource'
import { renderers } from '../../threads/crews'
import { Errands, type Errand } from '../../background/errand'
import { Cancelled, reasonOf } from '../../background/tasks'
import { edit } from '../../state/actions'
import { trialChosen } from '../../state/player'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { figure } from '../../ui/format'
import { PaperDialog } from '../../ui/PaperDialog'
import { focusRow } from './focusRow'
import { Catalogue } from './Catalogue'

/** Another model for a stage: each one that is marked sounds in its place, as loud as the one that stands there. */
export function ModelDialog({ preset, stage, onClose }: { preset: Preset; stage: StageNode; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const errands = useMemo(() => new Errands(), [])
  const [told, setTold] = useState('Arrow keys try a model, as loud as what stands there; Escape leaves all as it was.')
  useEffect(
    () => () => {
      errands.end()
      dispatch(trialChosen(null))
    },
    [dispatch, errands],
  )
  const loudness = (errand: Errand, of: Preset) =>
    errand.run(renderers, {
      task: 'loudness',
      args: [renderingOf(of, lit ?? of.snapshots[0].id, store.getState().player.quality)],
      key: null,
      home: 0,
    })
  const change = (model: string, gainDb: number): Edit => ({ type: 'changeModel', stage: stage.id, model, gainDb })

  /** dB that bring the preset with another model to the loudness that it has; what follows may compress, so it is asked twice. */
  const matched = async (errand: Errand, model: string): Promise<number> => {
    const wanted = await loudness(errand, preset)
    let gain = 0
    for (let round = 0; round < 2 && wanted !== null; round++) {
      const found = await loudness(errand, applyEdit(preset, change(model, gain)))
      if (found === null) break
      gain = Math.max(-50, Math.min(50, gain + wanted - found))
    }
    return Math.round(gain * 10) / 10
  }
  const mark = async (model: StageModel) => {
    setTold(`${model.name}: measuring …`)
    try {
      const gain = await matched(errands.begin(), model.id)
      dispatch(trialChosen({ preset: applyEdit(preset, change(model.id, gain)), gainDb: 0 }))
      setTold(`${model.name}, ${figure(gain, 1, true)} dB to be as loud.`)
    } catch (error) {
      if (!(error instanceof Cancelled)) setTold(`${model.name} was not measured: ${reasonOf(error)}`)
    }
  }
  const take = async (model: StageModel) => {
    try {
      if (model.id !== stage.model) dispatch(edit(change(model.id, await matched(errands.begin(), model.id))))
    } catch (error) {
      if (!(error instanceof Cancelled)) setTold(`${model.name} was not taken: ${reasonOf(error)}`)
      return
    }
    onClose()
    focusRow(stage.id)
  }
  const close = () => {
    onClose()
    focusRow(stage.id)
  }
  return (
    <PaperDialog open onClose={close} title={`Another model for ${stage.name ?? modelOf(stage.model).name}`} wide>
      <Catalogue
        verb="takes"
        first={modelOf(stage.model).family}
        now={stage.model}
        onMark={(model) => void mark(model)}
        onTake={(model) => void take(model)}
      />
      <p className="mt-2 flex items-baseline gap-3 text-[12px] text-ink2">
        <span aria-live="polite" data-trial="">
          {told}
        </span>
        <button type="button" className="btn ml-auto" onClick={close}>
          Leave it
        </button>
      </p>
    </PaperDialog>
  )
}
