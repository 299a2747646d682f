/** dB(A) from which the usual limits count, and hours a day that they allow there. */
export const LIMIT_DBA = 85
const LIMIT_H = 8
/** dB that halve the time. */
const EXCHANGE_DB = 3

/**
 * Hours a day that the usual limit of exposure allows at a level, 8 h / 2^((L − 85) / 3); null below it, where it names no time.
 * Source: NIOSH, Criteria for a Recommended Standard: Occupational Noise Exposure, 98-126, 1998.
 */
export const allowedHours = (dba: number): number | null =>
  dba < LIMIT_DBA ? null : LIMIT_H / Math.pow(2, (dba - LIMIT_DBA) / EXCHANGE_DB)
