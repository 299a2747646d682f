/** Entries that hold every word, those that begin with the text first. */
export function matching<T extends { readonly words: string; readonly also: string }>(entries: readonly T[], text: string): readonly T[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const clean = words.join(' ')
  const rank = (e: T) => (e.words.toLowerCase().startsWith(clean) ? 0 : words.every((w) => e.words.toLowerCase().includes(w)) ? 1 : 2)
  return entries
    .filter((e) => words.every((w) => `${e.words} ${e.also}`.toLowerCase().includes(w)))
    .map((e, i) => [rank(e), i, e] as const)
    .sort((a, b) => a[0] - b[0] || a[1] - b[1])
    .map(([, , e]) => e)
}
