import { mulberry } from '@fennip/core/random';
import { expect } from 'vitest';
import type { Application } from '../e2e/application.ts';
import { smallPicture } from './pictures.ts';
import type { Restorer } from './restorer.ts';
import { createRestorer } from './restorer.ts';

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** How many edits the server said yes to. */
export const editsOf = (restorers: readonly Restorer[]): number =>
  restorers.reduce((sum, { edits }) => sum + edits, 0);

/**
 * Three restorers at work while something is done to the server or its database; then all they were promised is looked for.
 *
 * @param fire what is done, with chance from 0 to 1
 */
export async function expectNoLossUnder(
  application: Application,
  seed: number,
  fire: (chance: () => number, restorers: readonly Restorer[]) => Promise<void>,
): Promise<void> {
  const files = await Promise.all([1, 2, 3, 4, 5].map((one) => smallPicture(one)));
  const restorers = [1, 2, 3].map((k) => createRestorer(application, files, mulberry(seed + k)));
  const working = restorers.map((restorer) => restorer.work());
  await fire(mulberry(seed), restorers);
  for (const restorer of restorers) restorer.stop();
  await Promise.all(working);
  for (const restorer of restorers) expect(await restorer.losses()).toEqual([]);
  // Somebody did work.
  const edits = editsOf(restorers);
  expect(edits).toBeGreaterThan(10);
  console.warn(`${edits} edits were taken, none is lost`);
}
