/**
 * A name for what a text says, the same in every thread: two 53-bit hashes side by side, so that among millions of texts no two share one.
 * Source: cyrb53 (bryc, public domain), from memory.
 */
export const contentKey = (text: string): string => hash(text, 0x9e37).toString(36) + hash(text, 0x85eb).toString(36)

function hash(text: string, seed: number): number {
  let [a, b] = [0xdeadbeef ^ seed, 0x41c6ce57 ^ seed]
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    a = Math.imul(a ^ code, 2_654_435_761)
    b = Math.imul(b ^ code, 1_597_334_677)
  }
  a = Math.imul(a ^ (a >>> 16), 2_246_822_507) ^ Math.imul(b ^ (b >>> 13), 3_266_489_909)
  b = Math.imul(b ^ (b >>> 16), 2_246_822_507) ^ Math.imul(a ^ (a >>> 13), 3_266_489_909)
  return 4_294_967_296 * (2_097_151 & b) + (a >>> 0)
}
