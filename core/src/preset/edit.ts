import type { Preset } from './preset'

/** What can be done with a preset under one name. */
export interface EditKind<E> {
  /**
   * The preset after it, sharing what did not change; the same object where nothing changes.
   * @throws RangeError with a sentence for the player where it cannot be done
   */
  apply(preset: Preset, edit: E): Preset
  /** Edits with the same key that follow each other quickly are one step of undo. */
  joins?(edit: E): string
  /** ms within which they do, where it is not the usual time. */
  within?(edit: E): number | undefined
  /** True where something goes: then every part forgets what it said of it. */
  readonly removes?: true
}

/** Describes one kind of edit by what it carries. */
export const edit = <E extends object>(apply: EditKind<E>['apply'], more: Omit<EditKind<E>, 'apply'> = {}): EditKind<E> => ({
  apply,
  ...more,
})

/** The edits of some kinds, each with its name as `type`. */
export type EditsOf<Kinds> = {
  [K in keyof Kinds]: Kinds[K] extends { apply(preset: Preset, edit: infer E): Preset } ? { readonly type: K } & E : never
}[keyof Kinds]
