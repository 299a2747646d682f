/** One JSON value for a program, or lines for a person. */
export function print(json: boolean, value: unknown, lines: () => readonly string[]): void {
  process.stdout.write(json ? `${JSON.stringify(value)}\n` : `${lines().join('\n')}\n`)
}

export const figure = (value: number | null, unit: string, places = 1): string =>
  value === null ? 'none' : `${value.toFixed(places)} ${unit}`

/** Rows of text in aligned columns. */
export function table(rows: readonly (readonly string[])[]): string[] {
  const widths = rows[0].map((_, c) => Math.max(...rows.map((r) => r[c].length)))
  return rows.map((r) => r.map((cell, c) => (c === 0 ? cell.padEnd(widths[c]) : cell.padStart(widths[c]))).join('  '))
}

/** A file for each name beside `out`: what a file system may not hold is left out, and two that become alike are numbered. */
export function fileNames(out: string, names: readonly string[]): string[] {
  const taken = new Set<string>()
  return names.map((name, i) => {
    const plain = name.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || String(i + 1)
    let own = plain
    // some file systems do not tell capitals apart
    for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${plain} ${n}`
    taken.add(own.toLowerCase())
    return out.replace(/(\.wav)?$/i, ` ${own}.wav`)
  })
}
