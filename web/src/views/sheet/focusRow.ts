import type { Thunk } from '../../state/store'

/** Puts the focus on a stage's row, once the dialog before it is gone and the row is there. */
export function focusRow(stage: string): void {
  const look = (tries: number) => {
    const cell = document.querySelector<HTMLElement>(`[data-stage="${CSS.escape(stage)}"] [data-cell]`)
    if (cell && !document.querySelector('[role=dialog]')) cell.focus()
    else if (tries > 0) setTimeout(() => look(tries - 1), 40)
  }
  look(20)
}

/** Puts the focus on the row of the chosen stage. */
export const focusChosen = (): Thunk => (_dispatch, getState) => {
  const { stage } = getState().editor
  if (stage !== null) focusRow(stage)
}
