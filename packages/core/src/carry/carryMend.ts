import { measureGrainModel } from '../grain/grainModel.ts';
import type { Placement } from '../chart/sensor.ts';
import type { Mend } from '../mend/mend.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import { isTreatment } from '../mend/mend.ts';
import type { MendSurroundings, MendWish } from '../mend/mendWish.ts';
import type { MendProposal } from '../mend/proposeMend.ts';
import { proposeMend } from '../mend/proposeMend.ts';
import { scaleTreatment } from '../mend/treat/scaleTreatment.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import { describeTreatment } from '../mend/treat/treatments.ts';
import type { PaintStroke } from '../mend/mendBase.ts';
import type { Pixels } from '../raster/pixels.ts';
import { intersectRects, isEmpty } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { carryTarget, growthTo } from './carryTarget.ts';
import { isMendedThere } from './isMendedThere.ts';
import { logistic } from '../solve/logistic.ts';

/** Why a mend was not carried over. */
export type NotCarried =
  | 'outside the frame'
  | 'nothing to be seen there'
  | 'mended there already'
  | 'an area of single pixels in a frame that lies otherwise'
  | 'its zone was not carried'
  | 'what came back from another program';

/** A mend made anew on another picture, or why there is none. */
export type Carried =
  | { readonly from: Mend; readonly mend: Mend; readonly confidence: number }
  | { readonly from: Mend; readonly notCarried: NotCarried };

/** What is carried, and between which pictures. */
export interface CarryWish {
  readonly mend: Mend;
  /** The id it gets on the other picture. */
  readonly id: string;
  /** Names the picture it comes from. */
  readonly picture: string;
  readonly from: Placement;
  readonly to: Placement;
  /** Zones that are on the other picture, by id. */
  readonly zones: ReadonlySet<string>;
  /** Mends that the other picture has and keeps. */
  readonly own: readonly Mend[];
}

/** A shadow whose undoing makes a frame less likely than this, in log likelihood, is not seen in it. */
const LEAST_SEEN = 0;
/** What was drawn by hand is carried as it is; whether it fits only the eye can tell. */
const BY_HAND = 0.6;
/** A mend that its own judgement passes, one that it does not, and one without. */
const JUDGED = { good: 0.85, doubtful: 0.3, none: 0.7 };

/** A treatment with what it knows of the grain measured anew. */
function measuredAnew(mend: Treatment, pixels: Pixels): Treatment {
  const { withGrain } = describeTreatment(mend);
  return withGrain
    ? withGrain(mend, measureGrainModel(pixels.window(pictureRect(pixels.shape)).raster))
    : mend;
}

function carryTreatment(mend: Treatment, wish: CarryWish, pixels: Pixels): Carried {
  const { from, to } = wish;
  const { notCarried } = describeTreatment(mend);
  if (notCarried) return { from: mend, notCarried };
  const target = carryTarget(mend.target, from, to);
  const paint = mend.paint?.map((stroke): PaintStroke | null => {
    const shape = carryTarget(stroke.shape, from, to);
    return shape && { ...stroke, shape, edge: stroke.edge * growthTo(from, to) };
  });
  const strokes = paint?.filter((stroke) => stroke !== null);
  if (!target || strokes?.length !== paint?.length)
    return { from: mend, notCarried: 'an area of single pixels in a frame that lies otherwise' };
  const sized = growthTo(from, to) === 1 ? mend : scaleTreatment(mend, 1 / growthTo(from, to));
  const carried = { picture: wish.picture, mend: mend.id };
  return {
    from: mend,
    mend: measuredAnew(
      { ...sized, id: wish.id, target, carried, ...(strokes ? { paint: strokes } : {}) },
      pixels,
    ),
    confidence: BY_HAND,
  };
}

/** True if a round spot is still to be judged by its shadow: it was found to be one on the picture it comes from. */
const isShadow = (mend: SpotMend): boolean =>
  mend.method === 'recover' && mend.veil.kind === 'disc' && mend.target.shape === 'disc';

/** How sure a mend that was made anew is to be right, 0 to 1. */
function confidenceOf({ reason: { evidence }, verdict }: MendProposal): number {
  if (evidence !== null) return logistic(evidence);
  if (verdict === null) return JUDGED.none;
  return verdict.verdict === 'good' ? JUDGED.good : JUDGED.doubtful;
}

function carrySpot(mend: SpotMend, wish: CarryWish, surroundings: MendSurroundings, pixels: Pixels): Carried {
  const { from, to } = wish;
  const target = carryTarget(mend.target, from, to);
  if (!target) return { from: mend, notCarried: 'an area of single pixels in a frame that lies otherwise' };
  const isLit = mend.method === 'recover' && mend.veil.kind === 'disc' && mend.veil.light !== null;
  const anew: MendWish = {
    id: wish.id,
    target,
    margin: mend.margin * growthTo(from, to),
    ...(isShadow(mend) ? { polarity: isLit ? 'bright' : 'dark' } : {}),
    ...(mend.zone === undefined ? {} : { zone: mend.zone }),
  };
  const made = proposeMend(anew, surroundings, pixels, isShadow(mend) ? 'auto' : mend.method);
  const { evidence } = made.reason;
  if (isShadow(mend) && (evidence === null || evidence < LEAST_SEEN))
    return { from: mend, notCarried: 'nothing to be seen there' };
  return {
    from: mend,
    mend: {
      ...made.mend,
      ...{ share: mend.share, on: mend.on },
      ...(mend.only ? { only: mend.only } : {}),
      carried: { picture: wish.picture, mend: mend.id },
    },
    confidence: confidenceOf(made),
  };
}

/**
 * Makes a mend anew on another picture of the same sensor: its place from sensor coordinates, its fit and its source
 * from what the other picture shows there.
 *
 * @param surroundings what it must keep clear of on the other picture
 */
export function carryMend(wish: CarryWish, surroundings: MendSurroundings, pixels: Pixels): Carried {
  const { mend, from, to, zones, own } = wish;
  if (mend.zone !== undefined && !zones.has(mend.zone))
    return { from: mend, notCarried: 'its zone was not carried' };
  const target = carryTarget(mend.target, from, to);
  if (target && isEmpty(intersectRects(targetBounds(target, 0), pictureRect(pixels.shape))))
    return { from: mend, notCarried: 'outside the frame' };
  if (target && !isTreatment(mend) && isMendedThere(target, own))
    return { from: mend, notCarried: 'mended there already' };
  return isTreatment(mend) ? carryTreatment(mend, wish, pixels) : carrySpot(mend, wish, surroundings, pixels);
}
