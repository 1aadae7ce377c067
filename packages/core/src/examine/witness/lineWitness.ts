import type { Fault } from '../../fault/fault.ts';
import { boundedOdds } from './boundedOdds.ts';
import { alongPath } from '../lines/courses.ts';
import type { PictureNature } from '../nature/nature.ts';
import type { WitnessMaps } from './witnessMaps.ts';
import { UNLIKELIEST, mapAt } from './witnessMaps.ts';

/** What is known of a line by the finder and by the net, in this order. */
export const LINE_WITNESS_TRAITS = [
  'polarity',
  'isPrint',
  'logLength',
  'logWidth',
  'strength',
  'straightness',
  'finder',
  'onLine',
  'weakest',
  'shareOn',
  'beside',
] as const;

/** A line is read at places so far apart, in pixels. */
const APART = 2;
/** Beside a line is so far from its middle, in pixels beyond its border. */
const BESIDE = 6;

/**
 * What the finder and the net know of a line.
 *
 * @param fault with a path, in pixels of the picture, and the finder's confidence
 */
export function lineWitnessTraits(fault: Fault, maps: WitnessMaps, nature: PictureNature): Float64Array {
  const places = alongPath(fault.path ?? [], APART);
  const lineAt = (x: number, y: number): number =>
    mapAt(maps, 'line', Math.round(x / 2 - 0.5), Math.round(y / 2 - 0.5));
  // The middle that was found may lie a pixel off.
  const on = places
    .map(([x, y]) =>
      Math.max(lineAt(x, y), lineAt(x + 1.5, y), lineAt(x - 1.5, y), lineAt(x, y + 1.5), lineAt(x, y - 1.5)),
    )
    .sort((a, b) => a - b);
  let [beside, length] = [0, 0];
  places.forEach(([x, y], k) => {
    const [px, py] = places[Math.max(0, k - 1)];
    const [nx, ny] = places[Math.min(places.length - 1, k + 1)];
    const along = Math.hypot(nx - px, ny - py) || 1;
    const away = (fault.r + BESIDE) / along;
    beside += Math.max(
      lineAt(x - (ny - py) * away, y + (nx - px) * away),
      lineAt(x + (ny - py) * away, y - (nx - px) * away),
    );
    length += Math.hypot(x - px, y - py);
  });
  const count = Math.max(1, places.length);
  const [first, last] = [places[0] ?? [0, 0], places[places.length - 1] ?? [0, 0]];
  return Float64Array.of(
    ...[fault.polarity === 'dark' ? 1 : -1, nature === 'print' ? 1 : 0, Math.log2(Math.max(1, length))],
    ...[Math.log2(Math.max(0.5, fault.r)), fault.strength],
    Math.hypot(last[0] - first[0], last[1] - first[1]) / Math.max(1, length),
    boundedOdds(fault.confidence),
    on.reduce((sum, value) => sum + value, 0) / count,
    on[Math.floor(0.2 * (count - 1))] ?? UNLIKELIEST,
    on.filter((value) => value > 0).length / count,
    beside / count,
  );
}
