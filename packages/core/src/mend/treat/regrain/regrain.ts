import { boxMean } from '../../../filter/boxMean.ts';
import { grainNoise } from '../../../grain/grainNoise.ts';
import { noiseAt } from '../../../grain/noiseTable.ts';
import { lumaPlane } from '../../../raster/float.ts';
import { fullScale } from '../../../raster/raster.ts';
import type { Rect } from '../../../raster/rect.ts';
import { colourPlanes } from '../../../raster/patch.ts';
import { seedOf } from '../../seedOf.ts';
import { grainShare } from '../../../grain/grainShare.ts';
import type { Ground } from '../ground.ts';
import type { RegrainMend } from './regrainMend.ts';

/** What grain there is, and how bright it is, is measured over a square that reaches this far, in pixels. */
export const GRAIN_AROUND = 8;

/** How far a regrain looks around, in pixels. */
export const regrainReach = (): number => GRAIN_AROUND + 2;

/** Grain that is this much weaker, as a share of variance, is so by accident; from the second on all of it counts. */
const ACCIDENT = { none: 0.1, all: 0.35 };

/** The variance that is to be added. */
function lacking(wanted: number, there: number): number {
  const lack = wanted - there;
  const share = wanted > 0 ? lack / wanted : 0;
  const counts = Math.min(1, Math.max(0, (share - ACCIDENT.none) / (ACCIDENT.all - ACCIDENT.none)));
  return counts * Math.max(0, lack);
}

/**
 * Adds the picture's own grain where it is weaker than its brightness lets expect, as much as is missing: variances
 * add. Where there is as much or more, as on structure of the subject, nothing changes. Works on encoded values.
 * (Random phase noise: Galerne, Gousseau, Morel 2011.)
 */
export function regrain(mend: RegrainMend, { raster, rect: whole }: Ground, rect: Rect): Float32Array[] {
  const { width, stride, depth } = raster;
  const top = fullScale(depth);
  const planes = colourPlanes(raster);
  const luma = lumaPlane(raster);
  const share = grainShare(luma, mend.grain, GRAIN_AROUND);
  const brightness = boxMean(luma, GRAIN_AROUND).data;
  // A grey grain lies alike on all channels.
  const { mix } = mend.grain;
  const isOwn = mix.length === planes.length;
  const noise = grainNoise(isOwn ? mend.grain : { ...mend.grain, mix: [[1]] }, rect, seedOf(mend.id));
  return planes.map((plane, c) => {
    const values = new Float32Array(rect.width * rect.height);
    for (let y = 0, i = 0; y < rect.height; y++)
      for (let x = 0; x < rect.width; x++, i++) {
        const [px, py] = [rect.left + x - whole.left, rect.top + y - whole.top];
        const at = py * width + px;
        const missing = Math.sqrt(lacking(mend.strength ** 2, share[at]));
        values[i] =
          plane[py * stride + px] +
          missing * noiseAt(mend.grain.noise, brightness[at]) * top * noise[isOwn ? c : 0][i];
      }
    return values;
  });
}
