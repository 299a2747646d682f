/** One thing that can be done, as menus list it. */
export interface Action {
  readonly label: string
  /** Its keys, as they are shown. */
  readonly keys?: string
  readonly act: () => void
  readonly off?: boolean
}
