/** “350 Hz” or “2.2 kHz”. */
export const hz = (value: number): string => (value >= 1000 ? `${Number((value / 1000).toPrecision(3))} kHz` : `${Math.round(value)} Hz`)

/** “+2”, “−1.5”; a true minus. */
export const signed = (db: number): string => `${db > 0 ? '+' : '\u2212'}${Number(Math.abs(db).toFixed(1))}`
