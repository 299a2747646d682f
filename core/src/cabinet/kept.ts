/** Results kept for the next time; what was not asked for longest goes first. */
export class Kept<T extends object> {
  private readonly values = new Map<string, T>()
  private size = 0

  /** @param most of the sizes of all that is kept */
  constructor(
    private readonly most: number,
    private readonly sizeOf: (value: T) => number,
  ) {}

  get(key: string): T | undefined {
    const value = this.values.get(key)
    if (!value) return undefined
    this.values.delete(key)
    this.values.set(key, value)
    return value
  }

  keep(key: string, value: T): T {
    this.values.set(key, value)
    this.size += this.sizeOf(value)
    for (const [oldest, old] of this.values) {
      if (this.size <= this.most || oldest === key) break
      this.values.delete(oldest)
      this.size -= this.sizeOf(old)
    }
    return value
  }
}
