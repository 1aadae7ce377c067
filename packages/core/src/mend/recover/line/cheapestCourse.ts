/**
 * The chain of choices, one at each place along a course, whose costs and bends add up to the least: found exactly by
 * dynamic programming (Viterbi 1967).
 *
 * @param costs of each choice at each place; all choices have as many places
 * @param bend what it costs to go from one choice to the next place's
 * @returns the choice at each place
 */
export function cheapestCourse(
  costs: readonly ArrayLike<number>[],
  bend: (from: number, to: number) => number,
): number[] {
  const count = costs[0].length;
  if (count === 0) return [];
  let best = costs.map((own) => own[0]);
  const cameFrom: Int16Array[] = [];
  for (let place = 1; place < count; place++) {
    const before = best;
    const from = new Int16Array(costs.length);
    best = costs.map((own, to) => {
      let least = Infinity;
      before.forEach((sum, k) => {
        const cost = sum + bend(k, to);
        if (cost < least) [least, from[to]] = [cost, k];
      });
      return least + own[place];
    });
    cameFrom.push(from);
  }
  const course = [best.indexOf(Math.min(...best))];
  for (let place = count - 1; place > 0; place--) course.unshift(cameFrom[place - 1][course[0]]);
  return course;
}
