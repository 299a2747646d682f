/** A noise gate, sample by sample in f64, for core/src/signal/dynamics/gate.ts with the sources. */
import { alloc, BYTES } from '../memory'

@unmanaged
export class Gate {
  // what is set: thresholds as magnitudes, frames, dB a frame
  openAt: f64
  closeAt: f64
  holdFrames: f64
  attackStep: f64
  releaseStep: f64
  floorDb: f64
  /** Of the detector, a frame. */
  decay: f64
  // what it remembers
  level: f64
  held: f64
  isOpen: f64
  db: f64
  gain: f64
}

export function gateCreate(): Gate {
  return changetype<Gate>(alloc(offsetof<Gate>()))
}

/** A chunk in place; `key` 0: the block's own sound opens it. */
export function gateProcess(self: Gate, left: usize, right: usize, key: usize): void {
  const openAt = self.openAt, closeAt = self.closeAt, holdFrames = self.holdFrames, decay = self.decay, floorDb = self.floorDb
  let level = self.level, held = self.held, db = self.db, gain = self.gain
  let isOpen = self.isOpen != 0
  for (let i: usize = 0; i < BYTES; i += 4) {
    let magnitude = Math.abs(<f64>load<f32>((key != 0 ? key : left) + i))
    if (key == 0 && right != 0) magnitude = Math.max(magnitude, Math.abs(<f64>load<f32>(right + i)))
    level = magnitude > level ? magnitude : level * decay
    if (level >= openAt) {
      isOpen = true
      held = 0
    } else if (level >= closeAt) held = 0
    else {
      held += 1
      if (held > holdFrames) isOpen = false
    }
    if (isOpen ? db < 0 : db != floorDb) {
      if (isOpen) db = Math.min(0, db + self.attackStep)
      else db = db > floorDb ? Math.max(floorDb, db - self.releaseStep) : floorDb
      gain = Math.exp(db * 0.1151292546497023)
    }
    if (db != 0) {
      store<f32>(left + i, <f32>(gain * <f64>load<f32>(left + i)))
      if (right != 0) store<f32>(right + i, <f32>(gain * <f64>load<f32>(right + i)))
    }
  }
  self.level = level
  self.held = held
  self.isOpen = isOpen ? 1 : 0
  self.db = db
  self.gain = gain
}
