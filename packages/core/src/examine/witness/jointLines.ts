import type { Fault } from '../../fault/fault.ts';
import type { FaultKind } from '../../fault/kinds.ts';
import { boundedOdds } from '../classify/boundedOdds.ts';
import type { PathStation } from '../lines/acrossPath.ts';
import { acrossPath } from '../lines/acrossPath.ts';
import { alongPath } from '../lines/courses.ts';
import type { LinePoint } from '../lines/joinPaths.ts';
import { canCarry } from '../nature/nature.ts';
import type { PlaceGrid } from '../placeGrid.ts';
import { createPlaceGrid } from '../placeGrid.ts';
import { lineAppearance } from './lineAppearance.ts';
import { witnessedLines } from './witnessedLines.ts';
import type { WitnessedPicture } from './witnessedPicture.ts';
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
  'evenness',
  'sureness',
  'weakerSide',
  'sidesDiffer',
  'parallel',
] as const;

/** Found lines less likely than this say nothing of those beside them. */
const LIKELY = 0.1;
/** A line is read at places so far apart, in pixels. */
const APART = 2;
/** Beside a line is so far from its middle, in pixels beyond its border. */
const BESIDE = 6;

/**
 * What the finder and the net know of a line, and how it looks.
 *
 * @param fault with a path, in pixels of the picture
 * @param isWitnessed if the net proposes it
 * @param finder what the finder says of it, in log-odds
 * @param parallel the share of it that another line runs beside
 */
function lineWitnessTraits(
  fault: Fault,
  isWitnessed: boolean,
  finder: number,
  parallel: number,
  { maps, luma, nature }: WitnessedPicture,
): Float64Array {
  const places = acrossPath(fault.path ?? [], APART);
  const lineAt = (x: number, y: number): number =>
    mapAt(maps, 'line', Math.round(x / 2 - 0.5), Math.round(y / 2 - 0.5));
  // The middle that was found may lie a pixel off.
  const on = places
    .map(({ x, y }) =>
      Math.max(lineAt(x, y), lineAt(x + 1.5, y), lineAt(x - 1.5, y), lineAt(x, y + 1.5), lineAt(x, y - 1.5)),
    )
    .sort((a, b) => a - b);
  let [beside, length] = [0, 0];
  for (const { x, y, nx, ny, length: since } of places) {
    const away = fault.r + BESIDE;
    beside += Math.max(lineAt(x + nx * away, y + ny * away), lineAt(x - nx * away, y - ny * away));
    length += since;
  }
  const count = Math.max(1, places.length);
  const [first, last] = [places.at(0) ?? { x: 0, y: 0 }, places.at(-1) ?? { x: 0, y: 0 }];
  const { evenness, sureness, weakerSide, sidesDiffer } = lineAppearance(places, fault, luma);
  return Float64Array.of(
    ...[fault.polarity === 'dark' ? 1 : -1, nature === 'print' ? 1 : 0, Math.log2(Math.max(1, length))],
    ...[Math.log2(Math.max(0.5, fault.r)), fault.strength],
    Math.hypot(last.x - first.x, last.y - first.y) / Math.max(1, length),
    ...[isWitnessed ? 1 : 0, finder],
    on.reduce((sum, value) => sum + value, 0) / count,
    on[Math.floor(0.2 * (count - 1))] ?? UNLIKELIEST,
    on.filter((value) => value > 0).length / count,
    beside / count,
    ...[evenness, sureness, weakerSide, sidesDiffer, parallel],
  );
}

/** A line that the finder found, or that the net sees. */
export interface JointLine {
  readonly fault: Fault;
  /** True if the finder found it; the net saw the others. */
  readonly isMeasured: boolean;
  readonly traits: Float64Array;
}

/** What the finder says of a place where it found no line, in log-odds. */
const UNFOUND = -6;
/** A line that lies so far on a found one is named as that one was. */
const NAMED = 0.5;
/** How near a place must be to a found line to lie on it, in pixels; half its width is added. */
const [NEAR, FARTHEST] = [2.5, 8];

interface PlaceOnLine {
  readonly x: number;
  readonly y: number;
  readonly of: Fault;
}

/** Where lines run, to ask what lies near a place. */
function placesOn(lines: readonly Fault[]): PlaceGrid<PlaceOnLine> {
  const grid = createPlaceGrid<PlaceOnLine>(FARTHEST);
  for (const of of lines) for (const [x, y] of alongPath(of.path ?? [], APART)) grid.add(x, y, { x, y, of });
  return grid;
}

/** Two lines run beside one another up to so far, in pixels: both borders of a mast, rails, the courses of a wall. */
const BESIDE_ONE_ANOTHER = 24;
/** It is looked for at every so many pixels along a line, and across it. */
const LOOKED_AT = 8;

/** The share of a line that another one runs beside, found or seen. */
function runsBeside(grid: PlaceGrid<PlaceOnLine>): (fault: Fault) => number {
  return ({ path = [], r }) => {
    const places = acrossPath(path, LOOKED_AT);
    const from = r + 2 * NEAR;
    const isBeside = ({ x, y, nx, ny }: PathStation): boolean => {
      for (const side of [-1, 1])
        for (let away = from; away <= BESIDE_ONE_ANOTHER; away += NEAR) {
          const [px, py] = [x + side * away * nx, y + side * away * ny];
          if (grid.some(px, py, (place) => (place.x - px) ** 2 + (place.y - py) ** 2 < NEAR * NEAR))
            return true;
        }
      return false;
    };
    return places.filter(isBeside).length / Math.max(1, places.length);
  };
}

/** What the finder knows of a path that the net proposes: its mean log-odds along it, and the kind that most of it was given. */
function finderAlong(
  found: readonly Fault[],
): (path: readonly LinePoint[]) => { odds: number; kind: FaultKind | null } {
  const grid = placesOn(found);
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
 */
export function jointLines(found: readonly Fault[], picture: WitnessedPicture): JointLine[] {
  const { maps, luma, nature } = picture;
  const known = finderAlong(found);
  const seen = witnessedLines(maps, luma);
  const likely = found.filter(({ confidence }) => confidence > LIKELY);
  const besideOf = runsBeside(placesOn([...likely, ...seen]));
  return [
    ...found.map((fault) => ({
      ...{ fault, isMeasured: true },
      traits: lineWitnessTraits(fault, false, boundedOdds(fault.confidence), besideOf(fault), picture),
    })),
    ...seen.map((fault): JointLine => {
      const { odds, kind } = known(fault.path ?? []);
      // A frame has no emulsion to scratch: what lies before its sensor like a line is a fibre.
      const named = kind ?? (canCarry(nature, fault.kind) ? fault.kind : 'fibre');
      return {
        ...{ fault: { ...fault, kind: named }, isMeasured: false },
        traits: lineWitnessTraits(fault, true, odds, besideOf(fault), picture),
      };
    }),
  ];
}
