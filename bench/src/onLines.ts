import type { LaidFault } from '@fennip/scenes';

type Point = readonly [x: number, y: number];

/** A line as far as scoring needs it. */
export interface Line {
  readonly path: readonly Point[];
  readonly polarity: 'dark' | 'bright';
}

/** How near a place must be to a line to lie on it, in pixels and half widths. */
const NEAR = 2.5;
const CELL = 8;

/** Places along a path, one for each pixel. */
export function alongPath(path: readonly Point[]): Point[] {
  const places: Point[] = [];
  for (let i = 1; i < path.length; i++) {
    const [[ax, ay], [bx, by]] = [path[i - 1], path[i]];
    const count = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay)));
    for (let k = 0; k < count; k++) places.push([ax + ((bx - ax) * k) / count, ay + ((by - ay) * k) / count]);
  }
  return places;
}

/** A set of lines that can be asked how much of another one lies on them. */
export interface OnLines {
  /** Share of a path that lies on lines of a polarity, 0 to 1. */
  shareOf(line: Line): number;
}

/** @param halfWidths of the lines, in pixels; a wide line is met anywhere on it */
export function onLines(lines: readonly Line[], halfWidths: readonly number[]): OnLines {
  const cells = new Map<string, { x: number; y: number; reach: number; polarity: string }[]>();
  lines.forEach(({ path, polarity }, i) => {
    const reach = Math.min(CELL, NEAR + halfWidths[i]);
    for (const [x, y] of alongPath(path)) {
      const key = `${Math.floor(x / CELL)} ${Math.floor(y / CELL)}`;
      const cell = cells.get(key);
      if (cell) cell.push({ x, y, reach, polarity });
      else cells.set(key, [{ x, y, reach, polarity }]);
    }
  });
  const isOn = ([x, y]: Point, polarity: string): boolean => {
    for (const dx of [-1, 0, 1])
      for (const dy of [-1, 0, 1])
        for (const place of cells.get(`${Math.floor(x / CELL) + dx} ${Math.floor(y / CELL) + dy}`) ?? [])
          if (place.polarity === polarity && Math.hypot(place.x - x, place.y - y) < place.reach) return true;
    return false;
  };
  return {
    shareOf: ({ path, polarity }) => {
      const places = alongPath(path);
      return places.length > 0 ? places.filter((place) => isOn(place, polarity)).length / places.length : 0;
    },
  };
}

export interface LineScore {
  readonly precision: number;
  readonly recall: number;
  readonly f1: number;
}

/** A finding is right, and a laid line found, when half of its length lies on lines of the other kind. */
const HALF = 0.5;

/** @param findings those that are listed */
export function scoreLines(
  findings: readonly (Line & { readonly width: number })[],
  laid: readonly LaidFault[],
): LineScore {
  const truths = laid.flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, r }] : []));
  const truth = onLines(
    truths,
    truths.map(({ r }) => r),
  );
  const listed = onLines(
    findings,
    findings.map(({ width }) => width / 2),
  );
  const right = findings.filter((line) => truth.shareOf(line) >= HALF).length;
  const found = truths.filter((line) => listed.shareOf(line) >= HALF).length;
  const precision = findings.length > 0 ? right / findings.length : 1;
  const recall = truths.length > 0 ? found / truths.length : 1;
  return {
    precision,
    recall,
    f1: precision + recall > 0 ? (2 * precision * recall) / (precision + recall) : 0,
  };
}
