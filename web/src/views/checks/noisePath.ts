/** A line down the rows through one place in each: straight in the middle of a row, swung over to the next. */
export function pathOf(xs: readonly number[], row: number): string {
  return xs
    .map((x, i) => {
      const y = i * row
      const own = `L${x.toFixed(1)} ${(y + row * 0.7).toFixed(1)}`
      if (i === 0) return `M${x.toFixed(1)} 0 ${own}`
      const middle = y + row * 0.05
      return `C${xs[i - 1].toFixed(1)} ${middle.toFixed(1)} ${x.toFixed(1)} ${middle.toFixed(1)} ${x.toFixed(1)} ${(y + row * 0.35).toFixed(1)} ${own}`
    })
    .join(' ')
}
