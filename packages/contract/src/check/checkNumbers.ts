import { RecipeError } from '@fennip/core/errors';

/** Refuses numbers that JSON cannot carry but a program can pass on: NaN and infinity. @throws RecipeError */
export function checkNumbers(value: unknown, place: string): void {
  if (typeof value === 'number' && !Number.isFinite(value))
    throw new RecipeError(place, `must be a number, got ${value}`);
  if (typeof value === 'object' && value !== null)
    for (const [key, inner] of Object.entries(value)) checkNumbers(inner, `${place}/${key}`);
}
