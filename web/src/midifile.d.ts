declare module 'midifile' {
  interface ReadEvent {
    readonly type: number
    readonly subtype: number
    readonly channel?: number
    readonly param1?: number
    readonly param2?: number
    readonly data?: readonly number[]
    readonly tempo?: number
    readonly playTime: number
  }
  export default class MIDIFile {
    constructor(bytes: Uint8Array)
    readonly header: { getFormat(): number; getTracksCount(): number; getTicksPerBeat(): number }
    getTrackEvents(track: number): ReadEvent[]
    getMidiEvents(): ReadEvent[]
  }
}
