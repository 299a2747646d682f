import { describe, expect, it } from 'vitest'
import { inPassing, Machine } from './machine'

const floats = (machine: Machine, at: number, count: number) => new Float32Array(machine.kernel.memory.buffer, at, count)

describe('a machine', () => {
  it('gives back what was made in passing, and only that', () => {
    const machine = new Machine()
    const kept = machine.make((kernel) => kernel.alloc(4 * 1000))
    floats(machine, kept, 1000).fill(0.5)
    const mark = machine.kernel.newest()
    for (let turn = 0; turn < 20; turn++)
      machine.passing(() => {
        const at = machine.make((kernel) => kernel.alloc(1 << 20))
        // what another turn left there is gone
        expect(floats(machine, at, 1 << 18).every((x) => x === 0)).toBe(true)
        floats(machine, at, 1 << 18).fill(turn + 1)
      })
    expect(machine.kernel.newest()).toBe(mark)
    expect(floats(machine, kept, 1000).every((x) => x === 0.5)).toBe(true)
    // one room of a megabyte, not twenty
    expect(machine.kernel.memory.buffer.byteLength).toBeLessThan(4 << 20)
  })

  it('takes pieces back in any order', () => {
    const { kernel } = new Machine()
    const mark = kernel.newest()
    const turn = () => {
      const [first, middle, last] = [1, 2, 3].map(() => kernel.alloc(1 << 16))
      const stage = kernel.clippingCreate(2)
      kernel.alloc(1 << 16)
      // from the middle, and then its neighbour
      kernel.clippingFree(stage)
      kernel.clippingFree(kernel.clippingCreate(3))
      kernel.release(mark)
      return first + middle + last
    }
    const places = turn()
    const bytes = kernel.memory.buffer.byteLength
    for (let k = 0; k < 50; k++) expect(turn()).toBe(places)
    expect(kernel.newest()).toBe(mark)
    // whatever were lost would want more room
    expect(kernel.memory.buffer.byteLength).toBe(bytes)
  })

  it('forgets who looked at what has passed', () => {
    const machine = new Machine()
    const looks: string[] = []
    machine.keep(() => void looks.push('stays'))
    machine.passing(() => machine.keep(() => void looks.push('passes')))
    looks.length = 0
    machine.make((kernel) => kernel.alloc(8 << 20))
    expect(looks).toEqual(['stays'])
  })

  it('is the same one for all that ends at once, until something fails in it', () => {
    const first = inPassing((machine) => machine)
    expect(inPassing((machine) => machine)).toBe(first)
    // work within work has its own
    expect(inPassing((outer) => inPassing((inner) => inner === outer))).toBe(false)
    expect(() =>
      inPassing(() => {
        throw new RangeError('as a kernel may')
      }),
    ).toThrow('as a kernel may')
    const second = inPassing((machine) => machine)
    expect(second).not.toBe(first)
    expect(inPassing((machine) => machine)).toBe(second)
  })
})
