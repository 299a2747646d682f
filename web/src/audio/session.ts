import { createContext, useContext } from 'react'
import type { Player } from './player'

/** What lives beside the store for as long as the page does. */
export interface Session {
  readonly player: Player
  readonly save: (note?: string) => Promise<void>
}

export const SessionContext = createContext<Session | null>(null)

export function useSession(): Session {
  const session = useContext(SessionContext)
  if (!session) throw new Error('No session around this component.')
  return session
}
