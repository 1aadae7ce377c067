import type { Fault } from '../../fault/fault.ts';
import { columnOf } from '../../measure/columnOf.ts';
import { createDiscGrid } from '../discGrid.ts';
import { createPointGrid } from '../pointGrid.ts';
import { boundedOdds } from '../classify/boundedOdds.ts';
import type { DiscAppearance } from './discAppearance.ts';
import { discAppearances } from './discAppearance.ts';
import type { WitnessedPicture } from './witnessedPicture.ts';
import type { WitnessedSpeck } from './witnessedSpecks.ts';
import { witnessedPlace, witnessedSpecks } from './witnessedSpecks.ts';

/** What is known of a place by the finder and by the net, in this order. */
export const SPECK_WITNESS_TRAITS = [
  'polarity',
  'isPrint',
  'logRadius',
  'strength',
  'softness',
  'tone',
  'finder',
  'heat',
  'otherHeat',
  'radiusRatio',
  'inside',
  'around',
  'line',
  'alike',
  'foundAround',
  'seenAround',
  'isFound',
  'step',
  'standsOut',
  'spread',
  'weakestSide',
  'weakestPair',
  'colour',
] as const;

/** A speck that the finder found, or that only the net sees. */
export interface JointSpeck {
  readonly fault: Fault;
  readonly traits: Float64Array;
}

/** What the finder says of a place that it did not find, in log-odds. */
const UNFOUND = -6;
/** A place that the net sees is one that was found, where their centres lie so near, in radii of the larger. */
const SAME = 0.7;
const SAME_LEAST = 2.5;

/** A disc that reaches as far as the centre of the same place may lie. */
const grown = <T extends Pick<Fault, 'x' | 'y' | 'r'>>({ x, y, r }: T) => ({
  x,
  y,
  r: Math.max(SAME_LEAST, r),
});

const isSame = (
  one: Pick<Fault, 'x' | 'y' | 'r' | 'polarity'>,
  other: Pick<Fault, 'x' | 'y' | 'r' | 'polarity'>,
): boolean =>
  one.polarity === other.polarity &&
  Math.hypot(one.x - other.x, one.y - other.y) < Math.max(SAME_LEAST, SAME * Math.max(one.r, other.r));

/** A speck that the net alone sees, measured on the picture. */
const measuredSpeck = ({ x, y, r, polarity }: WitnessedSpeck, { step, tone }: DiscAppearance): Fault => ({
  ...{ kind: 'speck', polarity, x, y, r, softness: 0.5, confidence: 0, tone },
  strength: Math.max(0, step),
});

/** Those of the whole picture count that a finder lists by default. */
const LIKELY = 0.3;
/** Others of a polarity are counted so far away, in pixels. */
const CROWD = 90;
/** Those that are hardly less likely, in log-odds. */
const HARDLY_LESS = 1;

/** Counts how many as likely places of its polarity a net sees around a place: one alone is no texture. */
function likelyAround(
  seen: readonly WitnessedSpeck[],
): (fault: Pick<Fault, 'x' | 'y' | 'polarity'>, heat: number) => number {
  const x = columnOf(Float64Array, seen, (one) => one.x);
  const y = columnOf(Float64Array, seen, (one) => one.y);
  const places = createPointGrid(x, y, CROWD);
  return (fault, heat) => {
    let count = 0;
    for (let n = places.near(fault.x, fault.y) - 1; n >= 0; n--) {
      const one = seen[places.found[n]];
      const isNear = Math.abs(one.x - fault.x) < CROWD && Math.abs(one.y - fault.y) < CROWD;
      if (isNear && one.polarity === fault.polarity && one.heat >= heat - HARDLY_LESS) count++;
    }
    return count;
  };
}

/** Ratios to a step that hardly is one say no more than this. */
const bounded = (ratio: number): number => Math.max(-4, Math.min(4, ratio));

/**
 * All specks that the finder found and all that only the net sees, with what both know of them and how they look.
 *
 * @param found specks of the finder, with its confidences
 */
export function jointSpecks(
  found: readonly Fault[],
  { maps, luma, raster, nature }: WitnessedPicture,
): JointSpeck[] {
  const seen = (['dark', 'bright'] as const).flatMap((polarity) => witnessedSpecks(maps, polarity));
  const places = createDiscGrid<Fault>();
  for (const fault of found) places.add(grown(fault), fault);
  const appearanceOf = discAppearances(luma, raster);
  const alone = seen
    .filter((one) => places.find(grown(one), (fault) => isSame(one, fault)) === undefined)
    .map((one) => measuredSpeck(one, appearanceOf(one)));
  const countAlike = likelyAround(seen);
  const megapixels = (luma.width * luma.height) / 1e6;
  const many = (count: number): number => Math.log2(1 + count / megapixels);
  const foundAround = many(found.filter(({ confidence }) => confidence > LIKELY).length);
  const seenAround = many(seen.filter(({ heat }) => heat > 0).length);
  return [...found, ...alone].map((fault): JointSpeck => {
    const { heat, otherHeat, radiusRatio, inside, around, line } = witnessedPlace(maps, fault);
    const { step, standsOut, spread, weakestSide, weakestPair, colour } = appearanceOf(fault);
    const finder = fault.confidence > 0 ? boundedOdds(fault.confidence) : UNFOUND;
    return {
      fault,
      traits: Float64Array.of(
        ...[fault.polarity === 'dark' ? 1 : -1, nature === 'print' ? 1 : 0, Math.log2(fault.r)],
        ...[fault.strength, fault.softness, fault.tone ?? 0.5, finder, heat, otherHeat, radiusRatio],
        ...[inside, around, line, countAlike(fault, heat), foundAround, seenAround],
        ...[fault.confidence > 0 ? 1 : 0, step, standsOut, Math.log2(spread)],
        ...[bounded(weakestSide), bounded(weakestPair), bounded(colour)],
      ),
    };
  });
}
