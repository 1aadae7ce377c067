import { columnOf } from '../measure/columnOf.ts';
import type { Reach, TargetField } from '../target/targetField.ts';
import { targetBounds } from '../target/targetBounds.ts';

/** Whole-pixel places on the picture. */
export interface Places {
  readonly x: Int32Array;
  readonly y: Int32Array;
}

/** The few pixels that stand for a target. */
export interface TargetSamples {
  /** Pixels that the mend changes. */
  readonly inside: Places;
  /** Pixels of the surroundings. */
  readonly ring: Places;
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

/** Every n-th of a list of field indices, so that at most {@link MOST_SAMPLES} are left, spread evenly. */
function thin(indices: readonly number[], { rect }: TargetField): Places {
  const count = Math.min(indices.length, MOST_SAMPLES);
  const step = Math.max(1, indices.length / MOST_SAMPLES);
  const chosen = Array.from({ length: count }, (_, i) => indices[Math.floor(i * step)]);
  return {
    x: columnOf(Int32Array, chosen, (i) => rect.left + (i % rect.width)),
    y: columnOf(Int32Array, chosen, (i) => rect.top + Math.floor(i / rect.width)),
  };
}

export function sampleTarget(field: TargetField): TargetSamples {
  const inside: number[] = [];
  const ring: number[] = [];
  for (let i = 0; i < field.coverage.length; i++) (field.coverage[i] > 0 ? inside : ring).push(i);
  return { inside: thin(inside, field), ring: thin(ring, field) };
}
