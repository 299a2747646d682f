import { reachOf } from '@fulgor/core/board'
import {
  BOARD_PAGES,
  capacityOf,
  createSwitch,
  switchAt,
  type Board,
  type BoardPage,
  type BoardPlace,
  type Edit,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'
import type { Finding } from './finding'

export const placeWords = ({ page, bank, index }: BoardPlace): string => `Switch ${index + 1} of bank ${bank + 1}, page of ${page}`

/** The first place without a switch on these faces, in their order. */
export function freePlace(board: Board, faces: readonly Omit<BoardPlace, 'index'>[], switches: number): BoardPlace | null {
  for (const { page, bank } of faces)
    for (let index = 0; index < switches; index++) {
      const place = { page, bank, index }
      if (!switchAt(board, place)) return place
    }
  return null
}

/** Pages with the one that something belongs to first. */
export const pagesFrom = (page: BoardPage): BoardPage[] => [page, ...BOARD_PAGES.filter((p) => p !== page)]

/** The mend that puts a function on a switch that does nothing yet and that a foot can reach. */
export function onFreeSwitch(preset: Preset, press: SwitchFunction, newId: () => string): Finding['mends'] {
  const { board } = preset
  if (!board) return []
  const capacity = capacityOf(preset.device)
  const pages = pagesFrom(press.do === 'stages' || press.do === 'source' ? 'singles' : 'snapshots')
  const faces = [...reachOf(board, capacity).faces].sort((a, b) => pages.indexOf(a.page) - pages.indexOf(b.page) || a.bank - b.bank)
  const place = freePlace(board, faces, capacity.switches)
  if (!place) return []
  const edits: readonly Edit[] = [{ type: 'addSwitch', own: { ...createSwitch(newId(), place), press } }]
  return [{ label: `Put it on switch ${place.index + 1} of bank ${place.bank + 1}, ${place.page}`, edits }]
}
