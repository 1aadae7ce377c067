import { encodedPlanes, exposed, labPlanes, lightPlanes, movedLab } from '../../../colour/labPlanes.ts';
import { gaussianBlur } from '../../../filter/gaussian.ts';
import type { Raster } from '../../../raster/raster.ts';
import { fullScale, viewRaster } from '../../../raster/raster.ts';
import type { Rect } from '../../../raster/rect.ts';
import { colourPlanes } from '../../../raster/patch.ts';
import type { Ground } from '../ground.ts';
import type { ToneMend } from './toneMend.ts';

/** How far a tone mend looks around, in pixels: for local contrast only. */
export const toneReach = ({ contrast, contrastSize }: ToneMend): number =>
  contrast === 0 ? 0 : Math.ceil(3.5 * contrastSize) + 1;

/** The part of the ground that is wanted. */
export const partOf = ({ raster, rect: whole }: Ground, rect: Rect): Raster =>
  viewRaster(raster, { ...rect, left: rect.left - whole.left, top: rect.top - whole.top });

/** How far the lightness of each pixel of a part departs from that of its surroundings, so many times. */
function localContrast({ contrast, contrastSize }: ToneMend, ground: Ground, rect: Rect): Float32Array {
  const { width, height } = ground.raster;
  const [lightness] = labPlanes(ground.raster, ground.picture.transfer);
  const around = gaussianBlur({ width, height, data: lightness }, contrastSize).data;
  const departs = new Float32Array(rect.width * rect.height);
  for (let y = 0, i = 0; y < rect.height; y++) {
    const from = (rect.top + y - ground.rect.top) * width + rect.left - ground.rect.left;
    for (let x = 0; x < rect.width; x++, i++)
      departs[i] = contrast * (lightness[from + x] - around[from + x]);
  }
  return departs;
}

/**
 * Exposure in linear light, weighed by how much each pixel's lightness belongs to the range; then local contrast of
 * lightness alone, hue, chroma and lightness in CIE L*a*b* (CIE 15:2004).
 */
export function tone(mend: ToneMend, ground: Ground, rect: Rect): Float32Array[] {
  const { exposure, range, contrast, hue, saturation, lightness } = mend;
  const { picture } = ground;
  const part = partOf(ground, rect);
  const seen = lightPlanes(part, picture.transfer);
  const lit = exposure === 0 ? seen : exposed(seen, exposure, range);
  const isColourKept = hue === 0 && saturation === 1 && lightness === 0 && contrast === 0;
  const angle = (hue * Math.PI) / 180;
  const [cos, sin] = [saturation * Math.cos(angle), saturation * Math.sin(angle)];
  const light = isColourKept
    ? lit
    : movedLab(lit, {
        lightness: { times: 1, plus: lightness },
        turn: [cos, -sin, sin, cos],
        plus: [0, 0],
        ...(contrast === 0 ? {} : { added: localContrast(mend, ground, rect) }),
      });
  return inCodes(light, ground);
}

/** Light as code values, not rounded, of each colour channel of the ground. */
export const inCodes = (light: readonly Float32Array[], { raster, picture }: Ground): Float32Array[] =>
  encodedPlanes(light, colourPlanes(raster).length, fullScale(raster.depth), picture.transfer);
