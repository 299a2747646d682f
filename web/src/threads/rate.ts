/** Rate at which everything is rendered and played. */
export const SAMPLE_RATE = 48_000
