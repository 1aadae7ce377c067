import type { Mend } from '../mend/mend.ts';
import { isSpotMend } from '../mend/mend.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { targetDistance } from '../target/targetDistance.ts';
import type { Fault, LeftoverOrigin } from '../fault/fault.ts';

/** A fault that an examination of the mended picture found. */
export interface Leftover extends Fault {
  readonly origin: LeftoverOrigin;
}

/** A fault's place, and which it is. */
type Known = Pick<Fault, 'kind' | 'polarity' | 'x' | 'y' | 'r'> & { readonly id?: string };

/** Two places are one when they are nearer than the larger of these many pixels and either radius. */
const SAME_PLACE = 2;

/**
 * True if two findings are one fault: the same kind and polarity at the same place.
 *
 * @param a places and radii in pixels, as of `b`
 */
export const isSameFault = (a: Known, b: Known): boolean =>
  a.kind === b.kind &&
  a.polarity === b.polarity &&
  Math.hypot(a.x - b.x, a.y - b.y) < Math.max(SAME_PLACE, a.r, b.r);

/** True if a mend changed what lies at a finding. */
function isUnder({ x, y, r }: Fault, mend: Mend): boolean {
  const reach = mend.margin + mend.edge + 0.5 * r;
  const { left, top, width, height } = targetBounds(mend.target, reach);
  if (x < left || y < top || x > left + width || y > top + height) return false;
  const half = Math.ceil(reach) + 1;
  const around = {
    left: Math.floor(x) - half,
    top: Math.floor(y) - half,
    width: 2 * half + 1,
    height: 2 * half + 1,
  };
  return targetDistance(mend.target, around)[half * around.width + half] <= reach;
}

/**
 * Tells what a finder saw on a mended picture: what a mend left over, and what a mend brought in. What no mend has
 * touched is on the ledger already, or was left off it, and is not listed again.
 *
 * @param found on the mended picture
 * @param before all that was found on the picture as it came in, and what was marked by hand
 * @param mends those that are laid down
 */
export function tellLeftovers(
  found: readonly Fault[],
  before: readonly Known[],
  mends: readonly Mend[],
): Leftover[] {
  const byId = new Map(before.map((fault) => [fault.id, fault]));
  // A treatment has no one fault that it was meant for.
  const on = mends.filter((mend) => mend.on && isSpotMend(mend));
  return found.flatMap((fault): Leftover[] => {
    const over = on.filter((mend) => isUnder(fault, mend));
    if (over.length === 0) return [];
    const meant = over.flatMap((mend) => (mend.fault === undefined ? [] : (byId.get(mend.fault) ?? [])));
    const wasThere =
      before.some((known) => isSameFault(fault, known)) ||
      meant.some(({ x, y, r }) => Math.hypot(x - fault.x, y - fault.y) < Math.max(SAME_PLACE, r));
    return [{ ...fault, origin: wasThere ? 'left over' : 'made by a mend' }];
  });
}
