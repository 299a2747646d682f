import { useEffect, useMemo, useSyncExternalStore } from 'react'
import type { Crew, Job } from './crew'
import type { Answer, Tasks } from './tasks'
import { same, Wish, type Manner, type Outcome } from './wish'

/** An outcome, and whether it is whole and belongs to what is wished for now. */
export type Seen<R> = Outcome<R> & { readonly fresh: boolean }

/**
 * Answers of jobs for as long as a component wishes for them.
 * @param deps what the jobs depend on; they are asked anew when one of them changes
 */
export function useWishes<T extends Tasks, N extends keyof T & string>(
  crew: Crew<T>,
  deps: readonly unknown[],
  jobs: () => readonly Job<T, N>[],
  manner: Manner = {},
): Seen<Answer<T[N]>> {
  const wish = useMemo(() => new Wish<T, N>(crew), [crew])
  useEffect(() => wish.leave, [wish])
  // after every drawing: the wish itself sees whether something has changed
  useEffect(() => wish.want(deps, jobs, manner))
  const outcome = useSyncExternalStore(wish.subscribe, wish.now)
  return { ...outcome, fresh: outcome.waiting === 0 && same(outcome.of, deps) }
}

/** What came of one job. */
export interface Single<R> {
  readonly answer: R | null
  readonly problem: string | null
  readonly ms: number | null
  readonly fresh: boolean
}

/** As {@link useWishes} for one job; null wishes for nothing. */
export function useWish<T extends Tasks, N extends keyof T & string>(
  crew: Crew<T>,
  deps: readonly unknown[],
  job: () => Job<T, N> | null,
  manner: Manner = {},
): Single<Answer<T[N]>> {
  const { answers, problems, ms, fresh } = useWishes(
    crew,
    deps,
    () => {
      const wanted = job()
      return wanted ? [wanted] : []
    },
    manner,
  )
  return { answer: answers[0] ?? null, problem: problems[0] ?? null, ms, fresh }
}
