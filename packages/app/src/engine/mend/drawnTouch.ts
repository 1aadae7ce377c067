import type { Touch } from '@fennip/core/fence';
import type { Target } from '@fennip/core/target';

/** A touch on the picture from which an area grows. */
export interface DrawnTouch {
  readonly target: Target;
  readonly takes: Touch['takes'];
}
