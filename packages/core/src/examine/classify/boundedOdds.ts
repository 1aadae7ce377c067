import { logOdds } from './logOdds.ts';

/** What is surer than this says no more, as a probability. */
const SUREST = 0.999;

/** Log-odds of a confidence of 0 to 1, both ends among them. */
export const boundedOdds = (confidence: number): number =>
  logOdds(Math.min(SUREST, Math.max(1 - SUREST, confidence)));
