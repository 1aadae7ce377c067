import type { Point } from './target.ts';

/** How long the way through places is, in their unit. */
export function lengthOfPath(path: readonly Point[]): number {
  let length = 0;
  for (let i = 1; i < path.length; i++)
    length += Math.hypot(path[i][0] - path[i - 1][0], path[i][1] - path[i - 1][1]);
  return length;
}
