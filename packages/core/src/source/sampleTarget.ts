import type { Reach, TargetField } from '../target/targetField.ts';
import { targetBounds } from '../target/targetBounds.ts';
import type { Point } from '../target/target.ts';

/** The few pixels that stand for a target, as whole-pixel places on the picture. */
export interface TargetSamples {
  /** Pixels that the mend changes. */
  readonly inside: readonly Point[];
  /** Pixels of the surroundings. */
  readonly ring: readonly Point[];
}

const MOST_SAMPLES = 64;

/** About the mean width of a shape that has this bounding box: exact for a disc, less for a thin slanting line. */
function meanWidth(reach: Reach): number {
  const { target } = reach;
  switch (target.shape) {
    case 'disc':
      return 2 * target.r;
    case 'stroke':
      return target.width;
    case 'outline': {
      const bounds = targetBounds(target, 0);
      return Math.min(bounds.width, bounds.height);
    }
    case 'mask': {
      let area = 0;
      for (let i = 1; i < target.runs.length; i += 2) area += target.runs[i];
      return (1.27 * area) / Math.hypot(target.width, target.height) + 1;
    }
  }
}

/** How far a source must be moved to clear the target across its width, in pixels. */
export const targetReach = (reach: Reach): number => meanWidth(reach) + 2 * (reach.margin + reach.edge) + 2;

/** Every n-th of a list, so that at most {@link MOST_SAMPLES} are left, spread evenly. */
function thin(points: readonly Point[]): Point[] {
  const step = Math.max(1, points.length / MOST_SAMPLES);
  return Array.from(
    { length: Math.min(points.length, MOST_SAMPLES) },
    (_, i) => points[Math.floor(i * step)],
  );
}

export function sampleTarget(field: TargetField): TargetSamples {
  const inside: Point[] = [];
  const ring: Point[] = [];
  const { rect, coverage } = field;
  for (let i = 0; i < coverage.length; i++) {
    const point: Point = [rect.left + (i % rect.width), rect.top + Math.floor(i / rect.width)];
    (coverage[i] > 0 ? inside : ring).push(point);
  }
  return { inside: thin(inside), ring: thin(ring) };
}
