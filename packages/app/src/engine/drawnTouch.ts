import type { Target, Touch } from '@fennip/core';

/** A touch on the picture from which an area grows. */
export interface DrawnTouch {
  readonly target: Target;
  readonly takes: Touch['takes'];
}
