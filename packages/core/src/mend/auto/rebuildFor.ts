import type { PictureShape } from '../../raster/raster.ts';
import type { Place } from '../../source/occupied.ts';
import { occupiedPixels } from '../../source/occupied.ts';
import { maskOf } from '../../target/maskTargets.ts';
import { targetDistance } from '../../target/targetDistance.ts';
import type { MendBase } from '../mendBase.ts';
import type { RebuildMend } from '../rebuild/rebuildMend.ts';
import { rebuildReads } from '../rebuild/rebuild.ts';

/** The first proposal of a rebuild; others are the seeds that follow. */
export const FIRST_SEED = 1;

/**
 * A rebuild of a target that keeps clear of what is still open around it.
 * @param avoid open faults; those that lie on the target itself are what is rebuilt
 */
export function rebuildFor(base: MendBase, avoid: readonly Place[], picture: PictureShape): RebuildMend {
  const mend: RebuildMend = { ...base, method: 'rebuild', seed: FIRST_SEED, guides: [] };
  const [rect] = rebuildReads(mend, picture);
  if (!rect) return mend;
  const own = base.margin + base.edge;
  const others = avoid.filter(({ x, y }) => {
    const pixel = { left: Math.floor(x), top: Math.floor(y), width: 1, height: 1 };
    return targetDistance(base.target, pixel)[0] > own;
  });
  const marks = occupiedPixels(rect, { avoid: others }, picture.width);
  return marks.includes(1) ? { ...mend, avoid: maskOf(marks, rect) } : mend;
}
