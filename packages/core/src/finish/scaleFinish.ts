import { describeValueStep } from './finishSteps.ts';
import type { ValueStep } from './finishStep.ts';

/** A step as it is carried out on a picture that is so many times smaller, where its pixels are as many times larger. */
export const scaleFinish = (step: ValueStep, times: number): ValueStep =>
  describeValueStep(step).scale(step, times);
