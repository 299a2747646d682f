import { edit } from '../edit'
import type { Preset } from '../preset'
import { EMPTY_BOARD, MAX_SWITCHES, samePlace, type Board, type BoardPlace, type BoardSwitch } from './description'

export const boardEdits = {
  setBoard: edit<{ board: Board }>((preset, { board }) => ({ ...preset, board })),
  changeBoard: edit<{ change: Partial<Omit<Board, 'switches'>> }>(
    (preset, { change }) => ({ ...preset, board: { ...boardOf(preset), ...change } }),
    { joins: ({ change }) => Object.keys(change).join() },
  ),
  addSwitch: edit<{ own: BoardSwitch }>((preset, { own }) => {
    const { switches } = boardOf(preset)
    if (switches.length >= MAX_SWITCHES) throw new RangeError(`A board holds at most ${MAX_SWITCHES} switches.`)
    if (switches.some((s) => samePlace(s, own))) throw new RangeError('There is a switch at this place already.')
    return mapSwitches(preset, (all) => [...all, own])
  }),
  changeSwitch: edit<{ id: string; change: Partial<Omit<BoardSwitch, 'id' | keyof BoardPlace>> }>(
    (preset, { id, change }) => mapSwitches(preset, (all) => all.map((s) => (s.id === id ? { ...s, ...change } : s))),
    { joins: ({ id, change }) => `${id} ${Object.keys(change).join()}` },
  ),
  /** What stands there already comes to where the switch was. */
  moveSwitch: edit<{ id: string; to: BoardPlace }>((preset, { id, to: { page, bank, index } }) => {
    const own = boardOf(preset).switches.find((s) => s.id === id)
    if (!own) throw new RangeError('There is no such switch on the board.')
    const to = { page, bank, index }
    if (samePlace(own, to)) return preset
    const from = { page: own.page, bank: own.bank, index: own.index }
    return mapSwitches(preset, (all) => all.map((s) => (s === own ? { ...s, ...to } : samePlace(s, to) ? { ...s, ...from } : s)))
  }),
  removeSwitch: edit<{ id: string }>((preset, { id }) => mapSwitches(preset, (all) => all.filter((s) => s.id !== id))),
}

const boardOf = (preset: Preset): Board => preset.board ?? EMPTY_BOARD

function mapSwitches(preset: Preset, change: (switches: readonly BoardSwitch[]) => readonly BoardSwitch[]): Preset {
  const board = boardOf(preset)
  return { ...preset, board: { ...board, switches: change(board.switches) } }
}
