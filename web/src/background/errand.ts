import type { Asked, Crew, Job } from './crew'
import { Cancelled, type Answer, type Tasks } from './tasks'

/** Several jobs one after another, for one purpose. */
export class Errand {
  private readonly asked = new Set<Asked<unknown>>()
  private over = false

  /** @throws Cancelled once the errand is over, so that nothing is done with what is no longer wanted */
  async run<T extends Tasks, N extends keyof T & string>(crew: Crew<T>, job: Job<T, N>): Promise<Answer<T[N]>> {
    if (this.over) throw new Cancelled()
    const asked = crew.ask(job)
    this.asked.add(asked)
    try {
      const answer = await asked.answer
      if (this.over) throw new Cancelled()
      return answer
    } finally {
      this.asked.delete(asked)
    }
  }

  /** Gives up what it is still waiting for. */
  readonly end = (): void => {
    this.over = true
    for (const { leave } of this.asked) leave()
  }

  get isOver(): boolean {
    return this.over
  }
}

/** One place's errands: a newer one ends the one before. */
export class Errands {
  private errand: Errand | null = null

  begin(): Errand {
    this.end()
    return (this.errand = new Errand())
  }

  readonly end = (): void => {
    this.errand?.end()
    this.errand = null
  }
}
