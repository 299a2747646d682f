/**
 * One channel of a delay with a first-order low-pass on every repeat, for core/src/signal/delays/delay.ts. From a chunk on a length
 * looks back further than the chunk: nothing in it hears itself. Shorter ones go sample by sample.
 */
import { decay, ramp, settled } from '../filters'
import { alloc, CHUNK } from '../memory'

@unmanaged
export class Delay {
  /** A power of two of frames, with what stands at its start once more behind its end. */
  ring: usize
  mask: i32
  write: i32
  low: f64
}

export function delayCreate(size: i32): Delay {
  const self = changetype<Delay>(alloc(offsetof<Delay>()))
  self.ring = alloc((<usize>size << 2) + 16)
  self.mask = size - 1
  return self
}

export function delayReset(self: Delay): void {
  memory.fill(self.ring, 0, (<usize>(self.mask + 1) << 2) + 16)
  self.low = 0
}

/** What feeds a delay and what is heard of it, each with its step a sample. */
@unmanaged
export class DelaySettings {
  feedback: f32
  feedbackStep: f32
  dry: f32
  dryStep: f32
  wet: f32
  wetStep: f32
  open: f32
  openStep: f32
  /** Share of the reading at `length`; the rest is read at `previous`. */
  share: f32
  shareStep: f32
  /** Frames, at least 1. */
  length: i32
  previous: i32
  /** Coefficient of the low-pass. */
  tone: f64
}

export function delaySettingsCreate(): DelaySettings {
  return changetype<DelaySettings>(alloc(offsetof<DelaySettings>()))
}

/** A chunk in place: the dry sound and the repeats. */
export function delayProcess(self: Delay, settings: DelaySettings, data: usize): void {
  if (min(settings.length, settings.previous) < CHUNK) short(self, settings, data)
  else long(self, settings, data)
  self.write = (self.write + CHUNK) & self.mask
}

function long(self: Delay, settings: DelaySettings, data: usize): void {
  const ring = self.ring, mask = self.mask, write = self.write
  const now = ring + (<usize>write << 2)
  const length = settings.length, previous = settings.previous
  const swaps = settings.share != 1 || settings.shareStep != 0
  const k = 1 - settings.tone, k4 = k * k * k * k
  const c = f32x4.splat(<f32>settings.tone), k1 = f32x4.splat(<f32>k), k2 = f32x4.splat(<f32>(k * k)), fading = decay(k)
  const feedback = f32x4.splat(settings.feedback), feedbackStep = f32x4.splat(settings.feedbackStep)
  const dry = f32x4.splat(settings.dry), dryStep = f32x4.splat(settings.dryStep)
  const wet = f32x4.splat(settings.wet), wetStep = f32x4.splat(settings.wetStep)
  const open = f32x4.splat(settings.open), openStep = f32x4.splat(settings.openStep)
  const share = f32x4.splat(settings.share), shareStep = f32x4.splat(settings.shareStep)
  const ones = f32x4.splat(1), four = f32x4.splat(4)
  let at = f32x4(0, 1, 2, 3), low = self.low
  for (let i: i32 = 0; i < CHUNK; i += 4) {
    let echo = v128.load(ring + (<usize>((write + i - length) & mask) << 2))
    if (swaps) {
      const part = ramp(share, shareStep, at)
      const old = v128.load(ring + (<usize>((write + i - previous) & mask) << 2))
      echo = f32x4.add(f32x4.mul(part, echo), f32x4.mul(f32x4.sub(ones, part), old))
    }
    const fresh = settled(echo, c, k1, k2)
    const y = f32x4.add(fresh, f32x4.mul(fading, f32x4.splat(<f32>low)))
    low = k4 * low + f32x4.extract_lane(fresh, 3)
    const p = data + (<usize>i << 2)
    const x = v128.load(p), fed = ramp(open, openStep, at)
    v128.store(now + (<usize>i << 2), f32x4.add(f32x4.mul(x, fed), f32x4.mul(y, ramp(feedback, feedbackStep, at))))
    // while the stage is off its dry path is whole
    const direct = f32x4.add(f32x4.mul(ramp(dry, dryStep, at), fed), f32x4.sub(ones, fed))
    v128.store(p, f32x4.add(f32x4.mul(x, direct), f32x4.mul(y, ramp(wet, wetStep, at))))
    at = f32x4.add(at, four)
  }
  self.low = low
  if (write == 0) v128.store(ring + (<usize>(mask + 1) << 2), v128.load(ring))
}

function short(self: Delay, settings: DelaySettings, data: usize): void {
  const ring = self.ring, mask = self.mask, write = self.write
  const a = settings.tone, b = 1 - a
  let low = self.low
  for (let i: i32 = 0; i < CHUNK; i++) {
    const k = <f32>i
    const share = settings.share + k * settings.shareStep
    const now = load<f32>(ring + (<usize>((write + i - settings.length) & mask) << 2))
    const old = load<f32>(ring + (<usize>((write + i - settings.previous) & mask) << 2))
    low = b * low + a * <f64>(share * now + (1 - share) * old)
    const y = <f32>low
    const p = data + (<usize>i << 2)
    const x = load<f32>(p), fed = settings.open + k * settings.openStep
    store<f32>(ring + (<usize>(write + i) << 2), x * fed + y * (settings.feedback + k * settings.feedbackStep))
    store<f32>(p, x * ((settings.dry + k * settings.dryStep) * fed + 1 - fed) + y * (settings.wet + k * settings.wetStep))
  }
  self.low = low
  if (write == 0) v128.store(ring + (<usize>(mask + 1) << 2), v128.load(ring))
}
