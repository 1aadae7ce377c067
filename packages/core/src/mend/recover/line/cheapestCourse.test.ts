import fc from 'fast-check';
import { expect, it } from 'vitest';
import { cheapestCourse } from './cheapestCourse.ts';

const bend = (from: number, to: number): number => (from - to) ** 2;

/** What a course costs. */
const sumOf = (costs: readonly (readonly number[])[], course: readonly number[]): number =>
  course.reduce(
    (sum, choice, place) => sum + costs[choice][place] + (place > 0 ? bend(course[place - 1], choice) : 0),
    0,
  );

/** All courses of so many places through so many choices. */
const allCourses = (choices: number, places: number): number[][] =>
  Array.from({ length: choices ** places }, (_, n) =>
    Array.from({ length: places }, (_, place) => Math.floor(n / choices ** place) % choices),
  );

it('finds a course that none of all is cheaper than', () => {
  const cost = fc.integer({ min: 0, max: 20 });
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 5 }),
      fc.array(cost, { minLength: 15, maxLength: 15 }),
      (places, values) => {
        const costs = [0, 1, 2].map((choice) => values.slice(5 * choice, 5 * choice + places));
        const least = Math.min(...allCourses(3, places).map((course) => sumOf(costs, course)));
        const found = cheapestCourse(costs, bend);
        expect(found).toHaveLength(places);
        expect(sumOf(costs, found)).toBe(least);
      },
    ),
  );
});

it('has nothing to choose where there is no place, and keeps to what it may', () => {
  expect(cheapestCourse([[], []], bend)).toEqual([]);
  const costs = [
    [0, 9, 0],
    [Infinity, 0, 9],
  ];
  const stays = (from: number, to: number): number => (from === to ? 0 : Infinity);
  expect(cheapestCourse(costs, stays)).toEqual([0, 0, 0]);
});
