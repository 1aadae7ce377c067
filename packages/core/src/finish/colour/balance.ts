import { LUMA } from '../../light/luma.ts';
import type { ColourStep } from './colourStep.ts';
import { ROOT_STEPS, TABLE_TOP, lightTablesOf } from '../../colour/lightTable.ts';
import { kernels, layOut } from '../../kernels/kernels.ts';
import type { HeldPlanes } from '../heldPlanes.ts';
import { countOf } from '../heldPlanes.ts';

/**
 * White balance as gains, then saturation about the luminance of each pixel, both in linear light; in place. (The
 * saturation matrix of W3C Filter Effects 1, 9.2, with the weights of Rec. 709.) The gains leave the luminance of grey as
 * it is.
 */
export function balance({ temperature, tint, saturation }: ColourStep, held: HeldPlanes): void {
  const { places, picture } = held;
  // A grey picture has no colour to change.
  if (places.length < 3) return;
  const codes = lightTablesOf(places.length, picture.transfer);
  const raw = [2 ** (temperature / 2), 2 ** -tint, 2 ** (-temperature / 2)];
  const luminance = raw.reduce((sum, gain, c) => sum + LUMA[c] * gain, 0);
  const gains = raw.map((gain) => gain / luminance);
  const [light, nextLight, , root, nextRoot, , by] = layOut([
    ...codes.map((table) => table.light),
    ...codes.map((table) => table.codes),
    Float32Array.of(...gains, ...LUMA, saturation),
  ]);
  kernels().balance(
    ...([places[0], places[1], places[2], countOf(held)] as const),
    ...([light, nextLight - light, TABLE_TOP] as const),
    ...([root, nextRoot - root, ROOT_STEPS] as const),
    by,
  );
}
