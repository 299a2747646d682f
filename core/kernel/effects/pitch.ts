/** The search for a like place of the pitch shifter, for core/src/signal/modulation/pitchShift.ts. */
import { alloc, sample } from '../memory'

/** Every fourth sample of up to so many. */
const MOST: usize = 8192
const LEAD: usize = 32

const here = alloc(MOST * 2)
const even = alloc(MOST * 4 + LEAD) + LEAD
const odd = alloc(MOST * 4 + LEAD) + LEAD

let likest: f64 = 0
let best: i32 = 0

@inline
function judge(product: f64, power: f64, place: i32, last: f64): void {
  if (<f64>place > last) return
  const likeness = (product * Math.abs(product)) / power
  if (likeness <= likest) return
  likest = likeness
  best = place
}

/**
 * The place, of `first`, `first` + 2 … up to `last` frames before `write`, before which the waveform resembles most that before `at`, by the
 * normalised product of every fourth of `length` samples. Each place is summed in the order of time, eight places side by side.
 */
export function pitchBestPlace(ring: usize, size: i32, write: i32, at: i32, length: i32, first: i32, last: f64): i32 {
  const mask = size - 1
  const count = (length + 3) >> 2
  likest = -Infinity
  best = first
  if (<f64>first > last) return best
  const turns = (<i32>((last - <f64>first) * 0.5) >> 1) + 1 // places of either parity
  for (let j = 0; j < count; j++) store<f64>(here + (<usize>j << 3), sample(ring, at - length + 4 * j, mask))
  const start = write - first - length - 4 * (turns - 1)
  for (let u = 0; u < count + turns - 1; u++) {
    store<f64>(even + (<usize>u << 3), sample(ring, start + 4 * u, mask))
    store<f64>(odd + (<usize>u << 3), sample(ring, start - 2 + 4 * u, mask))
  }
  const least = f64x2.splat(1e-9), none = f64x2.splat(0)
  for (let q = 0; q < turns; q += 4) {
    // lanes of a load: the later place, then the one two before it
    let p0 = none, p1 = none, p2 = none, p3 = none, w0 = least, w1 = least, w2 = least, w3 = least
    let e = even + (<usize>(turns - 1 - q) << 3) - 8, o = odd + (<usize>(turns - 1 - q) << 3) - 8
    for (let h = here, end = here + (<usize>count << 3); h < end; h += 8) {
      const a = v128.load64_splat(h)
      const b0 = v128.load(e), b1 = v128.load(e - 16), b2 = v128.load(o), b3 = v128.load(o - 16)
      p0 = f64x2.add(p0, f64x2.mul(a, b0))
      w0 = f64x2.add(w0, f64x2.mul(b0, b0))
      p1 = f64x2.add(p1, f64x2.mul(a, b1))
      w1 = f64x2.add(w1, f64x2.mul(b1, b1))
      p2 = f64x2.add(p2, f64x2.mul(a, b2))
      w2 = f64x2.add(w2, f64x2.mul(b2, b2))
      p3 = f64x2.add(p3, f64x2.mul(a, b3))
      w3 = f64x2.add(w3, f64x2.mul(b3, b3))
      e += 8
      o += 8
    }
    const place = first + 4 * q
    judge(f64x2.extract_lane(p0, 1), f64x2.extract_lane(w0, 1), place, last)
    judge(f64x2.extract_lane(p2, 1), f64x2.extract_lane(w2, 1), place + 2, last)
    judge(f64x2.extract_lane(p0, 0), f64x2.extract_lane(w0, 0), place + 4, last)
    judge(f64x2.extract_lane(p2, 0), f64x2.extract_lane(w2, 0), place + 6, last)
    judge(f64x2.extract_lane(p1, 1), f64x2.extract_lane(w1, 1), place + 8, last)
    judge(f64x2.extract_lane(p3, 1), f64x2.extract_lane(w3, 1), place + 10, last)
    judge(f64x2.extract_lane(p1, 0), f64x2.extract_lane(w1, 0), place + 12, last)
    judge(f64x2.extract_lane(p3, 0), f64x2.extract_lane(w3, 0), place + 14, last)
  }
  return best
}
