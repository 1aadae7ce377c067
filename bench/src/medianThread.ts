import { medianFilter } from '@fennip/core/bench';
import type { MedianTask } from './medianThreads.ts';

/** Filters a part of a plane; returns how many medians there are, to have something to wait for. */
export default ({ plane, width, height, depth, radius }: MedianTask): number =>
  medianFilter({ plane, width, height, stride: width, depth }, radius).length;
