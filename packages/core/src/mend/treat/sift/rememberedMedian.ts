import type { PlanePart } from '../../../filter/median.ts';
import { medianFilter } from '../../../filter/median.ts';
import type { Plane } from '../../../raster/raster.ts';

/** Medians that are kept: those of the pieces in sight, so that another threshold need not take them again. */
const MOST = 48;

const known = new Map<string, Plane>();

/** A number that differs where the values of a part differ. (FNV-1a over its values.) */
function fingerprint({ plane, width, height, stride }: PlanePart): number {
  let hash = 2166136261;
  for (let y = 0; y < height; y++)
    for (let i = y * stride; i < y * stride + width; i++) hash = Math.imul(hash ^ plane[i], 16777619);
  return hash >>> 0;
}

/** {@link medianFilter}, remembered: the same values and radius give the same medians. Not to be changed. */
export function rememberedMedian(part: PlanePart, radius: number): Plane {
  const key = `${part.width} ${part.height} ${part.depth} ${radius} ${fingerprint(part)}`;
  const median = known.get(key) ?? medianFilter(part, radius);
  known.delete(key);
  known.set(key, median);
  if (known.size > MOST) known.delete(known.keys().next().value ?? key);
  return median;
}
