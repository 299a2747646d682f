/**
 * dBTP above which a level is too hot: what is turned into an analogue signal or coded from there on may clip.
 * Source: EBU R 128 (2023), maximum permitted true peak −1 dBTP; inside of a chain the same figure is common practice, no source.
 */
export const CEILING_DBTP = -1
