import type { Raster } from '../raster/raster.ts';
import { createRaster, fullScale } from '../raster/raster.ts';
import { TABLE_TOP, encodedLight, lightTablesOf } from './lightTable.ts';
import type { RgbSpace } from './rgbSpace.ts';
import { inverse, product } from './rgbSpace.ts';

/** What becomes of colours that the other space cannot show: cut at its border, or drawn in with those near it. */
export const INTENTS = ['relative', 'perceptual'] as const;
export type Intent = (typeof INTENTS)[number];

/**
 * Colours are drawn in from so far out of grey on, and those at the limit come to lie on the border. (The form and the
 * threshold of the ACES Reference Gamut Compression, S-2021-001; one limit for all three, because the spaces here lie
 * closer together.)
 */
const DRAWN_IN = { from: 0.8, limit: 1.25, power: 1.2 };

/** How far out of grey a drawn-in colour lies; 1 is the border. */
function drawnIn(distance: number): number {
  const { from, limit, power } = DRAWN_IN;
  if (distance <= from) return distance;
  const scale = (limit - from) / (((1 - from) / (limit - from)) ** -power - 1) ** (1 / power);
  const over = (distance - from) / scale;
  return from + (scale * over) / (1 + over ** power) ** (1 / power);
}

/** Colorants this near to each other are the same, rounded by who wrote the profile. */
const SAME = 2e-3;

const alphaOf = ({ planes }: Raster): Raster['planes'][number] | null =>
  planes.length % 2 === 0 ? planes[planes.length - 1] : null;

/** Copies a plane of so many samples a row onto the last plane of a raster. */
function copyPlane(plane: Raster['planes'][number], stride: number, { planes, width, height }: Raster): void {
  const onto = planes[planes.length - 1];
  for (let y = 0; y < height; y++) onto.set(plane.subarray(y * stride, y * stride + width), y * width);
}

/** The three colour planes; a grey picture has one three times. */
const threeOf = ({ planes }: Raster): Raster['planes'] =>
  planes.length >= 3 ? [planes[0], planes[1], planes[2]] : [planes[0], planes[0], planes[0]];

/** Draws a colour in towards grey where it lies near the border or beyond it. */
function drawIn(light: number[]): void {
  const most = Math.max(light[0], light[1], light[2]);
  if (most <= 0) return;
  for (let c = 0; c < 3; c++) light[c] = most - most * drawnIn((most - light[c]) / most);
}

/**
 * A picture's colours in another space, through CIE XYZ in linear light. White stays white. A grey picture has no
 * colour to convert: it becomes one of three equal channels.
 *
 * @param raster encoded values, 8 or 16 bit, 1 to 4 channels; the result has the same depth, rounded once
 * @param from what the values mean now
 * @returns a raster of its own; alpha is kept
 */
export function convertColours(raster: Raster, from: RgbSpace, to: RgbSpace, intent: Intent): Raster {
  const { width, height, depth, stride } = raster;
  const alpha = alphaOf(raster);
  const out = createRaster(width, height, alpha ? 4 : 3, depth);
  const top = fullScale(depth);
  const matrix = product(inverse(to.toXyz), from.toXyz);
  // Where the other space shows all that this one does, there is nothing to draw in.
  const isDrawnIn = intent === 'perceptual' && matrix.some((row) => row.some((weight) => weight < -SAME));
  const own = lightTablesOf(3, from.transfer);
  const codes = lightTablesOf(3, to.transfer).map((table) => table.codes);
  const step = TABLE_TOP / top;
  const colours = threeOf(raster);
  const light = [0, 0, 0];
  for (let y = 0, onto = 0; y < height; y++)
    for (let x = 0, i = y * stride; x < width; x++, i++, onto++) {
      const red = own[0].light[colours[0][i] * step];
      const green = own[1].light[colours[1][i] * step];
      const blue = own[2].light[colours[2][i] * step];
      for (let c = 0; c < 3; c++) light[c] = matrix[c][0] * red + matrix[c][1] * green + matrix[c][2] * blue;
      if (isDrawnIn) drawIn(light);
      for (let c = 0; c < 3; c++) out.planes[c][onto] = Math.round(top * encodedLight(light[c], codes[c]));
    }
  if (alpha) copyPlane(alpha, stride, out);
  return out;
}

/**
 * A picture in grey of the same luminance (the Y of CIE XYZ), encoded as sRGB's grey. Alpha is kept.
 *
 * @param raster encoded values, 8 or 16 bit; the luminance is taken in linear light
 * @param from what the values mean now
 * @returns one channel, or two with alpha, of the same depth
 */
export function convertToGrey(raster: Raster, from: RgbSpace): Raster {
  const { width, height, depth, stride } = raster;
  const alpha = alphaOf(raster);
  const out = createRaster(width, height, alpha ? 2 : 1, depth);
  const top = fullScale(depth);
  const [weightRed, weightGreen, weightBlue] = from.toXyz[1];
  const own = lightTablesOf(3, from.transfer);
  const [{ codes }] = lightTablesOf(1, undefined);
  const step = TABLE_TOP / top;
  const colours = threeOf(raster);
  for (let y = 0, onto = 0; y < height; y++)
    for (let x = 0, i = y * stride; x < width; x++, i++, onto++) {
      const luminance =
        weightRed * own[0].light[colours[0][i] * step] +
        weightGreen * own[1].light[colours[1][i] * step] +
        weightBlue * own[2].light[colours[2][i] * step];
      out.planes[0][onto] = Math.round(top * encodedLight(luminance, codes));
    }
  if (alpha) copyPlane(alpha, stride, out);
  return out;
}
