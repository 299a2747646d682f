/** Offers bytes or text to the player as a file. */
export function download(name: string, content: Uint8Array<ArrayBuffer> | string, type: string): void {
  const url = URL.createObjectURL(new Blob([content], { type }))
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** A preset's or snapshot's name as a file name. */
export const fileName = (...parts: readonly string[]): string =>
  parts
    .join(' ')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'fulgor'
