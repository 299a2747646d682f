/**
 * Transform of a real frame by ring splitting, f32 SIMD: z^2m − w² = (z^m − w)(z^m + w), one butterfly stage a level with one
 * factor w a block; no packing, no bit reversal. Source: Bernstein 2001, "Multidigit multiplication for mathematicians".
 */

/**
 * Forward transform in place of `size` complex points (a power of two, at least 16) at `at`: re[size] then im[size], f32. With
 * re = first half and im = second half of a real frame this evaluates it at the odd frequencies (2k+1)/(4·size) of the rate.
 * `factors`: re[size] then im[size], level by level. The order of the bins is that of the splitting, see splittingOrder.
 */
export function forward(at: usize, size: i32, factors: usize): void {
  const im: usize = (<usize>size) << 2
  let half: i32 = size >> 1
  let blocks: i32 = 1
  let level: usize = 0
  while (half >= 4) {
    for (let b = 0; b < blocks; b++) {
      const f = factors + ((level + <usize>b) << 2)
      const wr = v128.load32_splat(f)
      const wi = v128.load32_splat(f + im)
      const span = (<usize>half) << 2
      const lo0 = at + ((<usize>(b * 2 * half)) << 2)
      for (let o: usize = 0; o < span; o += 16) {
        const lo = lo0 + o
        const hi = lo + span
        rotateUp(lo, hi, im, wr, wi)
      }
    }
    level += <usize>blocks
    blocks <<= 1
    half >>= 1
  }
  const quads = size >> 2
  // the last two levels, four blocks of four at a time, lane = block; the order after it does not matter to a product
  for (let b = 0; b < quads; b += 4) {
    const p = at + ((<usize>(b * 4)) << 2)
    transpose(p)
    transpose(p + im)
    const f2 = factors + (<usize>(quads - 1 + b) << 2)
    rotateUp(p, p + 32, im, v128.load(f2), v128.load(f2 + im))
    rotateUp(p + 16, p + 48, im, v128.load(f2), v128.load(f2 + im))
    const f1 = factors + (<usize>(2 * quads - 1 + b * 2) << 2)
    const ar = v128.load(f1)
    const br = v128.load(f1, 16)
    const am = v128.load(f1 + im)
    const bm = v128.load(f1 + im, 16)
    rotateUp(p, p + 16, im, evens(ar, br), evens(am, bm))
    rotateUp(p + 32, p + 48, im, odds(ar, br), odds(am, bm))
  }
}

/** Undoes {@link forward}, scaled by 1/size. */
export function inverse(at: usize, size: i32, factors: usize): void {
  const im: usize = (<usize>size) << 2
  const quads = size >> 2
  for (let b = 0; b < quads; b += 4) {
    const p = at + ((<usize>(b * 4)) << 2)
    const f1 = factors + (<usize>(2 * quads - 1 + b * 2) << 2)
    const ar = v128.load(f1)
    const br = v128.load(f1, 16)
    const am = v128.load(f1 + im)
    const bm = v128.load(f1 + im, 16)
    rotateDown(p, p + 16, im, evens(ar, br), evens(am, bm))
    rotateDown(p + 32, p + 48, im, odds(ar, br), odds(am, bm))
    const f2 = factors + (<usize>(quads - 1 + b) << 2)
    rotateDown(p, p + 32, im, v128.load(f2), v128.load(f2 + im))
    rotateDown(p + 16, p + 48, im, v128.load(f2), v128.load(f2 + im))
    transpose(p)
    transpose(p + im)
  }
  let half: i32 = 4
  let blocks: i32 = size >> 3
  let level: usize = <usize>(blocks - 1)
  const scale = f32x4.splat(1.0 / <f32>size)
  while (blocks >= 1) {
    for (let b = 0; b < blocks; b++) {
      const f = factors + ((level + <usize>b) << 2)
      const wr = v128.load32_splat(f)
      const wi = v128.load32_splat(f + im)
      const span = (<usize>half) << 2
      const lo0 = at + ((<usize>(b * 2 * half)) << 2)
      for (let o: usize = 0; o < span; o += 16) {
        const lo = lo0 + o
        rotateDown(lo, lo + span, im, wr, wi)
      }
    }
    blocks >>= 1
    level -= <usize>blocks
    half <<= 1
  }
  for (let o: usize = 0; o < im * 2; o += 16) v128.store(at + o, f32x4.mul(v128.load(at + o), scale))
}

@inline
function rotateUp(lo: usize, hi: usize, im: usize, wr: v128, wi: v128): void {
  const hr = v128.load(hi)
  const hm = v128.load(hi + im)
  const vr = f32x4.sub(f32x4.mul(hr, wr), f32x4.mul(hm, wi))
  const vm = f32x4.add(f32x4.mul(hr, wi), f32x4.mul(hm, wr))
  const ur = v128.load(lo)
  const um = v128.load(lo + im)
  v128.store(lo, f32x4.add(ur, vr))
  v128.store(lo + im, f32x4.add(um, vm))
  v128.store(hi, f32x4.sub(ur, vr))
  v128.store(hi + im, f32x4.sub(um, vm))
}

@inline
function rotateDown(lo: usize, hi: usize, im: usize, wr: v128, wi: v128): void {
  const ar = v128.load(lo)
  const am = v128.load(lo + im)
  const br = v128.load(hi)
  const bm = v128.load(hi + im)
  const dr = f32x4.sub(ar, br)
  const dm = f32x4.sub(am, bm)
  v128.store(lo, f32x4.add(ar, br))
  v128.store(lo + im, f32x4.add(am, bm))
  v128.store(hi, f32x4.add(f32x4.mul(dr, wr), f32x4.mul(dm, wi)))
  v128.store(hi + im, f32x4.sub(f32x4.mul(dm, wr), f32x4.mul(dr, wi)))
}

@inline
function evens(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 2, 4, 6)
}
@inline
function odds(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 1, 3, 5, 7)
}

@inline
function transpose(p: usize): void {
  const r0 = v128.load(p)
  const r1 = v128.load(p, 16)
  const r2 = v128.load(p, 32)
  const r3 = v128.load(p, 48)
  const a = v128.shuffle<f32>(r0, r1, 0, 4, 1, 5)
  const b = v128.shuffle<f32>(r2, r3, 0, 4, 1, 5)
  const c = v128.shuffle<f32>(r0, r1, 2, 6, 3, 7)
  const d = v128.shuffle<f32>(r2, r3, 2, 6, 3, 7)
  v128.store(p, v128.shuffle<f32>(a, b, 0, 1, 4, 5))
  v128.store(p, v128.shuffle<f32>(a, b, 2, 3, 6, 7), 16)
  v128.store(p, v128.shuffle<f32>(c, d, 0, 1, 4, 5), 32)
  v128.store(p, v128.shuffle<f32>(c, d, 2, 3, 6, 7), 48)
}
