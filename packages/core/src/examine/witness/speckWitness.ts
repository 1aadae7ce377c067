import type { Fault, Polarity } from '../../fault/fault.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { lumaPlane } from '../../raster/float.ts';
import { pictureRect } from '../../raster/window.ts';
import { boundedOdds } from './boundedOdds.ts';
import type { PictureNature } from '../nature/nature.ts';
import type { WitnessMaps } from './witnessMaps.ts';
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

const isSame = (
  one: Pick<Fault, 'x' | 'y' | 'r' | 'polarity'>,
  other: Pick<Fault, 'x' | 'y' | 'r' | 'polarity'>,
): boolean =>
  one.polarity === other.polarity &&
  Math.hypot(one.x - other.x, one.y - other.y) < Math.max(SAME_LEAST, SAME * Math.max(one.r, other.r));

/** Luma of a whole picture, encoded, 0 to 1. */
interface Luma {
  readonly data: Float32Array;
  readonly width: number;
  readonly height: number;
}

function meanBetween({ data, width, height }: Luma, x: number, y: number, from: number, to: number): number {
  let [sum, count] = [0, 0];
  for (let py = Math.max(0, Math.floor(y - to)); py < Math.min(height, y + to); py++)
    for (let px = Math.max(0, Math.floor(x - to)); px < Math.min(width, x + to); px++) {
      const away = Math.hypot(px + 0.5 - x, py + 0.5 - y);
      if (away < from || away > to) continue;
      sum += data[py * width + px];
      count++;
    }
  return count > 0 ? sum / count : 0;
}

/** A speck that the net alone sees, measured on the picture: its step against a ring around it. */
function measuredSpeck(luma: Luma, x: number, y: number, r: number, polarity: Polarity): Fault {
  const core = meanBetween(luma, x, y, 0, Math.max(0.8, 0.7 * r));
  const ring = meanBetween(luma, x, y, 1.4 * r + 0.5, 2 * r + 1.5);
  return {
    ...{ kind: 'speck', polarity, x, y, r, softness: 0.5, confidence: 0, tone: ring },
    strength: Math.max(0, polarity === 'dark' ? ring - core : core - ring),
  };
}

/** Others of a polarity are counted so far away, in pixels. */
const CROWD = 90;

/**
 * All specks that the finder found and all that only the net sees, with what both know of them.
 *
 * @param found specks of the finder, with its confidences
 * @param maps of the net, of the same picture
 */
export function jointSpecks(
  found: readonly Fault[],
  maps: WitnessMaps,
  pixels: Pixels,
  nature: PictureNature,
): JointSpeck[] {
  const { raster } = pixels.window(pictureRect(pixels.shape));
  const luma = { ...lumaPlane(raster), height: raster.height };
  const seen = (['dark', 'bright'] as const).flatMap((polarity) => witnessedSpecks(maps, polarity));
  const byCell = new Map<string, Fault[]>();
  const cellOf = (v: number): number => Math.floor(v / 64);
  for (const fault of found) {
    const key = `${cellOf(fault.x)} ${cellOf(fault.y)}`;
    byCell.set(key, [...(byCell.get(key) ?? []), fault]);
  }
  const near = (x: number, y: number): Fault[] =>
    [-1, 0, 1].flatMap((dx) =>
      [-1, 0, 1].flatMap((dy) => byCell.get(`${cellOf(x) + dx} ${cellOf(y) + dy}`) ?? []),
    );
  const alone = seen
    .filter((one) => !near(one.x, one.y).some((fault) => isSame(one, fault)))
    .map(({ x, y, r, polarity }) => measuredSpeck(luma, x, y, r, polarity));
  const all = [...found, ...alone];
  return all.map((fault): JointSpeck => {
    const { heat, otherHeat, radiusRatio, inside, around, line } = witnessedPlace(maps, fault);
    const finder = fault.confidence > 0 ? boundedOdds(fault.confidence) : UNFOUND;
    const alike = seen.filter(
      (one) =>
        one.polarity === fault.polarity &&
        Math.abs(one.x - fault.x) < CROWD &&
        Math.abs(one.y - fault.y) < CROWD &&
        one.heat >= heat - 1,
    ).length;
    return {
      fault,
      traits: Float64Array.of(
        ...[fault.polarity === 'dark' ? 1 : -1, nature === 'print' ? 1 : 0, Math.log2(fault.r)],
        ...[fault.strength, fault.softness, fault.tone ?? 0.5, finder, heat, otherHeat, radiusRatio],
        ...[inside, around, line, alike],
      ),
    };
  });
}
