import { LUMA } from '../colour/luma.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { ColourStep } from './finishStep.ts';
import { TABLE_TOP, encodedLight, lightTablesOf } from '../colour/lightTable.ts';

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
  const out = planes.map((plane) => new Float32Array(plane.length));
  for (let i = 0; i < out[0].length; i++) {
    const red = gains[0] * codes[0].light[Math.round(planes[0][i] * TABLE_TOP)];
    const green = gains[1] * codes[1].light[Math.round(planes[1][i] * TABLE_TOP)];
    const blue = gains[2] * codes[2].light[Math.round(planes[2][i] * TABLE_TOP)];
    const grey = LUMA[0] * red + LUMA[1] * green + LUMA[2] * blue;
    out[0][i] = encodedLight(grey + saturation * (red - grey), codes[0].codes);
    out[1][i] = encodedLight(grey + saturation * (green - grey), codes[1].codes);
    out[2][i] = encodedLight(grey + saturation * (blue - grey), codes[2].codes);
  }
  return out;
}
