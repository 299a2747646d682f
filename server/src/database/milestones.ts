import { eq } from 'drizzle-orm'
import type { Database } from './database'
import { milestones } from './schema'

/** What is done once in the life of a data folder. */
export type Milestone = 'demo begun' | 'demo' | 'riffs in the Kit'

export const hasReached = async ({ db }: Database, name: Milestone): Promise<boolean> =>
  (await db.query.milestones.findFirst({ where: eq(milestones.name, name) })) !== undefined

export const reached = (database: Database, name: Milestone) =>
  database.change(database.db.insert(milestones).values({ name, at: Date.now() }).onConflictDoNothing())
