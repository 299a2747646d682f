/**
 * Complex FFT of a power of two, in place on separate real and imaginary arrays, 64-bit, for measuring and design (not for the
 * audio thread). Source: Cooley & Tukey 1965, radix 2, decimation in time.
 */
export class Fft {
  private readonly cos: Float64Array
  private readonly sin: Float64Array
  private readonly order: Uint32Array

  /** @throws RangeError unless size is a power of two of at least 2 */
  constructor(readonly size: number) {
    if (size < 2 || (size & (size - 1)) !== 0) throw new RangeError(`FFT size ${size} is not a power of two.`)
    this.cos = new Float64Array(size / 2)
    this.sin = new Float64Array(size / 2)
    for (let i = 0; i < size / 2; i++) {
      this.cos[i] = Math.cos((2 * Math.PI * i) / size)
      this.sin[i] = -Math.sin((2 * Math.PI * i) / size)
    }
    this.order = new Uint32Array(size)
    const bits = Math.log2(size)
    for (let i = 0; i < size; i++) {
      let reversed = 0
      for (let b = 0; b < bits; b++) reversed |= ((i >> b) & 1) << (bits - 1 - b)
      this.order[i] = reversed
    }
  }

  forward(re: Float64Array, im: Float64Array): void {
    const { size, order, cos, sin } = this
    for (let i = 0; i < size; i++) {
      const j = order[i]
      if (j > i) {
        const r = re[i]
        re[i] = re[j]
        re[j] = r
        const m = im[i]
        im[i] = im[j]
        im[j] = m
      }
    }
    for (let half = 1, stride = size / 2; half < size; half *= 2, stride /= 2) {
      for (let start = 0; start < size; start += 2 * half) {
        for (let k = 0, t = 0; k < half; k++, t += stride) {
          const lo = start + k
          const hi = lo + half
          const vr = re[hi] * cos[t] - im[hi] * sin[t]
          const vi = re[hi] * sin[t] + im[hi] * cos[t]
          re[hi] = re[lo] - vr
          im[hi] = im[lo] - vi
          re[lo] += vr
          im[lo] += vi
        }
      }
    }
  }

  /** Inverse, scaled by 1/size. */
  inverse(re: Float64Array, im: Float64Array): void {
    this.forward(im, re)
    const scale = 1 / this.size
    for (let i = 0; i < this.size; i++) {
      re[i] *= scale
      im[i] *= scale
    }
  }
}
