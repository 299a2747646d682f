/** Bytes of rooms that wait to be used again. */
const MOST_BYTES = 128e6

/** Used memory of sounds, for sounds of the same length: writing into fresh pages costs five to twenty times as much. */
export class Rooms {
  private readonly free = new Map<number, Float32Array[]>()
  private bytes = 0

  constructor(private readonly mostBytes = MOST_BYTES) {}

  /** A room of so many frames that nobody reads any more, with whatever stands in it. */
  take(frames: number): Float32Array | undefined {
    const room = this.free.get(frames)?.pop()
    if (room) this.bytes -= room.byteLength
    return room
  }

  /** Nobody reads it any more; what is too much goes. */
  give(room: Float32Array): void {
    if (this.bytes + room.byteLength > this.mostBytes) return
    const alike = this.free.get(room.length)
    if (alike) alike.push(room)
    else this.free.set(room.length, [room])
    this.bytes += room.byteLength
  }
}
