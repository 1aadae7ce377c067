import { labOf, lightOfLab } from '../../colour/lab.ts';
import { SRGB_TRANSFER, sharedTransferTable } from '../../colour/transfer.ts';
import { gaussianBlur } from '../../filter/gaussian.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { colourPlanes } from '../patch.ts';
import type { Ground } from './ground.ts';
import type { ToneMend } from './treatment.ts';

/** How far a tone mend looks around, in pixels: for local contrast only. */
export const toneReach = ({ contrast, contrastSize }: ToneMend): number =>
  contrast === 0 ? 0 : Math.ceil(3.5 * contrastSize) + 1;

/** How much a lightness of 0 to 1 belongs to a range: smooth hills that add up to 1 everywhere. */
function rangeWeight(range: ToneMend['range'], lightness: number): number {
  const smooth = (from: number, to: number): number => {
    const t = Math.min(1, Math.max(0, (lightness - from) / (to - from)));
    return t * t * (3 - 2 * t);
  };
  const shadows = 1 - smooth(0.15, 0.5);
  const highlights = smooth(0.5, 0.85);
  switch (range) {
    case 'all':
      return 1;
    case 'shadows':
      return shadows;
    case 'highlights':
      return highlights;
    case 'midtones':
      return 1 - shadows - highlights;
  }
}

/** Light and codes of each channel; grey stands for all three. */
export function lightTables(channels: number, { transfer, depth }: PictureShape) {
  const top = fullScale(depth);
  return Array.from({ length: channels }, (_, c) => sharedTransferTable(transfer?.[c] ?? SRGB_TRANSFER, top));
}

/**
 * Exposure in linear light, weighed by how much each pixel's lightness belongs to the range; then local contrast of
 * lightness alone, hue, chroma and lightness in CIE L*a*b* (CIE 15:2004).
 */
export function tone(mend: ToneMend, { raster, rect: whole, picture }: Ground, rect: Rect): Float32Array[] {
  const { width, height, stride } = raster;
  const planes = colourPlanes(raster);
  const tables = lightTables(planes.length, picture);
  const [red, green, blue] = planes.length === 3 ? [0, 1, 2] : [0, 0, 0];
  const lightAt = (c: number, at: number): number => tables[c].light[planes[c][at]];
  const blurred = mend.contrast === 0 ? null : surroundings(mend.contrastSize);

  /** Lightness of the surroundings of each pixel of the ground. */
  function surroundings(sigma: number): Float32Array {
    const data = new Float32Array(width * height);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const at = y * stride + x;
        [data[i]] = labOf(lightAt(red, at), lightAt(green, at), lightAt(blue, at));
      }
    return gaussianBlur({ width, height, data }, sigma).data;
  }

  const values = planes.map(() => new Float32Array(rect.width * rect.height));
  const [cos, sin] = [Math.cos((mend.hue * Math.PI) / 180), Math.sin((mend.hue * Math.PI) / 180)];
  const isColourKept = mend.hue === 0 && mend.saturation === 1 && mend.lightness === 0 && blurred === null;
  for (let y = 0, i = 0; y < rect.height; y++)
    for (let x = 0; x < rect.width; x++, i++) {
      const [px, py] = [rect.left + x - whole.left, rect.top + y - whole.top];
      const at = py * stride + px;
      let light = [lightAt(red, at), lightAt(green, at), lightAt(blue, at)];
      if (mend.exposure !== 0) {
        const [lightness] = mend.range === 'all' ? [0] : labOf(light[0], light[1], light[2]);
        const factor = 2 ** (mend.exposure * rangeWeight(mend.range, lightness / 100));
        light = light.map((value) => value * factor);
      }
      if (!isColourKept) {
        const [lightness, a, b] = labOf(light[0], light[1], light[2]);
        const own = blurred ? labOf(lightAt(red, at), lightAt(green, at), lightAt(blue, at))[0] : 0;
        const raised =
          lightness + mend.lightness + (blurred ? mend.contrast * (own - blurred[py * width + px]) : 0);
        light = lightOfLab([
          Math.max(0, raised),
          mend.saturation * (cos * a - sin * b),
          mend.saturation * (sin * a + cos * b),
        ]);
      }
      for (let c = 0; c < planes.length; c++) values[c][i] = tables[c].encode(light[c]);
    }
  return values;
}
