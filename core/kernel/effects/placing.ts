/** Width and pan of both sides of a block, for core/src/signal/routing/placing.ts. */
import { ramp } from '../filters'
import { BYTES } from '../memory'

/**
 * Each side ← (middle ± width · half the difference) times what its pan leaves; both glide. The near side of a pan keeps its level.
 * @param pan −1 … 1
 */
export function place(left: usize, right: usize, width: f32, widthStep: f32, pan: f32, panStep: f32): void {
  const half = f32x4.splat(0.5), ones = f32x4.splat(1), four = f32x4.splat(4)
  const widths = f32x4.splat(width), widthSteps = f32x4.splat(widthStep), pans = f32x4.splat(pan), panSteps = f32x4.splat(panStep)
  let at = f32x4(0, 1, 2, 3)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const l = v128.load(left + i), r = v128.load(right + i)
    const middle = f32x4.mul(half, f32x4.add(l, r))
    const side = f32x4.mul(f32x4.mul(half, ramp(widths, widthSteps, at)), f32x4.sub(l, r))
    const p = ramp(pans, panSteps, at)
    v128.store(left + i, f32x4.mul(f32x4.add(middle, side), f32x4.pmin(f32x4.sub(ones, p), ones)))
    v128.store(right + i, f32x4.mul(f32x4.sub(middle, side), f32x4.pmin(f32x4.add(ones, p), ones)))
    at = f32x4.add(at, four)
  }
}
