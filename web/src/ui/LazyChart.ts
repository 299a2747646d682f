import { lazyPart } from './lazyPart'

/** The chart, whose code is fetched when it is first drawn. */
export const LazyChart = lazyPart(async () => (await import('./Chart')).default)
