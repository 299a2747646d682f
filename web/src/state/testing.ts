import { vi } from 'vitest'
import type { StoredPreset } from '@fulgor/core/api'
import type { OutputLevels } from '@fulgor/core/measure'
import type { Preset } from '@fulgor/core/preset'
import type { SnapshotFigures } from '../threads/measures'

/** A preset as the server tells it, for tests. */
export const storedPreset = (document: Preset, revision = 4): StoredPreset => ({
  id: 'p',
  name: document.name,
  tags: document.tags,
  tempo: document.tempo,
  stageCount: 8,
  snapshotCount: document.snapshots.length,
  revision,
  createdAt: 0,
  updatedAt: 5,
  deletedAt: null,
  document,
  saved: { number: 2, createdAt: 1, document },
})

/** Figures of an output of which only the loudness matters, and what is given, for tests. */
export const outputFigures = (integratedLufs: number | null, given: Partial<OutputLevels> = {}): SnapshotFigures => ({
  levels: {
    rmsDbfs: null,
    peakDbfs: null,
    truePeakDbtp: null,
    crestDb: null,
    centroidHz: null,
    integratedLufs,
    rangeLu: null,
    momentaryMaxLufs: null,
    shortTermMaxLufs: null,
    ...given,
  },
  bands: null,
})

/** Storage of a browser, for tests: Node has none. */
export function fakeStorage(kept = new Map<string, string>()): Map<string, string> {
  Object.assign(globalThis, {
    localStorage: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
      removeItem: (key: string) => kept.delete(key),
      key: (n: number) => [...kept.keys()][n] ?? null,
      get length() {
        return kept.size
      },
    },
  })
  return kept
}

/** Answers in place of a server, for tests: Node's own requests take no relative address. */
export function answering(answer: (request: Request) => Promise<Response>): void {
  const Whole = globalThis.Request
  vi.stubGlobal(
    'Request',
    class extends Whole {
      constructor(url: string, init?: RequestInit) {
        super(new URL(url, 'http://localhost'), init)
      }
    },
  )
  vi.stubGlobal('fetch', answer)
}
