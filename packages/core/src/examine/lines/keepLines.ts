import type { Fault } from '../fault.ts';

/** A line that lies so far on a surer one is that one once more. */
const MOST_SHARED = 0.5;
/** How near a place must be to another line's course to lie on it, in pixels; half its width is added. */
const NEAR = 2;
const CELL = 8;

/** Cells that the courses of lines run through, to ask whether a place lies on one. */
class Courses {
  private readonly cells = new Map<string, { x: number; y: number; reach: number }[]>();

  add({ path = [], r }: Pick<Fault, 'path' | 'r'>): void {
    for (const [x, y] of along(path)) {
      const key = `${Math.floor(x / CELL)} ${Math.floor(y / CELL)}`;
      const place = { x, y, reach: Math.min(CELL, NEAR + r) };
      const cell = this.cells.get(key);
      if (cell) cell.push(place);
      else this.cells.set(key, [place]);
    }
  }

  has(x: number, y: number): boolean {
    for (const dx of [-1, 0, 1])
      for (const dy of [-1, 0, 1])
        for (const place of this.cells.get(`${Math.floor(x / CELL) + dx} ${Math.floor(y / CELL) + dy}`) ?? [])
          if (Math.hypot(place.x - x, place.y - y) < place.reach) return true;
    return false;
  }
}

/** Places along a path, two pixels apart. */
function along(path: NonNullable<Fault['path']>): [number, number][] {
  const places: [number, number][] = [];
  for (let i = 1; i < path.length; i++) {
    const [[ax, ay], [bx, by]] = [path[i - 1], path[i]];
    const count = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / 2));
    for (let k = 0; k <= count; k++)
      places.push([ax + ((bx - ax) * k) / count, ay + ((by - ay) * k) / count]);
  }
  return places;
}

const surestFirst = (a: Fault, b: Fault): number => b.confidence - a.confidence || a.y - b.y || a.x - b.x;

/** Keeps of lines that run along one another the surest: the same scratch is seen on several levels. */
export function keepLines(lines: readonly Fault[]): Fault[] {
  const courses = { dark: new Courses(), bright: new Courses() };
  return [...lines].sort(surestFirst).filter((line) => {
    const places = along(line.path ?? []);
    const known = courses[line.polarity];
    const shared = places.filter(([x, y]) => known.has(x, y)).length;
    if (shared > MOST_SHARED * places.length) return false;
    known.add(line);
    return true;
  });
}

/** Leaves out the specks that are no more than a part of a surer line. */
export function specksOffLines(specks: readonly Fault[], lines: readonly Fault[]): Fault[] {
  // Both come surest first, so that each speck is held against the lines that are surer than it.
  const courses = { dark: new Courses(), bright: new Courses() };
  let next = 0;
  return [...specks].sort(surestFirst).filter((speck) => {
    while (next < lines.length && lines[next].confidence >= speck.confidence) {
      courses[lines[next].polarity].add(lines[next]);
      next++;
    }
    return !courses[speck.polarity].has(speck.x, speck.y);
  });
}
