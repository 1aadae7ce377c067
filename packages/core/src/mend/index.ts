export { applyMend, finishPatch, mendFootprint, mendReads } from './applyMend.ts';
export { BECAUSE } from './auto/because.ts';
export { FIRST_SEED } from './auto/rebuildFor.ts';
export { MOST_RELIEF, RELIEF_REACH } from './bridge/relief/relief.ts';
export { canvasOf } from './canvas.ts';
export { isSourceOutside } from './isSourceOutside.ts';
export type { Mend } from './mend.ts';
export type { MethodName, SpotMend } from './spotMend.ts';
export type { BridgeMend } from './bridge/bridgeMend.ts';
export type { HealMend } from './heal/healMend.ts';
export type { RebuildMend } from './rebuild/rebuildMend.ts';
export type { RecoverMend } from './recover/recoverMend.ts';
export { METHOD_DESCRIPTIONS, METHODS, describeMethod } from './methods.ts';
export { isSourced, isSpotMend, isStain, isTreatment, sourceOf } from './mend.ts';
export type { MendBase, PaintStroke } from './mendBase.ts';
export type { MendSurroundings, MendWish, MethodChoice } from './mendWish.ts';
export type { MendProposal } from './proposeMend.ts';
export { marginFor, proposalReads, proposeMend, sourcePlace } from './proposeMend.ts';
export { extendGuide, extensionReads } from './rebuild/extendGuide.ts';
export type { Guide } from './rebuild/guide.ts';
export { proposeGuides } from './rebuild/proposeGuides.ts';
export type { RebuildAnswer } from './rebuild/rebuild.ts';
export { rebuildSteps } from './rebuild/rebuild.ts';
export type { RebuildTask } from './rebuild/rebuildTask.ts';
export { rebuildTask } from './rebuild/rebuildTask.ts';
export type { PatchVariant } from './rebuild/withVariants.ts';
export { PATCH_VARIANTS } from './rebuild/withVariants.ts';
export { CORRECTIONS } from './recover/line/lineVeil.ts';
export { placesUsedBy, takenPlaces } from './run/faultPlaces.ts';
export type { FaultToMend } from './run/faultToMend.ts';
export { isGuarded } from './run/isGuarded.ts';
export { faultReads, faultTarget, mendFault } from './run/mendFault.ts';
export { mendsInTurn } from './run/mendsInTurn.ts';
export type { MendRun } from './run/runMends.ts';
export { proposeMends, runMends } from './run/runMends.ts';
export { treatmentFootprint, treatmentReach } from './treat/applyTreatment.ts';
export type { Vector } from './treat/shift/findShift.ts';
export { findShift, shiftFoundOn } from './treat/shift/findShift.ts';
export { labStatistics } from './treat/match/match.ts';
export { scaleTarget, scaleTreatment } from './treat/scaleTreatment.ts';
export type { HandTreatment, Treatment, TreatmentName } from './treat/treatment.ts';
export type { LabStatistics } from './treat/match/matchMend.ts';
export type { ReturnMend } from './treat/return/returnMend.ts';
export type { ShiftMend } from './treat/shift/shiftMend.ts';
export type { SiftMend } from './treat/sift/siftMend.ts';
export type { SoftenMend } from './treat/soften/softenMend.ts';
export {
  TREATMENT_DESCRIPTIONS,
  TREATMENTS,
  HAND_TREATMENTS,
  describeTreatment,
  isTreatmentName,
} from './treat/treatments.ts';
export type { MendMeasure, Verdict } from './verdict/judgeMend.ts';
export { VISIBLE_GRAIN, VISIBLE_SEAM, judgeMend, wearOf } from './verdict/judgeMend.ts';
