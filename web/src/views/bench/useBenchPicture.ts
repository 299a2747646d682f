import type { MicBench } from '@fulgor/core/cabinet'
import type { BenchPicture } from '../../threads/cabinet.worker'
import { cabinetMaker } from '../../threads/crews'
import { useWish } from '../../background/useWish'

export interface Pictured {
  readonly picture: BenchPicture | null
  readonly problem: string | null
  /** ms from the change of the bench to its new picture. */
  readonly ms: number | null
}

/** Responses of a bench, computed beside the page; while one is computed only the newest wish waits. */
export function useBenchPicture(bench: MicBench, selected: string): Pictured {
  const { answer, problem, ms } = useWish(
    cabinetMaker,
    [bench, selected],
    () => cabinetMaker.job('picture', [bench, selected], { key: null, line: 'picture' }),
    { hold: true, follow: true },
  )
  return { picture: answer, problem, ms }
}
