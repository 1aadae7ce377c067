import type { Fault } from '../../fault/fault.ts';
import type { FaultKind } from '../../fault/kinds.ts';
import type { FloatPlane } from '../../raster/float.ts';
import { boundedOdds } from '../classify/boundedOdds.ts';
import { alongPath } from '../lines/courses.ts';
import type { LinePoint } from '../lines/joinPaths.ts';
import type { PictureNature } from '../nature/nature.ts';
import { canCarry } from '../nature/nature.ts';
import { createPlaceGrid } from '../placeGrid.ts';
import { witnessedLines } from './witnessedLines.ts';
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
  'isWitnessed',
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
 * @param fault with a path, in pixels of the picture
 * @param isWitnessed if the net proposes it
 * @param finder what the finder says of it, in log-odds
 */
function lineWitnessTraits(
  fault: Fault,
  isWitnessed: boolean,
  finder: number,
  maps: WitnessMaps,
  nature: PictureNature,
): Float64Array {
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
    ...[isWitnessed ? 1 : 0, finder],
    on.reduce((sum, value) => sum + value, 0) / count,
    on[Math.floor(0.2 * (count - 1))] ?? UNLIKELIEST,
    on.filter((value) => value > 0).length / count,
    beside / count,
  );
}

/** A line that the finder found, or that the net sees. */
export interface JointLine {
  readonly fault: Fault;
  readonly traits: Float64Array;
}

/** What the finder says of a place where it found no line, in log-odds. */
const UNFOUND = -6;
/** A line that lies so far on a found one is named as that one was. */
const NAMED = 0.5;
/** How near a place must be to a found line to lie on it, in pixels; half its width is added. */
const [NEAR, FARTHEST] = [2.5, 8];

/** What the finder knows of a path that the net proposes: its mean log-odds along it, and the kind that most of it was given. */
function finderAlong(
  found: readonly Fault[],
): (path: readonly LinePoint[]) => { odds: number; kind: FaultKind | null } {
  const grid = createPlaceGrid<{ readonly x: number; readonly y: number; readonly of: Fault }>(FARTHEST);
  for (const of of found) for (const [x, y] of alongPath(of.path ?? [], APART)) grid.add(x, y, { x, y, of });
  return (path) => {
    const places = alongPath(path, APART);
    const kinds = new Map<FaultKind, number>();
    let sum = 0;
    for (const [x, y] of places) {
      const near: Fault[] = [];
      grid.some(x, y, (place) => {
        const reach = Math.min(FARTHEST, NEAR + place.of.r);
        if ((place.x - x) ** 2 + (place.y - y) ** 2 < reach * reach) near.push(place.of);
        return false;
      });
      const on = near.sort((one, other) => other.confidence - one.confidence).at(0);
      sum += on ? boundedOdds(on.confidence) : UNFOUND;
      if (on) kinds.set(on.kind, (kinds.get(on.kind) ?? 0) + 1);
    }
    const [kind, count] = [...kinds].sort((a, b) => b[1] - a[1])[0] ?? [null, 0];
    return { odds: sum / Math.max(1, places.length), kind: count > NAMED * places.length ? kind : null };
  };
}

/**
 * All lines that the finder found and all that the net sees, with what both know of them; many are here twice.
 *
 * @param found lines of the finder, with its confidences
 * @param luma encoded, 0 to 1, of the whole picture
 */
export function jointLines(
  found: readonly Fault[],
  maps: WitnessMaps,
  luma: FloatPlane,
  nature: PictureNature,
): JointLine[] {
  const known = finderAlong(found);
  const seen = witnessedLines(maps, luma).map((fault): JointLine => {
    const { odds, kind } = known(fault.path ?? []);
    // A frame has no emulsion to scratch: what lies before its sensor like a line is a fibre.
    const named = kind ?? (canCarry(nature, fault.kind) ? fault.kind : 'fibre');
    return {
      fault: { ...fault, kind: named },
      traits: lineWitnessTraits(fault, true, odds, maps, nature),
    };
  });
  return [
    ...found.map((fault) => ({
      fault,
      traits: lineWitnessTraits(fault, false, boundedOdds(fault.confidence), maps, nature),
    })),
    ...seen,
  ];
}
