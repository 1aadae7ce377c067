import { PATCH } from './completionLevel.ts';
import type { CompletionLevel } from './completionLevel.ts';
import type { PatchCost } from './patchCost.ts';
import type { PatchField, SourcePool } from './patchField.ts';

/** Each step of the random search looks in a square of this share of the last one's side. */
const NARROWING = 0.5;

/**
 * Looks for better sources for all targets, once forward and once backward through them: those that the neighbours'
 * sources suggest, then places drawn around the one at hand, ever nearer.
 * (Barnes, Shechtman, Finkelstein, Goldman 2009, PatchMatch.)
 *
 * @param targets centres, row after row
 * @param reach how far from the source at hand places are drawn, in pixels of the level
 */
export function matchPatches(
  level: CompletionLevel,
  field: PatchField,
  { cost }: PatchCost,
  pool: SourcePool,
  targets: Int32Array,
  reach: number,
): void {
  const { width, height, isSource } = level;
  const { from } = field;

  function attempt(target: number, source: number): void {
    if (!isSource[source] || source === from[target]) return;
    const price = cost(target, source, field.cost[target]);
    if (price < field.cost[target]) {
      from[target] = source;
      field.cost[target] = price;
    }
  }

  function suggested(target: number, step: number): void {
    const neighbour = target - step;
    if (from[neighbour] >= 0) attempt(target, from[neighbour] + step);
  }

  function drawn(target: number): void {
    for (let away = reach; away >= 1; away *= NARROWING) {
      const y = Math.floor(from[target] / width);
      const x = from[target] - y * width;
      const nextX = x + Math.round((2 * pool.chance() - 1) * away);
      const nextY = y + Math.round((2 * pool.chance() - 1) * away);
      if (nextX < PATCH || nextY < PATCH || nextX >= width - PATCH || nextY >= height - PATCH) continue;
      attempt(target, nextY * width + nextX);
    }
  }

  for (const target of targets)
    if (from[target] < 0) for (let k = 0; k < pool.tries; k++) attempt(target, pool.draw());
  for (let k = 0; k < targets.length; k++) {
    suggested(targets[k], 1);
    suggested(targets[k], width);
    drawn(targets[k]);
  }
  for (let k = targets.length - 1; k >= 0; k--) {
    suggested(targets[k], -1);
    suggested(targets[k], -width);
    drawn(targets[k]);
  }
}
