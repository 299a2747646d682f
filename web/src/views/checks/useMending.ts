import { useEffect, useMemo, useState } from 'react'
import { applyEdit, type Preset } from '@fulgor/core/preset'
import type { Finding, Mend } from '@fulgor/core/checks'
import { session } from '../../audio/session'
import { Errands } from '../../background/errand'
import { Cancelled, reasonOf } from '../../background/tasks'
import { snapshotChosen } from '../../state/editor'
import { notified } from '../../state/notices'
import { trialChosen } from '../../state/player'
import { useAppDispatch, useAppStore } from '../../state/store'
import { renderers } from '../../threads/crews'
import { renderingOf } from '../../threads/riffSource'

/** The mend that is being heard before it is taken. */
export interface Hearing {
  readonly finding: string
  readonly mend: string
  readonly side: 'with' | 'without'
  /** dB that the mended sound is turned up by; null while it is measured. */
  readonly matchDb: number | null
}

/** Hears a mend before it is taken, as loud as without it; what is heard ends with the view and with every edit. */
export function useMending(preset: Preset) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const errands = useMemo(() => new Errands(), [])
  const [hearing, setHearing] = useState<(Hearing & { readonly of: Preset; readonly mended: Preset }) | null>(null)
  useEffect(
    () => () => {
      errands.end()
      dispatch(trialChosen(null))
    },
    [dispatch, errands, preset],
  )
  const now = hearing?.of === preset ? hearing : null

  const end = () => {
    errands.end()
    setHearing(null)
    dispatch(trialChosen(null))
  }
  const hear = async (key: string, finding: Finding, mend: Mend) => {
    const mended = applyEdit(preset, { type: 'all', edits: mend.edits })
    // where it is so: the lit snapshot if it is one of them
    const lit = store.getState().editor.snapshot ?? preset.snapshots[0].id
    const snapshot = finding.snapshots && !finding.snapshots.includes(lit) ? finding.snapshots[0] : lit
    if (snapshot !== lit) dispatch(snapshotChosen(snapshot))
    const start = { finding: key, mend: mend.label, side: 'with', matchDb: null, of: preset, mended } as const
    setHearing(start)
    dispatch(trialChosen({ preset: mended, gainDb: 0 }))
    if (!store.getState().player.playing) void session.player.toggle()
    try {
      const errand = errands.begin()
      const lufs = (of: Preset) =>
        errand.run(renderers, { task: 'loudness', args: [renderingOf(of, snapshot, store.getState().player.quality)], key: null, home: 0 })
      const [before, after] = [await lufs(preset), await lufs(mended)]
      const matchDb = before === null || after === null ? 0 : before - after
      setHearing((h) => (h?.mended === mended ? { ...h, matchDb } : h))
      if (store.getState().player.trial?.preset === mended) dispatch(trialChosen({ preset: mended, gainDb: matchDb }))
    } catch (error) {
      if (!(error instanceof Cancelled)) dispatch(notified({ kind: 'warning', text: `Not matched in loudness: ${reasonOf(error)}` }))
    }
  }
  const turn = (side: Hearing['side']) => {
    if (!now) return
    setHearing({ ...now, side })
    dispatch(trialChosen(side === 'with' ? { preset: now.mended, gainDb: now.matchDb ?? 0 } : null))
  }
  return { hearing: now as Hearing | null, hear, turn, end }
}

export type Mending = ReturnType<typeof useMending>
