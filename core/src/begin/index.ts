export { startOf, STARTS, type Start } from './starts'
export { figureOf, progressOf, STEP_IDS, stepsOf, type Step, type StepFigure, type StepId } from './steps'
