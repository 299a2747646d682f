/** A voice of the pitch shifter and its search for a like place, for core/src/signal/modulation/pitchShift.ts with the sources. */
import { betweenFour, closed } from '../lanes'
import { alloc, BYTES, CHUNK, copied, sample } from '../memory'

@unmanaged
export class Voice {
  // written by the host, in the order of VOICE in pitchShift.ts; lengths in frames
  ratio: f64
  far: f64
  near: f64
  fade: f64
  onsetFade: f64
  attack: f64
  rest: f64
  jump: f64
  search: f64
  most: f64
  fastStep: f64
  slowStep: f64
  onsetRatio: f64
  onsetLeast: f64
  lowPole: f64
  highPole: f64
  dry: f64
  dryStep: f64
  wet: f64
  wetStep: f64
  // where it reads, and what it leaves under a crossfade
  delay: f64
  leaving: f64
  leavingStep: f64
  share: f64
  shareStep: f64
  // frames since the last onset, and the levels that tell one
  since: f64
  fast: f64
  slow: f64
  low: f64
  high: f64
  mask: i32
  write: i32
  ring: usize
}

export function pitchCreate(size: i32): Voice {
  const self = changetype<Voice>(alloc(offsetof<Voice>()))
  self.mask = size - 1
  self.ring = alloc(<usize>size << 2)
  return self
}

/** Forgets all sound; what the host has written stays. */
export function pitchReset(self: Voice): void {
  memory.fill(self.ring, 0, <usize>(self.mask + 1) << 2)
  self.delay = self.leaving = self.near
  self.share = 1
  self.since = 1e9
  self.fast = self.slow = self.low = self.high = 0
}

@inline
function rounded(x: f64): i32 {
  return <i32>Math.floor(x + 0.5)
}

/** The place near `least` at which the recent waveform resembles that at the present one most; not before the last onset. */
function like(self: Voice, delay: f64, since: f64, write: i32, least: f64, most: f64): f64 {
  const last = Math.min(most, Math.max(least, since - 8))
  return <f64>pitchBestPlace(self.ring, self.mask + 1, write, write - rounded(delay), rounded(self.fade), rounded(least), last)
}

/** Up: back by about a period or more before the reading place meets the writing one. Down: forward before it falls too far behind. Below 0: on. */
function jumpInTime(self: Voice, delay: f64, since: f64, write: i32, step: f64): f64 {
  const near = self.near, fade = self.fade
  if (step < 0 && delay + step * fade < near) {
    // nothing resembles the present place more than itself: a jump of no length would be made again at once
    const least = delay + Math.max(-step * fade, self.jump)
    const most = near - step * fade + self.search
    return like(self, delay, since, write, least, Math.max(least, Math.min(most, self.far + delay)))
  }
  if (step > 0 && delay > self.far) return like(self, delay, since, write, near, Math.min(near + self.search, delay - self.jump))
  return -1
}

// of a chunk's frames: where the voice reads and where that which it leaves, frames back, the share of the first, and whether it is an onset
const places = alloc(BYTES * 2)
const left = alloc(BYTES * 2)
const shares = alloc(BYTES)
const onsets = alloc(BYTES)

/** Finds what may be onsets by level. @returns whether there is one */
function listen(self: Voice, data: usize): bool {
  const risen = self.onsetRatio * self.onsetRatio, least = self.onsetLeast * self.onsetLeast
  const fastStep = self.fastStep, slowStep = self.slowStep, fastKept = 1 - fastStep, slowKept = 1 - slowStep
  let fast = self.fast, slow = self.slow, any = 0
  for (let i: usize = 0; i < BYTES; i += 4) {
    const x = <f64>load<f32>(data + i)
    const power = x * x
    fast = fastKept * fast + fastStep * power
    slow = slowKept * slow + slowStep * power
    const is = <i32>(fast > risen * slow) & <i32>(fast > least)
    store<i32>(onsets + i, is)
    any |= is
  }
  // decaying levels would end among denormal numbers
  self.fast = fast < 1e-30 ? 0 : fast
  self.slow = slow < 1e-30 ? 0 : slow
  return any != 0
}

/** Where a chunk is read, by what comes in alone. @returns whether anything is left under a crossfade */
function follow(self: Voice, data: usize): bool {
  const any = listen(self, data)
  return !any && isEven(self) ? glide(self) : decide(self)
}

/** Whether a chunk without an onset moves evenly: nothing begins, ends or jumps within it. */
function isEven(self: Voice): bool {
  const count = <f64>CHUNK, step = 1 - self.ratio
  if (self.since <= self.attack && self.since + count > self.attack) return false
  if (self.share < 1) return self.share + count * self.shareStep < 1
  if (self.since <= self.attack || self.ratio == 1) return true
  const last = self.delay + count * step
  return step < 0 ? last + step * self.fade >= self.near : last <= self.far
}

/** A chunk that {@link isEven}. */
function glide(self: Voice): bool {
  const step = self.since > self.attack ? 1 - self.ratio : 0, fades = self.share < 1
  straight(places, self.delay, step, self.most)
  self.delay += <f64>CHUNK * step
  self.since += <f64>CHUNK
  if (!fades) return false
  straight(left, self.leaving, self.leavingStep, self.most)
  self.leaving += <f64>CHUNK * self.leavingStep
  let share = self.share
  const shareStep = self.shareStep
  // one by one, so that it ends at the same frame as where each is decided
  for (let i: usize = 0; i < BYTES; i += 4) {
    store<f32>(shares + i, <f32>share)
    share += shareStep
  }
  self.share = Math.min(1, share)
  return true
}

/** Places from the one behind `start` on, a step apart, none nearer than two frames or farther than `most`. */
@inline
function straight(to: usize, start: f64, step: f64, most: f64): void {
  const near = f64x2.splat(2), far = f64x2.splat(most), two = f64x2.splat(2 * step)
  let at = f64x2.add(f64x2.splat(start), f64x2.mul(f64x2.splat(step), f64x2(1, 2)))
  for (let i: usize = 0; i < BYTES * 2; i += 16) {
    v128.store(to + i, f64x2.pmin(f64x2.pmax(at, near), far))
    at = f64x2.add(at, two)
  }
}

/** A chunk frame by frame. */
function decide(self: Voice): bool {
  const mask = self.mask, step = 1 - self.ratio, moving = self.ratio != 1
  const attack = self.attack, rest = self.rest, most = self.most
  let write = self.write, delay = self.delay, leaving = self.leaving, leavingStep = self.leavingStep
  let share = self.share, shareStep = self.shareStep, since = self.since
  let fades = false
  for (let i: usize = 0; i < BYTES; i += 4) {
    since += 1
    if (load<i32>(onsets + i) != 0 && since > rest) {
      leavingStep = since > attack ? step : 0
      since = 0
      leaving = delay
      delay = self.near
      share = 0
      shareStep = 1 / Math.floor(self.onsetFade + 0.5)
    }
    write = (write + 1) & mask
    if (since > attack) {
      delay += step
      if (moving && share >= 1) {
        const to = jumpInTime(self, delay, since, write, step)
        if (to >= 0) {
          leaving = delay
          leavingStep = step
          delay = to
          share = 0
          shareStep = 1 / Math.floor(self.fade + 0.5)
        }
      }
    }
    store<f64>(places + (i << 1), Math.min(most, Math.max(2, delay)))
    store<f32>(shares + i, <f32>share)
    if (share < 1) {
      fades = true
      leaving += leavingStep
      share = Math.min(1, share + shareStep)
    }
    store<f64>(left + (i << 1), Math.min(most, Math.max(2, leaving)))
  }
  self.delay = delay
  self.leaving = leaving
  self.leavingStep = leavingStep
  self.share = share
  self.shareStep = shareStep
  self.since = since
  return fades
}

/** A chunk in place: what goes on dry, and the voice. */
export function pitchProcess(self: Voice, data: usize): void {
  const ring = self.ring, mask = self.mask, at = <usize>self.write << 2
  copied(ring + at, data)
  closed(ring, mask, at)
  const fades = follow(self, data)
  const lowPole = self.lowPole, highPole = self.highPole, dryStep = self.dryStep, wetStep = self.wetStep
  let low = self.low, high = self.high, dry = self.dry, wet = self.wet
  for (let i: usize = 0; i < BYTES; i += 16) {
    const write = self.write + <i32>(i >> 2) + 1, place = places + (i << 1), leaves = left + (i << 1)
    let voice = betweenFour(ring, mask, write, v128.load(place), v128.load(place, 16))
    if (fades) {
      const share = v128.load(shares + i)
      const old = betweenFour(ring, mask, write, v128.load(leaves), v128.load(leaves, 16))
      voice = f32x4.add(f32x4.mul(share, voice), f32x4.mul(f32x4.sub(f32x4.splat(1), share), old))
    }
    v128.store(shares + i, voice)
  }
  for (let i: usize = 0; i < BYTES; i += 4) {
    low = (1 - lowPole) * low + lowPole * <f64>load<f32>(shares + i)
    high = (1 - highPole) * high + highPole * low
    store<f32>(data + i, <f32>(<f64>load<f32>(data + i) * dry + (low - high) * wet))
    dry += dryStep
    wet += wetStep
  }
  self.write = (self.write + CHUNK) & mask
  // decaying states would end among denormal numbers
  self.low = Math.abs(low) < 1e-30 ? 0 : low
  self.high = Math.abs(high) < 1e-30 ? 0 : high
}

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
