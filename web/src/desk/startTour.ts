export const TOUR = 'fulgor-tour'

/** Begins the tour wherever a preset is open. */
export const startTour = (): void => void dispatchEvent(new Event(TOUR))
