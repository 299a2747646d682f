/**
 * A clock that stands still while a pointer is pressed: what one drag does is one step of undo, however long it takes and however slow
 * the machine is.
 */
export class HandClock {
  private readonly pressed = new Set<number>()
  private since = 0
  private lost = 0

  constructor(private readonly time: () => number = () => performance.now()) {}

  /** ms; its origin says nothing. */
  now(): number {
    return (this.pressed.size > 0 ? this.since : this.time()) - this.lost
  }

  press(pointer: number): void {
    if (this.pressed.size === 0) this.since = this.time()
    this.pressed.add(pointer)
  }

  release(pointer: number): void {
    if (this.pressed.delete(pointer) && this.pressed.size === 0) this.lost += this.time() - this.since
  }

  releaseAll(): void {
    for (const pointer of [...this.pressed]) this.release(pointer)
  }

  /** Watches the pointers of a page. */
  watch(page: Pick<Window, 'addEventListener'>): void {
    const on = { capture: true, passive: true }
    page.addEventListener('pointerdown', (event) => this.press(event.pointerId), on)
    for (const type of ['pointerup', 'pointercancel'] as const) page.addEventListener(type, (event) => this.release(event.pointerId), on)
    page.addEventListener('blur', () => this.releaseAll())
  }
}

export const handClock = new HandClock()
