/** The usual stretch of a spectrum in a drawing. */
export const HERTZ_AXIS = {
  log: true,
  min: 50,
  max: 16_000,
  ticks: [100, 1_000, 10_000],
  format: (v: number) => (v >= 1000 ? `${v / 1000}k` : String(v)),
  unit: 'Hz',
}
