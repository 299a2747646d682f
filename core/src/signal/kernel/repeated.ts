/**
 * The kernels that a passage of stages may ask in every chunk with the same numbers, so that core/kernel/row.ts repeats them: of each argument `i`
 * for a place or a whole number, `f` for f32. Their kinds count from 1 in this order; scripts/build-kernel.mjs makes the kernel's constants
 * of them.
 */
export const repeated = {
  stageBegin: 'i',
  stageEnter: 'iii',
  stageLeave: 'iiiff',
  add: 'iiii',
  copy: 'iiii',
  fold: 'iii',
  mix: 'iiffff',
  place: 'iiffff',
  share: 'iiff',
  silence: 'ii',
  turn: 'iiff',
  ringBend: 'iii',
  ringPass: 'iii',
  ringPut: 'ii',
  ringTap: 'iiif',
  bandProcess: 'iii',
  biquadProcess: 'iii',
  clippingProcess: 'ii',
  compressorProcess: 'iiii',
  convolutionProcess: 'ii',
  delayProcess: 'iii',
  echoProcess: 'iiiii',
  gateProcess: 'iiii',
  modulatedDelayProcess: 'iii',
  networkProcess: 'iiiif',
  phaseShifterProcess: 'iii',
  pitchProcess: 'ii',
  plateProcess: 'iiii',
  rotaryProcess: 'iii',
  springTurn: 'iiiff',
} as const
