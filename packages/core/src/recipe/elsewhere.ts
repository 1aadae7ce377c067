import type { RebuildMend } from '../mend/rebuild/rebuildMend.ts';
import type { Patch } from '../raster/patch.ts';
import type { RebuildAnswer } from '../mend/rebuild/rebuild.ts';
import type { RebuildTask } from '../mend/rebuild/rebuildTask.ts';

/** Ends what was begun; without effect where it has ended. */
export type End = () => void;

/**
 * Begins a rebuild in another thread.
 * @param bring called with every answer, the coarsest first, never before this has returned
 */
export type RebuildElsewhere = (task: RebuildTask, bring: (answer: RebuildAnswer) => void) => End;

/** A rebuild that is worked out elsewhere: how far it is. */
export interface Underway {
  readonly mend: RebuildMend;
  /** What was brought last; what stood there before where nothing was. */
  readonly invented: Patch | null;
  /** How many answers were brought. */
  readonly answers: number;
  readonly isDone: boolean;
  readonly end: End;
}

/** What of a rebuild says which pixels it makes, as text; the rest is how they are laid down. */
export function madeBy({
  id,
  target,
  margin,
  edge,
  zone,
  seed,
  guides,
  from,
  avoid,
  variants,
}: RebuildMend): string {
  return JSON.stringify([id, target, margin, edge, zone, seed, guides, from, avoid, variants]);
}

/** True if two rebuilds make the same of the same picture. */
export const isSameWork = (a: RebuildMend, b: RebuildMend): boolean => a === b || madeBy(a) === madeBy(b);
