export type { CutEdge } from './areas/edgesInto.ts';
export { EDGES_LOOK, edgesInto } from './areas/edgesInto.ts';
export { examineAmong } from './examineAmong.ts';
export type { ExamineOptions } from './examinePicture.ts';
export {
  EVERYTHING,
  EXAMINE_DEFAULTS,
  LEAST_VISIBILITY,
  decideFindings,
  examinePicture,
  finderOf,
} from './examinePicture.ts';
export type { MeasuredPart } from './examineTile.ts';
export { examineTile, examineWhole } from './examineTile.ts';
export { guessNature } from './nature/guessNature.ts';
export type { PictureNature } from './nature/nature.ts';
export { NATURES, canCarry, kindsOn, usualPolarities } from './nature/nature.ts';
export type { PrintSigns } from './nature/printSigns.ts';
export { printSigns } from './nature/printSigns.ts';
export { leastConfidence, sensitivityFor } from './sensitivity.ts';
export { findOnDemand } from './findOnDemand.ts';
export { LONGEST_FOR_WIRES, findWires } from './wires/findWires.ts';
export { createGrainCells, findSmudges, measureGrainCells } from './smudges/findSmudges.ts';
export { scoreWithNet } from './specks/scoreWithNet.ts';
export type { ExamineTile } from './tiles.ts';
export { visibilityOf } from './visibility.ts';
export type { LearnedOdds, LearnedTrait, ReviewedPicture } from './learn/learnedOdds.ts';
export { learnFrom, withLearned } from './learn/learnedOdds.ts';
