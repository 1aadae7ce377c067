import type { ChartFrame, SensorShape, SpannedCharts } from '@fennip/core/chart';
import { chartSpans } from '@fennip/core/chart';
import type { MessagePort } from 'node:worker_threads';
import { pixelsOfOriginal } from './original.ts';

/** Makes the dust charts of a sensor from frames of it, in the order they were taken; sends the share that is done. */
export const makeCharts = ({
  sensor,
  frames,
  mostPixels,
  port,
}: {
  readonly sensor: SensorShape;
  readonly frames: readonly (ChartFrame & { readonly original: string })[];
  readonly mostPixels: number;
  readonly port: MessagePort;
}): Promise<SpannedCharts> =>
  chartSpans(
    sensor,
    frames,
    (frame) => pixelsOfOriginal({ original: frames[frame].original, mostPixels }),
    (share) => port.postMessage(share),
  );
