import { useEffect, useMemo, useRef, useState } from 'react'
import { applyEdit, onGuitar, onMade, usedGuitar, type Fit, type Preset } from '@fulgor/core/preset'
import { proposeGates, proposeTrims, type InputFit, type TransferColumn } from '@fulgor/core/transfer'
import { Errands } from '../../background/errand'
import { Cancelled, reasonOf } from '../../background/tasks'
import type { Playable } from '../../state/hand'
import { renderers } from '../../threads/crews'

/** Which proposals are meant. */
export interface Ticks {
  readonly trim: boolean
  readonly bands: boolean
  readonly gates: boolean
  readonly trims: boolean
}

export type Columns = Readonly<Record<string, TransferColumn>>

/** What was computed so far. */
export interface Transfer {
  /** What it was computed for. */
  readonly of: string
  readonly ticked: string
  readonly made: Columns
  readonly asIs: Columns
  /** With what is ticked but the snapshots' trims. */
  readonly corrected: Columns
  readonly input: InputFit | null
  readonly gates: Fit['gates']
  readonly trims: Fit['trims']
  /** ms from the start to the first whole table; null while it is computed. */
  readonly ms: number | null
  /** ms until loudness was measured over whole riffs; null before. */
  readonly wholeMs: number | null
  readonly problem: string | null
}

const EMPTY: Transfer = {
  of: '',
  ticked: '',
  made: {},
  asIs: {},
  corrected: {},
  input: null,
  gates: {},
  trims: {},
  ms: null,
  wholeMs: null,
  problem: null,
}
const QUIET_MS = 300
/** s of the riff that the first table is made of. */
const FIRST_S = 4

/** The preset with the other guitar among its guitars and nothing set right for any: what figures depend on. */
export function bare(preset: Preset, to: Playable): Preset {
  const has = preset.guitars.some((g) => g.id === to.id)
  const whole = has ? preset : applyEdit(preset, { type: 'putGuitar', guitar: usedGuitar(to.id, to.profile, to.kit) })
  return { ...whole, guitars: whole.guitars.map(({ fits: _, ...guitar }) => guitar) }
}

/** What is ticked of the proposals, as it would be kept. */
export function fitFrom(position: number, input: InputFit, gates: Fit['gates'], trims: Fit['trims'], ticks: Ticks): Fit {
  return {
    position,
    trim: ticks.trim ? (ticks.bands ? input.trim : input.trimAlone) : 0,
    ...(ticks.bands && input.low ? { low: input.low } : {}),
    ...(ticks.bands && input.bell ? { bell: input.bell } : {}),
    ...(ticks.bands && input.high ? { high: input.high } : {}),
    gates: ticks.gates ? gates : {},
    trims: ticks.trims ? trims : {},
  }
}

/** Snapshots in which gates are moved. */
const gatedIn = (gates: Fit['gates']): string[] => [...new Set(Object.values(gates).flatMap((moves) => Object.keys(moves)))]

/** Loudness of a snapshot with what is ticked, LUFS. */
export function withTrim(transfer: Transfer, snapshot: string, ticks: Ticks): number | null {
  const column = (transfer.corrected as Partial<Transfer['corrected']>)[snapshot]
  if (column?.lufs == null) return null
  return column.lufs + (ticks.trims ? (transfer.trims[snapshot] ?? 0) : 0)
}

/** Figures of a preset on what it was made on, on another guitar as it is, and with what is proposed for that one. */
export function useTransfer(preset: Preset, to: Playable | null, position: number, ticks: Ticks): Transfer {
  const errands = useMemo(() => new Errands(), [])
  const [transfer, setTransfer] = useState<Transfer>(EMPTY)
  const whole = to && bare(preset, to)
  const id = to?.id ?? ''
  // hands, fits and names say nothing of these figures
  const key = whole
    ? JSON.stringify([
        whole.chain,
        whole.snapshots,
        whole.riff,
        whole.tempo,
        whole.guitars,
        whole.madeOn,
        whole.hand.volume,
        whole.hand.tone,
        id,
        position,
      ])
    : ''
  const ticked = `${ticks.trim} ${ticks.bands} ${ticks.gates}`
  const latest = useRef({ whole, ticks })
  useEffect(() => {
    latest.current = { whole, ticks }
  })
  useEffect(() => {
    const { whole, ticks } = latest.current
    if (!whole) return
    const errand = errands.begin()
    const startedAt = performance.now()
    const made = onMade(whole)
    const other = onGuitar(whole, id, position, null)
    const ids = whole.snapshots.map((s) => s.id)
    const show = (part: Partial<Transfer>) => setTransfer((t) => ({ ...t, ...part }))
    // figures of another guitar are not shown under this one's name
    setTransfer((t) => ({ ...(t.of === key ? t : EMPTY), of: key, ticked, ms: null, wholeMs: null, problem: null }))
    const column = (of: Preset, name: string, snapshot: string, edge: number | null, home: number, seconds: number | null) =>
      errand.run(renderers, {
        task: 'transferColumn',
        args: [of, snapshot, edge, seconds],
        key: `column ${name} ${snapshot} ${seconds} ${JSON.stringify(of.guitars)} ${key}`,
        keep: 60,
        home,
        rank: seconds === null ? 'idle' : 'beside',
      })
    const edges: Record<string, number | null> = {}
    /** The same of every snapshot, told as it comes. */
    const columns = async (of: Preset, name: 'made' | 'asIs' | 'corrected', seconds: number | null, which = ids): Promise<Columns> => {
      const known: Record<string, TransferColumn> = {}
      await Promise.all(
        which.map(async (snapshot, home) => {
          known[snapshot] = await column(of, name, snapshot, edges[snapshot], home, seconds)
        }),
      )
      return known
    }
    const lufs = (of: Columns) => Object.fromEntries(Object.entries(of).map(([s, c]) => [s, c.lufs]))
    const work = async () => {
      const input = errand.run(renderers, { task: 'transferInput', args: [whole, other, FIRST_S], key: `input ${key}`, keep: 4, home: 0 })
      // what is given up here is told by the others
      input.catch(() => undefined)
      await Promise.all(
        ids.map(async (snapshot, home) => {
          edges[snapshot] = await errand.run(renderers, {
            task: 'transferEdge',
            args: [whole, snapshot],
            key: `edge ${snapshot} ${JSON.stringify([whole.chain, whole.snapshots])}`,
            keep: 40,
            // the first thread looks for the input meanwhile
            home: home + 1,
          })
        }),
      )
      const first = columns(made, 'made', FIRST_S)
      first.catch(() => undefined)
      const second = columns(other, 'asIs', FIRST_S)
      second.catch(() => undefined)
      const found = await input
      const [a, b] = await Promise.all([first, second])
      show({ input: found, made: a, asIs: b })
      const fitWith = (gates: Fit['gates']) => onGuitar(whole, id, position, fitFrom(position, found, gates, {}, ticks))
      let c = await columns(fitWith({}), 'corrected', FIRST_S)
      const gates = proposeGates(a, c)
      const gated = ticks.gates && Object.keys(gates).length > 0
      if (gated) c = { ...c, ...(await columns(fitWith(gates), 'corrected', FIRST_S, gatedIn(gates))) }
      show({ corrected: c, gates, trims: proposeTrims(lufs(a), lufs(c)), ms: performance.now() - startedAt })
      const [wholeA, wholeB, wholeC] = await Promise.all([
        columns(made, 'made', null),
        columns(other, 'asIs', null),
        columns(fitWith(gated ? gates : {}), 'corrected', null),
      ])
      show({
        made: wholeA,
        asIs: wholeB,
        corrected: wholeC,
        trims: proposeTrims(lufs(wholeA), lufs(wholeC)),
        wholeMs: performance.now() - startedAt,
      })
    }
    const timer = setTimeout(
      () =>
        void work().catch((error: unknown) => {
          if (!(error instanceof Cancelled)) show({ problem: reasonOf(error) })
        }),
      QUIET_MS,
    )
    return () => {
      clearTimeout(timer)
      errands.end()
    }
    // the key says all that the figures depend on, whatever objects carry it
  }, [key, ticked, id, position, errands])
  if (!whole || transfer.of !== key) return EMPTY
  return transfer.ticked === ticked ? transfer : { ...transfer, ms: null, wholeMs: null }
}
