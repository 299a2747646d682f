/** A field that takes text: letters belong to it, not to the sheet. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || target.matches('input:not([type=range], [type=checkbox]), textarea, select'))

/** A field whose text is being changed: the keys of undo belong to its letters. Once taken it gives them back. */
export const isWriting = (target: HTMLElement): boolean => isTyping(target) && target.dataset.dirty !== 'false'
