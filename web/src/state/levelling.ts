import { modelOf } from '@fulgor/core/catalogue'
import { CEILING_DBTP } from '@fulgor/core/measure'
import { resolveStage, targetOf, trimOf, trimsExactly, type Preset, type Snapshot, type Trim } from '@fulgor/core/preset'
import { renderingOf } from '../threads/riffSource'
import { renderers } from '../threads/crews'
import { reasonOf } from '../background/tasks'
import { figure } from '../ui/format'
import { edit, presentPreset } from './actions'
import { notified } from './notices'
import type { Thunk } from './store'

/** LU that one step of an amp's master moves the loudness by, to begin the search with. */
const MASTER_SLOPE = 2

const valueOf = (preset: Preset, { stage, param }: Trim, snapshot: string): number =>
  Number(resolveStage(preset, stage, snapshot).params[param])

/** Those that are levelled: the one that is asked for, or all that are not left alone. */
const wanted = (preset: Preset, only: string | undefined): Snapshot[] =>
  preset.snapshots.filter((s) => (only === undefined ? !s.ignored : s.id === only))

/**
 * Brings snapshots to their targets by the trim that the player chose, each on its own riff; one step of undo.
 * @param only this snapshot alone
 */
export const levelSnapshots =
  (only?: string): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    const trim = trimOf(preset)
    if (!trim) {
      dispatch(notified({ kind: 'warning', text: 'Levelling needs an Output stage: add one at the end of the chain.' }))
      return
    }
    if (trimsExactly(preset, trim)) void dispatch(levelOnceMeasured(preset, trim, only))
    else void dispatch(levelBySearch(preset, trim, only))
  }

const WAIT_MS = 120

/** Figures that are still being measured are waited for; the player is told, and nothing happens when the sheet changes meanwhile. */
const levelOnceMeasured =
  (preset: Preset, trim: Trim, only: string | undefined): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const missing = () => wanted(preset, only).filter((s) => !getState().measures.snapshots[s.id]?.fresh)
    const count = missing().length
    if (count > 0) {
      const what = count === 1 ? missing()[0].name : `${count} snapshots`
      dispatch(notified({ kind: 'note', text: `Levelling as soon as ${what} ${count === 1 ? 'is' : 'are'} measured …` }))
    }
    while (missing().length > 0) {
      await new Promise((done) => setTimeout(done, WAIT_MS))
      if (presentPreset(getState()) !== preset) {
        dispatch(notified({ kind: 'warning', text: 'Not levelled: the sheet changed while it was measured. Press it again.' }))
        return
      }
    }
    dispatch(levelAtOutput(preset, trim, only))
  }

/** At the last Output the loudness moves by just what the trim does: the figures that stand are enough. */
const levelAtOutput =
  (preset: Preset, trim: Trim, only: string | undefined): Thunk =>
  (dispatch, getState) => {
    const { spec } = trim
    const levels: Record<string, number> = {}
    const short: string[] = []
    const hot: string[] = []
    for (const snapshot of wanted(preset, only)) {
      const measured = getState().measures.snapshots[snapshot.id]
      const lufs = measured?.fresh ? measured.output?.integratedLufs : undefined
      if (lufs === undefined || lufs === null) {
        short.push(`${snapshot.name} (${measured?.fresh ? 'silent' : 'not measured yet'})`)
        continue
      }
      const before = valueOf(preset, trim, snapshot.id)
      const exact = before + targetOf(preset, snapshot) - lufs
      const level = Math.min(spec.max, Math.max(spec.min, Math.round(exact * 100) / 100))
      if (level !== Math.round(exact * 100) / 100) short.push(`${snapshot.name} (the trim ends at ${level} dB)`)
      levels[snapshot.id] = level
      const peak = measured?.output?.truePeakDbtp
      if (peak !== undefined && peak !== null && peak + level - before > CEILING_DBTP)
        hot.push(`${snapshot.name} ${figure(peak + level - before)}`)
    }
    if (Object.keys(levels).length > 0) dispatch(edit({ type: 'setLevels', stage: trim.stage.id, param: trim.param, levels }))
    const done = Object.keys(levels).length - short.filter((words) => words.includes('trim ends')).length
    if (done > 0) dispatch(notified({ kind: 'note', text: `Levelled ${done === 1 ? '1 snapshot' : `${done} snapshots`} to the target.` }))
    if (short.length > 0) dispatch(notified({ kind: 'warning', text: `Not levelled: ${short.join(', ')}.` }))
    if (hot.length > 0)
      dispatch(
        notified({ kind: 'warning', text: `True peak after levelling, dBTP: ${hot.join(', ')}. Lower the target, or hold the peaks.` }),
      )
  }

/** Anywhere else what follows may compress: each snapshot is rendered and metered until it is within 0.1 LU. */
const levelBySearch =
  (preset: Preset, trim: Trim, only: string | undefined): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const { stage, param, spec } = trim
    const snapshots = wanted(preset, only)
    const name = modelOf(stage.model).name
    dispatch(
      notified({
        kind: 'note',
        text: `Levelling ${snapshots.length === 1 ? snapshots[0].name : `${snapshots.length} snapshots`} by the ${spec.label.toLowerCase()} of ${name} …`,
      }),
    )
    const levels: Record<string, number> = {}
    const short: string[] = []
    const hot: string[] = []
    let residual = 0
    const one = async (snapshot: Snapshot) => {
      try {
        const from = {
          stage: stage.id,
          param,
          start: valueOf(preset, trim, snapshot.id),
          min: spec.min,
          max: spec.max,
          slope: param === 'master' ? MASTER_SLOPE : 1,
        }
        const found = await renderers.run({
          task: 'level',
          args: [renderingOf(preset, snapshot.id, getState().player.quality), from, targetOf(preset, snapshot)],
          key: null,
        })
        levels[snapshot.id] = found.value
        if (found.limited)
          short.push(`${snapshot.name} (the range ends ${figure(Math.abs(found.residual))} LU ${found.residual > 0 ? 'above' : 'below'})`)
        else residual = Math.max(residual, Math.abs(found.residual))
        if (found.truePeakDbtp !== null && found.truePeakDbtp > CEILING_DBTP) hot.push(`${snapshot.name} ${figure(found.truePeakDbtp)}`)
      } catch (error) {
        short.push(`${snapshot.name} (${reasonOf(error)})`)
      }
    }
    await Promise.all(snapshots.map(one))
    if (presentPreset(getState()) !== preset) {
      dispatch(notified({ kind: 'warning', text: 'Not levelled: the sheet changed meanwhile. Try again.' }))
      return
    }
    if (Object.keys(levels).length > 0) dispatch(edit({ type: 'setLevels', stage: stage.id, param, levels }))
    if (short.length > 0) dispatch(notified({ kind: 'warning', text: `Not at its target: ${short.join(', ')}.` }))
    if (hot.length > 0)
      dispatch(
        notified({ kind: 'warning', text: `True peak after levelling, dBTP: ${hot.join(', ')}. Lower the target, or hold the peaks.` }),
      )
    if (short.length < snapshots.length)
      dispatch(notified({ kind: 'note', text: `Levelled within ${figure(Math.max(0.01, residual), 2)} LU of the targets.` }))
  }
