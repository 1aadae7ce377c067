import { encodeHeld, lightTablesOf, lookUpHeld } from '../../colour/lightTable.ts';
import { blurHeld } from '../../filter/gaussian.ts';
import type { HeldPlanes } from '../heldPlanes.ts';
import type { SoftenStep } from './softenStep.ts';

/** A Gaussian blur of each channel's light: what a lens would do; in place. */
export function soften({ radius }: SoftenStep, held: HeldPlanes): void {
  const { width, height } = held.rect;
  const lights = lightTablesOf(held.places.length, held.picture.transfer);
  held.places.forEach((place, c) => {
    lookUpHeld(place, width * height, lights[c].light);
    blurHeld(place, place, width, height, radius);
    encodeHeld(place, width * height, lights[c]);
  });
}
