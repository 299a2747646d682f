import { describe, expect, it } from 'vitest'
import { Rooms } from './rooms'

describe('rooms', () => {
  it('gives back what has the same length, each once', () => {
    const rooms = new Rooms()
    const [a, b, c] = [new Float32Array(4), new Float32Array(4), new Float32Array(6)]
    for (const room of [a, b, c]) rooms.give(room)
    expect(rooms.take(5)).toBeUndefined()
    expect(rooms.take(4)).toBe(b)
    expect(rooms.take(4)).toBe(a)
    expect(rooms.take(4)).toBeUndefined()
    expect(rooms.take(6)).toBe(c)
  })

  it('keeps no more than it may, and counts what was taken', () => {
    const rooms = new Rooms(100)
    const all = Array.from({ length: 3 }, () => new Float32Array(12))
    for (const room of all) rooms.give(room)
    expect(rooms.take(12)).toBe(all[1])
    rooms.give(all[2])
    expect(rooms.take(12)).toBe(all[2])
    expect(rooms.take(12)).toBe(all[0])
    expect(rooms.take(12)).toBeUndefined()
  })
})
