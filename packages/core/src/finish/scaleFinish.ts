import { describeValueStep } from './finishSteps.ts';
import type { ValueStep } from './finishStep.ts';

/**
 * A step as it is carried out on a picture that is so many times smaller, where its pixels are as many times larger.
 *
 * @param times 1 and above; radii are divided by it
 */
export const scaleFinish = (step: ValueStep, times: number): ValueStep =>
  describeValueStep(step).scale(step, times);
