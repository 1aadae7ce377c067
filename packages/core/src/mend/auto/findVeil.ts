import type { Polarity } from '../../fault/fault.ts';
import { lumaPlane } from '../../raster/float.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { intersectRects, isEmpty } from '../../raster/rect.ts';
import type { Rect } from '../../raster/rect.ts';
import type { Window } from '../../raster/window.ts';
import { pictureRect } from '../../raster/window.ts';
import { occupiedPixels } from '../../source/occupied.ts';
import type { DiscTarget } from '../../target/target.ts';
import { fieldRect } from '../../target/targetField.ts';
import { RING } from '../heal/heal.ts';
import type { MendBase } from '../mendBase.ts';
import type { MendSurroundings, MendWish } from '../mendWish.ts';
import type { FittedVeil } from '../recover/fitVeil.ts';
import { fitVeil, refineVeil } from '../recover/fitVeil.ts';
import { fitReach } from '../recover/sketchVeil.ts';
import type { Leftover } from '../recover/leftover.ts';
import { leftoverRoughness } from '../recover/leftover.ts';
import { recoverability } from '../recover/trust.ts';
import { undoSpot } from '../recover/undoSpot.ts';
import type { Veil } from '../../veil/veil.ts';
import { veilBounds, veilField } from '../../veil/veil.ts';

/** A veil fitted to a wish, and how much it would bring back. */
export interface VeilFinding extends FittedVeil {
  readonly recoverability: number;
  /** How rough undoing it leaves the place, against its surroundings. */
  readonly leftover: Leftover;
  /** How far the spot's middle departs from its ring, in spreads of the ring. */
  readonly departure: number;
  /** True if some of it must be healed. */
  readonly hasLostPart: boolean;
}

/** The rectangle {@link findVeil} looks at. */
export const squareAround = ({ x, y, r }: DiscTarget): Rect => {
  const half = fitReach(r);
  return { left: Math.floor(x) - half, top: Math.floor(y) - half, width: 2 * half + 1, height: 2 * half + 1 };
};

/** How far the middle of a disc departs from the ring around it, in spreads of the ring; encoded luma. */
function departureOf({ x, y, r }: DiscTarget, { left, top, raster }: Window): number {
  const { data, width, height } = lumaPlane(raster);
  let [core, inside, ring, squares, around] = [0, 0, 0, 0, 0];
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      const away = Math.hypot(left + column + 0.5 - x, top + row + 0.5 - y) / r;
      if (away < 0.7) {
        core += data[i];
        inside++;
      } else if (away > 1.5 && away < 2.2) {
        ring += data[i];
        squares += data[i] * data[i];
        around++;
      }
    }
  if (inside === 0 || around === 0) return 0;
  const mean = ring / around;
  const spread = Math.sqrt(Math.max(0, squares / around - mean * mean)) + 1 / 255;
  return Math.abs(core / inside - mean) / spread;
}

/** The target of a recover: the veil itself, with all of its penumbra inside the margin. */
export function veilReach(veil: Veil): Pick<MendBase, 'target' | 'margin' | 'edge'> {
  const { width } = veilBounds(veil);
  return {
    target: { shape: 'disc', x: veil.x, y: veil.y, r: veil.r },
    margin: Math.max(0, width / 2 - veil.r),
    edge: 1,
  };
}

/** Fits a veil to a round target; null where the target is not round or lies outside the picture. */
export function findVeil(wish: MendWish, { avoid }: MendSurroundings, pixels: Pixels): VeilFinding | null {
  const { target, polarity } = wish;
  if (target.shape !== 'disc') return null;
  const rect = intersectRects(squareAround(target), pictureRect(pixels.shape));
  if (rect.width < 3 || rect.height < 3) return null;
  const window = pixels.window(rect);
  const others = avoid.filter(({ x, y, r }) => Math.hypot(x - target.x, y - target.y) > 0.5 * (r + target.r));
  const unknown = occupiedPixels(rect, { avoid: others }, pixels.shape.width);
  const polarities: readonly Polarity[] = polarity ? [polarity] : ['dark', 'bright'];
  const { known } = wish;
  const fits = known
    ? [refineVeil(window, known.veil, known.depthError, unknown)]
    : polarities.map((which) => fitVeil(window, { ...target, polarity: which }, unknown));
  const best = fits.reduce((a, b) => (b.evidence > a.evidence ? b : a));
  const own = fieldRect(veilReach(best.veil), pixels.shape, RING);
  if (isEmpty(own)) return null;
  const amount = veilField(best.veil, own);
  const here = pixels.window(own).raster;
  const { trust, values } = undoSpot(best.veil, amount, here, pixels.shape);
  return {
    ...best,
    departure: departureOf(target, window),
    leftover: leftoverRoughness(values, amount, here),
    recoverability: recoverability(amount, trust),
    hasLostPart: trust.some((share) => share < 1),
  };
}
