import { useCallback, useEffect, useRef } from 'react'
import type { ResponseAsset } from '@fulgor/core/api'
import { blendId, type MicBench, type Weights } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, createChannel } from '@fulgor/core/catalogue'
import { effectiveParams, frozen, resolveStage, resolveValues, tempoOf, type Preset, type StageNode } from '@fulgor/core/preset'
import { withAudition } from '../../audio/audition'
import type { MeasureJob } from '../../audio/render.worker'
import { riffSource } from '../../audio/riffSource'
import { cabinetWorker, renderWorkers, SAMPLE_RATE } from '../../audio/workers'
import { presentPreset } from '../../state/actions'
import { auditionChosen, type Audition } from '../../state/player'
import { notified } from '../../state/notices'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { withChannel } from './bench'

type Job = Omit<MeasureJob, 'token'>

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
  const weights = useRef<{ key: string; value: Promise<Weights | null> } | null>(null)
  const wish = useRef(0)
  const metering = useRef(false)
  useEffect(() => () => void dispatch(auditionChosen(null)), [dispatch])

  const stop = useCallback(() => {
    wish.current++
    if (store.getState().player.audition) dispatch(auditionChosen(null))
  }, [dispatch, store])

  /** The match comes from spectra; rendered and metered once it plays, what is still missing is added. */
  const trim = useCallback(
    async (job: Job, audition: Audition, current: () => boolean) => {
      if (metering.current) return
      metering.current = true
      try {
        const values = resolveValues(job.preset, job.snapshot)
        const [there, here] = await Promise.all([
          renderWorkers()[1].loudnessWith({ ...job, preset: frozen(job.preset, job.snapshot, withAudition(values, audition)) }),
          renderWorkers()[0].loudnessWith(job),
        ])
        if (current() && there !== null && here !== null) dispatch(auditionChosen({ ...audition, gainDb: audition.gainDb + here - there }))
      } finally {
        metering.current = false
      }
    },
    [dispatch],
  )

  const play = useCallback(
    async (bench: MicBench) => {
      const mine = ++wish.current
      const now = presentPreset(store.getState()) ?? preset
      const snapshot = lit ?? now.snapshots[0].id
      const key = JSON.stringify([now.riff, now.tempo, now.guitar, now.chain, now.snapshots.find((s) => s.id === snapshot)])
      const job = { preset: now, snapshot, riff: riffSource(now, snapshot), sampleRate: SAMPLE_RATE, quality: 'live' as const }
      if (weights.current?.key !== key) {
        weights.current = {
          key,
          value: renderWorkers()[0]
            .weightsBefore(job, stage.id)
            .then((w) => (w.power.some((p) => p > 0) ? w : null)),
        }
      }
      const response = blendId(bench)
      try {
        const { params, bench: own } = resolveStage(now, stage, snapshot)
        const playing = String(
          effectiveParams({ ...stage, bench: own }, { ...params, response: params.response ?? BENCH_RESPONSE }, tempoOf(now, snapshot))
            .response,
        )
        const gainDb = await cabinetWorker().matchDb(response, playing, await weights.current.value)
        if (mine !== wish.current) return
        const audition = { stage: stage.id, response, gainDb: Number.isFinite(gainDb) ? gainDb : 0 }
        dispatch(auditionChosen(audition))
        await trim(job, audition, () => mine === wish.current)
      } catch (error) {
        if (mine !== wish.current) return
        dispatch(notified({ kind: 'warning', text: `Not tried: ${error instanceof Error ? error.message : String(error)}` }))
      }
    },
    [dispatch, store, preset, stage, lit, trim],
  )

  return { play, stop }
}
