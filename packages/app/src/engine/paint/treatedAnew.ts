import type { Mend } from '@fennip/core/mend';
import type { PictureShape, Rect } from '@fennip/core/raster';
import { isTreatment, treatmentFootprint } from '@fennip/core/mend';

const isSame = (a: Mend, b: Mend): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/**
 * Where a list of mends looks different from the one before because treatments were added, changed or taken away.
 *
 * @returns null where anything else differs: another kind of mend, or their order
 */
export function treatedAnew(
  before: readonly Mend[],
  after: readonly Mend[],
  picture: PictureShape,
): Rect[] | null {
  const [were, are] = [before, after].map((mends) => new Map(mends.map((mend) => [mend.id, mend])));
  const orderOf = (mends: readonly Mend[]): string =>
    mends
      .filter(({ id }) => were.has(id) && are.has(id))
      .map(({ id }) => id)
      .join();
  if (orderOf(before) !== orderOf(after)) return null;
  const differing = [
    ...before.filter((mend) => {
      const now = are.get(mend.id);
      return !now || !isSame(mend, now);
    }),
    ...after.filter((mend) => {
      const then = were.get(mend.id);
      return !then || !isSame(mend, then);
    }),
  ];
  const rects: Rect[] = [];
  for (const mend of differing) {
    if (!isTreatment(mend)) return null;
    rects.push(treatmentFootprint(mend, picture));
  }
  return rects;
}
