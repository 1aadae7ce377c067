import type { Point } from '../../target/target.ts';

/** A line or curve along which an edge goes on through a loss; it begins and ends on the edge where that is known. */
export interface Guide {
  readonly points: readonly Point[];
}
