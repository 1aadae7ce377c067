import { LUMA } from '../colour/luma.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { ColourStep } from './finishStep.ts';
import { ROOT_STEPS, TABLE_TOP, lightTablesOf } from '../colour/lightTable.ts';
import { kernels, layOut, takeFloats } from '../filter/kernels.ts';

/**
 * White balance as gains, then saturation about the luminance of each pixel, both in linear light. (The saturation
 * matrix of W3C Filter Effects 1, 9.2, with the weights of Rec. 709.) The gains leave the luminance of grey as it is.
 *
 * @param planes encoded values, 0 to 1
 */
export function balanced(
  { temperature, tint, saturation }: ColourStep,
  planes: readonly Float32Array[],
  transfer: PictureShape['transfer'],
): Float32Array[] {
  // A grey picture has no colour to change.
  if (planes.length < 3) return [...planes];
  const codes = lightTablesOf(planes.length, transfer);
  const raw = [2 ** (temperature / 2), 2 ** -tint, 2 ** (-temperature / 2)];
  const luminance = raw.reduce((sum, gain, c) => sum + LUMA[c] * gain, 0);
  const gains = raw.map((gain) => gain / luminance);
  const { length } = planes[0];
  const [red, green, blue, light, nextLight, , root, nextRoot, , by] = layOut([
    ...planes.slice(0, 3),
    ...codes.map((table) => table.light),
    ...codes.map((table) => table.codes),
    Float32Array.of(...gains, ...LUMA, saturation),
  ]);
  kernels().balance(
    ...([red, green - red, length] as const),
    ...([light, nextLight - light, TABLE_TOP] as const),
    ...([root, nextRoot - root, ROOT_STEPS] as const),
    by,
  );
  return [red, green, blue].map((place) => takeFloats(place, length));
}
