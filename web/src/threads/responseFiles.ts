import { filesOf, type SoundFile } from '@fulgor/core/cabinet'
import { readSound } from '@fulgor/core/formats'

const MOST = 64

const loaded = new Map<string, SoundFile | null>()
const loading = new Map<string, Promise<void>>()

/** Files of impulse responses in this thread; null where one is not on this machine. */
export const fileSource = (file: string): SoundFile | null => loaded.get(file) ?? null

/** Fetches the stored files that these responses are made of. A file that is missing stays silent; an absent server throws. */
export async function loadFiles(responseIds: readonly string[]): Promise<void> {
  await Promise.all([...new Set(responseIds.flatMap(filesOf))].map(loadFile))
}

export function loadFile(file: string): Promise<void> {
  if (loaded.get(file)) return Promise.resolve()
  let request = loading.get(file)
  if (!request) {
    request = fetchFile(file).finally(() => loading.delete(file))
    loading.set(file, request)
  }
  return request
}

async function fetchFile(file: string): Promise<void> {
  const answer = await fetch(`/api/responses/${file}`)
  if (!answer.ok && answer.status !== 404) throw new Error('The server did not give an impulse response of this preset; it is asked again.')
  loaded.set(file, answer.ok ? readSound(new Uint8Array(await answer.arrayBuffer())) : null)
  if (loaded.size > MOST) loaded.delete([...loaded.keys()][0])
}
