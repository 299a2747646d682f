/**
 * Transform of a real frame by ring splitting, f32 SIMD: z^2m − w² = (z^m − w)(z^m + w), one butterfly stage a level with one
 * factor w a block; no packing, no bit reversal. Source: Bernstein 2001, "Multidigit multiplication for mathematicians".
 * Two levels a pass, and the last four in registers, sixteen points at a time.
 */
import { early, firsts, lasts, late } from './lanes'

/**
 * Forward transform in place of `size` complex points (a power of two, at least 16) at `at`: re[size] then im[size], f32. With
 * re = first half and im = second half of a real frame this evaluates it at the odd frequencies (2k+1)/(4·size) of the rate.
 * `factors`: re[size] then im[size], level by level; those of a level of n blocks begin at the (n − 1)th. The order of the bins is that of the
 * splitting, see splittingOrder.
 */
export function forward(at: usize, size: i32, factors: usize): void {
  const im = <usize>size << 2
  let blocks: usize = 1
  if (ctz(size) & 1) {
    oneUp(at, im, factors)
    blocks = 2
  }
  for (let quarter = im / blocks >> 2; quarter >= 64; quarter >>= 2) {
    let coarse = factors + ((blocks - 1) << 2), fine = factors + ((2 * blocks - 1) << 2)
    for (let block = at, end = at + im; block < end; block += quarter << 2) {
      twoUp(block, quarter, im, coarse, fine)
      coarse += 4
      fine += 8
    }
    blocks <<= 2
  }
  lastUp(at, im, factors)
}

/** Undoes {@link forward}, scaled by 1/size, of a power of four. */
export function inverse(at: usize, size: i32, factors: usize): void {
  const im = <usize>size << 2
  firstDown(at, im, factors, 1.0 / <f32>size)
  let blocks = <usize>size >> 4
  for (let quarter: usize = 64; blocks >= 4; quarter <<= 2) {
    blocks >>= 2
    let coarse = factors + ((blocks - 1) << 2), fine = factors + ((2 * blocks - 1) << 2)
    for (let block = at, end = at + im; block < end; block += quarter << 2) {
      twoDown(block, quarter, im, coarse, fine)
      coarse += 4
      fine += 8
    }
  }
}

/** The first level of all points. */
function oneUp(at: usize, im: usize, factors: usize): void {
  const wr = v128.load32_splat(factors), wi = v128.load32_splat(factors + im)
  for (let lo = at, hi = at + (im >> 1), end = hi; lo < end; lo += 16) {
    const hr = v128.load(hi), hm = v128.load(hi + im)
    const vr = turnedRe(hr, hm, wr, wi), vm = turnedIm(hr, hm, wr, wi)
    const ur = v128.load(lo), um = v128.load(lo + im)
    v128.store(lo, f32x4.add(ur, vr))
    v128.store(lo + im, f32x4.add(um, vm))
    v128.store(hi, f32x4.sub(ur, vr))
    v128.store(hi + im, f32x4.sub(um, vm))
    hi += 16
  }
}

/** Two levels of one block, whose quarters are so many bytes. */
@inline
function twoUp(block: usize, quarter: usize, im: usize, coarse: usize, fine: usize): void {
  const wr = v128.load32_splat(coarse), wi = v128.load32_splat(coarse + im)
  const er = v128.load32_splat(fine), ei = v128.load32_splat(fine + im)
  const or = v128.load32_splat(fine, 4), oi = v128.load32_splat(fine + im, 4)
  let b = block + quarter, c = b + quarter, d = c + quarter
  for (let a = block, end = b; a < end; a += 16) {
    const hr = v128.load(c), hm = v128.load(c + im)
    const kr = v128.load(d), km = v128.load(d + im)
    const ur = turnedRe(hr, hm, wr, wi), um = turnedIm(hr, hm, wr, wi)
    const vr = turnedRe(kr, km, wr, wi), vm = turnedIm(kr, km, wr, wi)
    const ar = v128.load(a), am = v128.load(a + im)
    const br = v128.load(b), bm = v128.load(b + im)
    const pr = f32x4.add(ar, ur), pm = f32x4.add(am, um)
    const qr = f32x4.add(br, vr), qm = f32x4.add(bm, vm)
    const rr = f32x4.sub(ar, ur), rm = f32x4.sub(am, um)
    const sr = f32x4.sub(br, vr), sm = f32x4.sub(bm, vm)
    const xr = turnedRe(qr, qm, er, ei), xm = turnedIm(qr, qm, er, ei)
    const yr = turnedRe(sr, sm, or, oi), ym = turnedIm(sr, sm, or, oi)
    v128.store(a, f32x4.add(pr, xr))
    v128.store(a + im, f32x4.add(pm, xm))
    v128.store(b, f32x4.sub(pr, xr))
    v128.store(b + im, f32x4.sub(pm, xm))
    v128.store(c, f32x4.add(rr, yr))
    v128.store(c + im, f32x4.add(rm, ym))
    v128.store(d, f32x4.sub(rr, yr))
    v128.store(d + im, f32x4.sub(rm, ym))
    b += 16
    c += 16
    d += 16
  }
}

@inline
function twoDown(block: usize, quarter: usize, im: usize, coarse: usize, fine: usize): void {
  const wr = v128.load32_splat(coarse), wi = v128.load32_splat(coarse + im)
  const er = v128.load32_splat(fine), ei = v128.load32_splat(fine + im)
  const or = v128.load32_splat(fine, 4), oi = v128.load32_splat(fine + im, 4)
  let b = block + quarter, c = b + quarter, d = c + quarter
  for (let a = block, end = b; a < end; a += 16) {
    const ar = v128.load(a), am = v128.load(a + im)
    const br = v128.load(b), bm = v128.load(b + im)
    const cr = v128.load(c), cm = v128.load(c + im)
    const dr = v128.load(d), dm = v128.load(d + im)
    const xr = f32x4.sub(ar, br), xm = f32x4.sub(am, bm)
    const yr = f32x4.sub(cr, dr), ym = f32x4.sub(cm, dm)
    const pr = f32x4.add(ar, br), pm = f32x4.add(am, bm)
    const rr = f32x4.add(cr, dr), rm = f32x4.add(cm, dm)
    const qr = backRe(xr, xm, er, ei), qm = backIm(xr, xm, er, ei)
    const sr = backRe(yr, ym, or, oi), sm = backIm(yr, ym, or, oi)
    const ur = f32x4.sub(pr, rr), um = f32x4.sub(pm, rm)
    const vr = f32x4.sub(qr, sr), vm = f32x4.sub(qm, sm)
    v128.store(a, f32x4.add(pr, rr))
    v128.store(a + im, f32x4.add(pm, rm))
    v128.store(b, f32x4.add(qr, sr))
    v128.store(b + im, f32x4.add(qm, sm))
    v128.store(c, backRe(ur, um, wr, wi))
    v128.store(c + im, backIm(ur, um, wr, wi))
    v128.store(d, backRe(vr, vm, wr, wi))
    v128.store(d + im, backIm(vr, vm, wr, wi))
    b += 16
    c += 16
    d += 16
  }
}

/** The last four levels, of blocks of sixteen: the order after it does not matter to a product. */
function lastUp(at: usize, im: usize, factors: usize): void {
  const blocks = im >> 6
  let f8 = factors + ((blocks - 1) << 2), f4 = factors + ((2 * blocks - 1) << 2)
  let f2 = factors + ((4 * blocks - 1) << 2), f1 = factors + ((8 * blocks - 1) << 2)
  for (let p = at, end = at + im; p < end; p += 64) {
    const q = p + im
    let wr = v128.load32_splat(f8), wm = v128.load32_splat(f8 + im)
    let cr = v128.load(p, 32), cm = v128.load(q, 32)
    let dr = v128.load(p, 48), dm = v128.load(q, 48)
    let tr = turnedRe(cr, cm, wr, wm), tm = turnedIm(cr, cm, wr, wm)
    let ur = turnedRe(dr, dm, wr, wm), um = turnedIm(dr, dm, wr, wm)
    let ar = v128.load(p), am = v128.load(q)
    let br = v128.load(p, 16), bm = v128.load(q, 16)
    cr = f32x4.sub(ar, tr)
    cm = f32x4.sub(am, tm)
    dr = f32x4.sub(br, ur)
    dm = f32x4.sub(bm, um)
    ar = f32x4.add(ar, tr)
    am = f32x4.add(am, tm)
    br = f32x4.add(br, ur)
    bm = f32x4.add(bm, um)
    wr = v128.load32_splat(f4)
    wm = v128.load32_splat(f4 + im)
    tr = turnedRe(br, bm, wr, wm)
    tm = turnedIm(br, bm, wr, wm)
    wr = v128.load32_splat(f4, 4)
    wm = v128.load32_splat(f4 + im, 4)
    ur = turnedRe(dr, dm, wr, wm)
    um = turnedIm(dr, dm, wr, wm)
    br = f32x4.sub(ar, tr)
    bm = f32x4.sub(am, tm)
    ar = f32x4.add(ar, tr)
    am = f32x4.add(am, tm)
    dr = f32x4.sub(cr, ur)
    dm = f32x4.sub(cm, um)
    cr = f32x4.add(cr, ur)
    cm = f32x4.add(cm, um)
    // from here on a lane is a block of four
    let lo = firsts(ar, br), hi = firsts(cr, dr)
    let up = lasts(ar, br), far = lasts(cr, dr)
    ar = early(lo, hi)
    br = late(lo, hi)
    cr = early(up, far)
    dr = late(up, far)
    lo = firsts(am, bm)
    hi = firsts(cm, dm)
    up = lasts(am, bm)
    far = lasts(cm, dm)
    am = early(lo, hi)
    bm = late(lo, hi)
    cm = early(up, far)
    dm = late(up, far)
    wr = v128.load(f2)
    wm = v128.load(f2 + im)
    tr = turnedRe(cr, cm, wr, wm)
    tm = turnedIm(cr, cm, wr, wm)
    ur = turnedRe(dr, dm, wr, wm)
    um = turnedIm(dr, dm, wr, wm)
    cr = f32x4.sub(ar, tr)
    cm = f32x4.sub(am, tm)
    dr = f32x4.sub(br, ur)
    dm = f32x4.sub(bm, um)
    ar = f32x4.add(ar, tr)
    am = f32x4.add(am, tm)
    br = f32x4.add(br, ur)
    bm = f32x4.add(bm, um)
    const nr = v128.load(f1), mr = v128.load(f1, 16), nm = v128.load(f1 + im), mm = v128.load(f1 + im, 16)
    wr = evens(nr, mr)
    wm = evens(nm, mm)
    tr = turnedRe(br, bm, wr, wm)
    tm = turnedIm(br, bm, wr, wm)
    wr = odds(nr, mr)
    wm = odds(nm, mm)
    ur = turnedRe(dr, dm, wr, wm)
    um = turnedIm(dr, dm, wr, wm)
    v128.store(p, f32x4.add(ar, tr))
    v128.store(q, f32x4.add(am, tm))
    v128.store(p, f32x4.sub(ar, tr), 16)
    v128.store(q, f32x4.sub(am, tm), 16)
    v128.store(p, f32x4.add(cr, ur), 32)
    v128.store(q, f32x4.add(cm, um), 32)
    v128.store(p, f32x4.sub(cr, ur), 48)
    v128.store(q, f32x4.sub(cm, um), 48)
    f8 += 4
    f4 += 8
    f2 += 16
    f1 += 32
  }
}

/** Undoes {@link lastUp}, times `scale`. */
function firstDown(at: usize, im: usize, factors: usize, scale: f32): void {
  const blocks = im >> 6, scales = f32x4.splat(scale)
  let f8 = factors + ((blocks - 1) << 2), f4 = factors + ((2 * blocks - 1) << 2)
  let f2 = factors + ((4 * blocks - 1) << 2), f1 = factors + ((8 * blocks - 1) << 2)
  for (let p = at, end = at + im; p < end; p += 64) {
    const q = p + im
    const nr = v128.load(f1), mr = v128.load(f1, 16), nm = v128.load(f1 + im), mm = v128.load(f1 + im, 16)
    let wr = evens(nr, mr), wm = evens(nm, mm)
    let ar = v128.load(p), am = v128.load(q)
    let br = v128.load(p, 16), bm = v128.load(q, 16)
    let cr = v128.load(p, 32), cm = v128.load(q, 32)
    let dr = v128.load(p, 48), dm = v128.load(q, 48)
    let tr = f32x4.sub(ar, br), tm = f32x4.sub(am, bm)
    ar = f32x4.add(ar, br)
    am = f32x4.add(am, bm)
    br = backRe(tr, tm, wr, wm)
    bm = backIm(tr, tm, wr, wm)
    wr = odds(nr, mr)
    wm = odds(nm, mm)
    tr = f32x4.sub(cr, dr)
    tm = f32x4.sub(cm, dm)
    cr = f32x4.add(cr, dr)
    cm = f32x4.add(cm, dm)
    dr = backRe(tr, tm, wr, wm)
    dm = backIm(tr, tm, wr, wm)
    wr = v128.load(f2)
    wm = v128.load(f2 + im)
    tr = f32x4.sub(ar, cr)
    tm = f32x4.sub(am, cm)
    ar = f32x4.add(ar, cr)
    am = f32x4.add(am, cm)
    cr = backRe(tr, tm, wr, wm)
    cm = backIm(tr, tm, wr, wm)
    tr = f32x4.sub(br, dr)
    tm = f32x4.sub(bm, dm)
    br = f32x4.add(br, dr)
    bm = f32x4.add(bm, dm)
    dr = backRe(tr, tm, wr, wm)
    dm = backIm(tr, tm, wr, wm)
    // a lane is a block of four: turned back, rows of four in a row
    let lo = firsts(ar, br), hi = firsts(cr, dr)
    let up = lasts(ar, br), far = lasts(cr, dr)
    ar = early(lo, hi)
    br = late(lo, hi)
    cr = early(up, far)
    dr = late(up, far)
    lo = firsts(am, bm)
    hi = firsts(cm, dm)
    up = lasts(am, bm)
    far = lasts(cm, dm)
    am = early(lo, hi)
    bm = late(lo, hi)
    cm = early(up, far)
    dm = late(up, far)
    wr = v128.load32_splat(f4)
    wm = v128.load32_splat(f4 + im)
    tr = f32x4.sub(ar, br)
    tm = f32x4.sub(am, bm)
    ar = f32x4.add(ar, br)
    am = f32x4.add(am, bm)
    br = backRe(tr, tm, wr, wm)
    bm = backIm(tr, tm, wr, wm)
    wr = v128.load32_splat(f4, 4)
    wm = v128.load32_splat(f4 + im, 4)
    tr = f32x4.sub(cr, dr)
    tm = f32x4.sub(cm, dm)
    cr = f32x4.add(cr, dr)
    cm = f32x4.add(cm, dm)
    dr = backRe(tr, tm, wr, wm)
    dm = backIm(tr, tm, wr, wm)
    wr = v128.load32_splat(f8)
    wm = v128.load32_splat(f8 + im)
    // a power of two: it changes no digit
    wr = f32x4.mul(wr, scales)
    wm = f32x4.mul(wm, scales)
    v128.store(p, f32x4.mul(scales, f32x4.add(ar, cr)))
    v128.store(q, f32x4.mul(scales, f32x4.add(am, cm)))
    v128.store(p, f32x4.mul(scales, f32x4.add(br, dr)), 16)
    v128.store(q, f32x4.mul(scales, f32x4.add(bm, dm)), 16)
    tr = f32x4.sub(ar, cr)
    tm = f32x4.sub(am, cm)
    v128.store(p, backRe(tr, tm, wr, wm), 32)
    v128.store(q, backIm(tr, tm, wr, wm), 32)
    tr = f32x4.sub(br, dr)
    tm = f32x4.sub(bm, dm)
    v128.store(p, backRe(tr, tm, wr, wm), 48)
    v128.store(q, backIm(tr, tm, wr, wm), 48)
    f8 += 4
    f4 += 8
    f2 += 16
    f1 += 32
  }
}

/** x·w. */
@inline
function turnedRe(xr: v128, xm: v128, wr: v128, wm: v128): v128 {
  return f32x4.sub(f32x4.mul(xr, wr), f32x4.mul(xm, wm))
}
@inline
function turnedIm(xr: v128, xm: v128, wr: v128, wm: v128): v128 {
  return f32x4.add(f32x4.mul(xr, wm), f32x4.mul(xm, wr))
}

/** x·w*. */
@inline
function backRe(xr: v128, xm: v128, wr: v128, wm: v128): v128 {
  return f32x4.add(f32x4.mul(xr, wr), f32x4.mul(xm, wm))
}
@inline
function backIm(xr: v128, xm: v128, wr: v128, wm: v128): v128 {
  return f32x4.sub(f32x4.mul(xm, wr), f32x4.mul(xr, wm))
}

@inline
function evens(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 2, 4, 6)
}
@inline
function odds(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 1, 3, 5, 7)
}
