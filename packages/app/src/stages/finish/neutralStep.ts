import type { FinishName, FinishStep } from '@fennip/core/finish';
import { uncropped } from '@fennip/core/finish';
import { newId } from '@fennip/contract';

/**
 * A step as it is first taken: one that changes nothing yet, or as little as lets its effect be seen.
 *
 * @param picture sides of the upright original
 * @param steps those that are there: a crop begins with all that they leave
 */
export function neutralStep(
  method: FinishName,
  picture: { readonly width: number; readonly height: number },
  steps: readonly FinishStep[],
): FinishStep {
  const base = { id: newId('step'), on: true, share: 1 } as const;
  switch (method) {
    case 'levels':
      return { ...base, method, tones: [{ black: 0, white: 1, gamma: 1 }] };
    case 'curve':
      return {
        ...{ ...base, method },
        points: [
          [0, 0],
          [1, 1],
        ],
      };
    case 'colour':
      return { ...base, method, temperature: 0, tint: 0, saturation: 1 };
    case 'contrast':
      return { ...base, method, amount: 0.3, size: 40 };
    case 'sharpen':
      return { ...base, method, way: 'unsharp', radius: 1, amount: 0.8, threshold: 0.01 };
    case 'soften':
      return { ...base, method, radius: 2 };
    case 'lens':
      return { ...base, method, k1: 0, k2: 0 };
    case 'straighten':
      return { ...base, method, angle: 0 };
    case 'crop':
      return { ...base, method, ...uncropped(picture, steps) };
  }
}
