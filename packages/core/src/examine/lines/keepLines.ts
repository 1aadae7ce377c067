import type { Fault } from '../../fault/fault.ts';
import { alongPath, createCourses } from './courses.ts';

/** A line that lies so far on a surer one is that one once more. */
const MOST_SHARED = 0.5;
/** How near a place must be to another line's course to lie on it, in pixels; half its width is added. */
const NEAR = 2;
/** Places that stand for a course lie so far apart, in pixels. */
const APART = 2;

const coursesOfBoth = () => ({ dark: createCourses(NEAR, APART), bright: createCourses(NEAR, APART) });

const surestFirst = (a: Fault, b: Fault): number => b.confidence - a.confidence || a.y - b.y || a.x - b.x;

/** Keeps of lines that run along one another the surest: the same scratch is seen on several levels. */
export function keepLines(lines: readonly Fault[]): Fault[] {
  const courses = coursesOfBoth();
  return [...lines].sort(surestFirst).filter((line) => {
    const { path = [], r } = line;
    const places = alongPath(path, APART);
    const known = courses[line.polarity];
    const shared = places.filter(([x, y]) => known.has(x, y)).length;
    if (shared > MOST_SHARED * places.length) return false;
    known.add(path, r);
    return true;
  });
}

/** Leaves out the specks that are no more than a part of a surer line. */
export function specksOffLines(specks: readonly Fault[], lines: readonly Fault[]): Fault[] {
  // Both come surest first, so that each speck is held against the lines that are surer than it.
  const courses = coursesOfBoth();
  let next = 0;
  return [...specks].sort(surestFirst).filter((speck) => {
    while (next < lines.length && lines[next].confidence >= speck.confidence) {
      const { path = [], r, polarity } = lines[next];
      courses[polarity].add(path, r);
      next++;
    }
    return !courses[speck.polarity].has(speck.x, speck.y);
  });
}
