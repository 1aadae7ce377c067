import type { ValueStep } from './finishStep.ts';

/** A step as it is carried out on a picture that is so many times smaller, where its pixels are as many times larger. */
export function scaleFinish(step: ValueStep, times: number): ValueStep {
  switch (step.method) {
    case 'contrast':
      return { ...step, size: step.size / times };
    case 'sharpen':
    case 'soften':
      return { ...step, radius: step.radius / times };
    case 'levels':
    case 'curve':
    case 'colour':
      return step;
  }
}
