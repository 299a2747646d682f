/** The part of WebAssembly that the kernel needs; core has neither DOM nor Node types. */
declare namespace WebAssembly {
  class Module {
    constructor(bytes: Uint8Array<ArrayBuffer>)
  }
  class Instance {
    constructor(module: Module, imports: object)
    readonly exports: object
  }
  class Memory {
    readonly buffer: ArrayBuffer
  }
}
