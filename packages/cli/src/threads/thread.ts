import type {
  Depth,
  ExamineTile,
  FaultToMend,
  MeasuredPart,
  Mend,
  MendSurroundings,
  MethodChoice,
  Pixels,
  Transfer,
} from '@fennip/core';
import { examineTile, examineWhole, pixelsOf, proposeRun, rasterOver } from '@fennip/core';

/** A picture that all threads can read. */
export interface SharedPicture {
  readonly buffer: SharedArrayBuffer;
  readonly width: number;
  readonly height: number;
  readonly channels: number;
  readonly depth: Depth;
  readonly transfer?: readonly Transfer[];
}

/** A run of faults of a picture. */
export interface MendTask {
  readonly kind: 'mend';
  readonly picture: SharedPicture;
  readonly faults: readonly FaultToMend[];
  readonly surroundings: MendSurroundings;
  readonly choice: MethodChoice;
}

/** A part of a picture, or what only shows on all of it. */
export interface ExamineTask {
  readonly kind: 'examine';
  readonly picture: SharedPicture;
  readonly part: ExamineTile | 'whole';
}

const pixelsFrom = ({ buffer, width, height, channels, depth, transfer }: SharedPicture): Pixels =>
  pixelsOf(rasterOver(buffer, width, height, channels, depth), transfer);

/** Runs in a thread of its own. */
export default function thread(task: MendTask | ExamineTask): Mend[] | MeasuredPart {
  const pixels = pixelsFrom(task.picture);
  if (task.kind === 'mend') return proposeRun(task.faults, task.surroundings, pixels, task.choice);
  return task.part === 'whole' ? examineWhole(pixels) : examineTile(task.part, pixels);
}
