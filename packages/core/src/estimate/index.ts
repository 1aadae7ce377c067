export type { Pace, WorkEstimate } from './estimateWork.ts';
export { GUESSED_PACE, estimateWork } from './estimateWork.ts';
