import type { Depth, FaultToMend, Mend, MendSurroundings, MethodChoice, Transfer } from '@fennip/core';
import { pixelsOf, proposeRun, rasterOver } from '@fennip/core';

/** A picture that all threads can read, and a run of its faults. */
export interface RunTask {
  readonly buffer: SharedArrayBuffer;
  readonly width: number;
  readonly height: number;
  readonly channels: number;
  readonly depth: Depth;
  readonly transfer?: readonly Transfer[];
  readonly faults: readonly FaultToMend[];
  readonly surroundings: MendSurroundings;
  readonly choice: MethodChoice;
}

/** Runs in a thread of its own. */
export default function thread(task: RunTask): Mend[] {
  const { buffer, width, height, channels, depth, transfer, faults, surroundings, choice } = task;
  const pixels = pixelsOf(rasterOver(buffer, width, height, channels, depth), transfer);
  return proposeRun(faults, surroundings, pixels, choice);
}
