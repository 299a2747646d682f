import { netAt, NET_HZ, type Contributor } from './curve'

/** Two equalisers that undo each other. */
export interface Fight {
  readonly up: string
  readonly down: string
  /** Where both do so, Hz. */
  readonly from: number
  readonly to: number
  /** Where it is most, and what each does and what is left there, dB. */
  readonly hz: number
  readonly upDb: number
  readonly downDb: number
}

/** Several cuts that add up at the edge of the band. */
export interface Cascade {
  readonly hz: number
  readonly stages: readonly string[]
  readonly db: number
}

/** dB from which both sides of a fight count, and from which a cut counts as one. */
const FIGHTS = 2
const CUTS = 1.5
/** Where cuts at the low and high end are told. */
const EDGES = [63, 125, 8_000] as const

const equalises = ({ family }: Contributor): boolean => family === 'eq' || family === 'filter'

/** Boosts and cuts of two equalisers that lie on each other. */
export function fightsOf(contributors: readonly Contributor[]): Fight[] {
  const eqs = contributors.filter(equalises)
  return eqs.flatMap((a, i) =>
    eqs.slice(i + 1).flatMap((b) =>
      (
        [
          [a, b],
          [b, a],
        ] as const
      ).flatMap(([up, down]): Fight[] => {
        const both = NET_HZ.map((_, k) => Math.min(up.db[k], -down.db[k]))
        const most = both.reduce((best, x, k) => (x > both[best] ? k : best), 0)
        if (both[most] < FIGHTS) return []
        let [from, to] = [most, most]
        while (from > 0 && both[from - 1] >= FIGHTS / 2) from--
        while (to < both.length - 1 && both[to + 1] >= FIGHTS / 2) to++
        return [
          {
            up: up.stage,
            down: down.stage,
            from: NET_HZ[from],
            to: NET_HZ[to],
            hz: NET_HZ[most],
            upDb: up.db[most],
            downDb: down.db[most],
          },
        ]
      }),
    ),
  )
}

/** Cuts of three stages or more that add up. */
export function cascadesOf(contributors: readonly Contributor[]): Cascade[] {
  return EDGES.flatMap((hz): Cascade[] => {
    const cutting = contributors.filter((c) => c.family !== 'amp' && c.family !== 'drive' && netAt(c.db, hz) < -CUTS)
    if (cutting.filter((c) => c.family !== 'cabinet').length < 2 || cutting.length < 3) return []
    return [{ hz, stages: cutting.map((c) => c.stage), db: cutting.reduce((sum, c) => sum + netAt(c.db, hz), 0) }]
  })
}
