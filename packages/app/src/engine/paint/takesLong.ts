import type { FinishStep } from '@fennip/core/finish';
import { isFramingStep } from '@fennip/core/finish';

/** True if a step of the finish is worth being shared: what is only looked up is done before it could be sent. */
export const takesLong = (step: FinishStep): boolean =>
  step.on && !isFramingStep(step) && step.method !== 'levels' && step.method !== 'curve';
