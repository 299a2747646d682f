import type { DroppedFile } from '../../threads/import.worker'

/** Files of a drop with the folders that they lie in; folders are read to their ends. */
export async function droppedFiles(items: DataTransferItemList): Promise<DroppedFile[]> {
  // the list is gone after the first wait
  const entries = [...items].flatMap((item) => item.webkitGetAsEntry() ?? [])
  return (await Promise.all(entries.map((entry) => filesUnder(entry)))).flat()
}

async function filesUnder(entry: FileSystemEntry): Promise<DroppedFile[]> {
  const path = entry.fullPath.replace(/^\//, '')
  if (entry.isFile) {
    const file = await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail))
    return [{ path, file }]
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  const inside: FileSystemEntry[] = []
  // a reader gives at most a hundred entries a call
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, fail) => reader.readEntries(done, fail))
    if (some.length === 0) break
    inside.push(...some)
  }
  const found: DroppedFile[] = []
  for (const child of inside) found.push(...(await filesUnder(child)))
  return found
}

/** Files of a file field; a chosen folder brings its own paths. */
export const chosenFiles = (list: FileList): DroppedFile[] =>
  [...list].map((file) => ({ path: file.webkitRelativePath || file.name, file }))
