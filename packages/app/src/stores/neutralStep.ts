import { newId } from '@fennip/contract';
import type { FinishName, FinishStep } from '@fennip/core/finish';
import { FINISH_DESCRIPTIONS, uncropped } from '@fennip/core/finish';
import { startingValues } from '../describe/editedFields.ts';

/**
 * A step as it is first taken: one that changes nothing yet, or as little as lets its effect be seen.
 *
 * @param picture sides of the upright original
 * @param steps those that are there: a crop begins with all that they leave
 */
export function neutralStep<Name extends FinishName>(
  method: Name,
  picture: { readonly width: number; readonly height: number },
  steps: readonly FinishStep[],
): Extract<FinishStep, { readonly method: Name }> {
  const base = { id: newId('step'), on: true, share: 1, method };
  const own =
    method === 'crop' ? uncropped(picture, steps) : startingValues(FINISH_DESCRIPTIONS[method].fields);
  // What a description's fields begin with makes a whole step: a test holds each against the schema.
  return { ...base, ...own } as unknown as Extract<FinishStep, { readonly method: Name }>;
}
