import { useCallback, useEffect, useMemo } from 'react'
import type { ResponseAsset } from '@fulgor/core/api'
import { blendId, type MicBench } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, createChannel } from '@fulgor/core/catalogue'
import { effectiveParams, frozen, resolveStage, resolveValues, tempoOf, type Preset, type StageNode } from '@fulgor/core/preset'
import { withAudition } from '../../audio/audition'
import { renderingOf } from '../../threads/riffSource'
import { cabinetMaker, renderers } from '../../threads/crews'
import { Errands } from '../../background/errand'
import { Cancelled, reasonOf } from '../../background/tasks'
import { presentPreset } from '../../state/actions'
import { auditionChosen } from '../../state/player'
import { notified } from '../../state/notices'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { withChannel } from './bench'

/** How a candidate is tried: alone, or in the place of the chosen channel. */
export type Trying = 'alone' | 'blend'

const fileChannel = (response: ResponseAsset) => ({ kind: 'file' as const, file: response.hash, name: response.name, side: 'sum' as const })

/** The bench with a candidate in it, as it would stand once taken. */
export function benchWith(bench: MicBench, response: ResponseAsset, trying: Trying, selected: string): MicBench {
  const source = fileChannel(response)
  const there = bench.channels.some((c) => c.id === selected)
  if (trying === 'alone' || !there) return { ...bench, channels: [createChannel(selected || 'c1', source)] }
  return withChannel(bench, selected, (c) => ({ ...c, source, delay: 0, inverted: false }))
}

/** Plays candidates in place, as loud as what the cabinet plays, measured on the riff that reaches it. */
export function useAudition(preset: Preset, stage: StageNode) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const errands = useMemo(() => new Errands(), [])

  const stop = useCallback(() => {
    errands.end()
    if (store.getState().player.audition) dispatch(auditionChosen(null))
  }, [dispatch, store, errands])
  useEffect(() => stop, [stop])

  const play = useCallback(
    async (bench: MicBench) => {
      const errand = errands.begin()
      const now = presentPreset(store.getState()) ?? preset
      const snapshot = lit ?? now.snapshots[0].id
      const job = renderingOf(now, snapshot, 'live')
      const response = blendId(bench)
      try {
        const weights = await errand.run(renderers, {
          task: 'weightsBefore',
          args: [job, stage.id],
          key: JSON.stringify([
            now.riff,
            now.tempo,
            now.guitars,
            now.hand,
            now.chain,
            now.snapshots.find((s) => s.id === snapshot),
            stage.id,
          ]),
          home: 0,
          keep: 4,
        })
        const gainDb = await errand.run(cabinetMaker, {
          task: 'matchDb',
          args: [response, playedBy(now, stage, snapshot), weights.power.some((p) => p > 0) ? weights : null],
          key: null,
        })
        const audition = { stage: stage.id, response, gainDb: Number.isFinite(gainDb) ? gainDb : 0 }
        dispatch(auditionChosen(audition))
        // the match comes from spectra; rendered and metered once it plays, what is still missing is added
        const values = withAudition(resolveValues(now, snapshot), audition)
        const loudness = (of: Preset, home: number) =>
          errand.run(renderers, { task: 'loudness', args: [{ ...job, preset: of }], key: null, home })
        const [there, here] = await Promise.all([loudness(frozen(now, snapshot, values), 1), loudness(now, 0)])
        if (there !== null && here !== null) dispatch(auditionChosen({ ...audition, gainDb: audition.gainDb + here - there }))
      } catch (error) {
        if (!(error instanceof Cancelled)) dispatch(notified({ kind: 'warning', text: `Not tried: ${reasonOf(error)}` }))
      }
    },
    [dispatch, store, errands, preset, stage, lit],
  )

  return { play, stop }
}

/** The response that a cabinet plays in a snapshot. */
function playedBy(preset: Preset, stage: StageNode, snapshot: string): string {
  const { params, bench } = resolveStage(preset, stage, snapshot)
  const values = { ...params, response: params.response ?? BENCH_RESPONSE }
  return String(effectiveParams({ ...stage, bench }, values, tempoOf(preset, snapshot)).response)
}
