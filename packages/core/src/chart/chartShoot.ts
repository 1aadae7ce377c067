import type { Pixels } from '../raster/pixels.ts';
import type { ChartFrame, DustChart } from './chart.ts';
import type { ChartProgress } from './dustChart.ts';
import { chartDust } from './dustChart.ts';
import { isWholeFrame, locateOnSensor } from './locateOnSensor.ts';
import type { Placement, SensorShape } from './sensor.ts';

/** A chart with where each of its frames lies on the sensor. */
export interface ShootChart extends DustChart {
  readonly placements: readonly Placement[];
}

/** From so many whole frames on the others are looked for on the sensor. */
const LEAST_WHOLE = 2;
/** Of the time, what the whole frames alone take. */
const FIRST = 0.45;

/** True if a picture is a copy of all that the sensor took, as far as its sides say: a crop may be of the same shape. */
const isCopy = ({ left, top }: Placement): boolean => Math.max(Math.abs(left), Math.abs(top)) < 1e-6;

/** Frames as large as the sensor, and copies of a size that several have: crops are each of their own. */
function wholeFrames(frames: readonly ChartFrame[], sensor: SensorShape): number[] {
  const copies = frames.map(({ placement }) => placement).filter(isCopy);
  return frames.flatMap(({ placement }, i) => {
    const alike = copies.filter(({ scale }) => scale === placement.scale).length;
    return isWholeFrame(placement, sensor) || (isCopy(placement) && alike > 1) ? [i] : [];
  });
}

/**
 * Makes the chart of a sensor from a shoot in which some frames were cropped or turned by another program: the whole
 * frames are charted first, the others find their places by their own dust, and then all are charted.
 *
 * @param frames placed as their files say
 * @param load hands out a frame's upright pixels
 * @returns places and radii in pixels of the sensor, depths as a share of linear light, confidences 0 to 1
 */
export async function chartShoot(
  sensor: SensorShape,
  frames: readonly ChartFrame[],
  load: (frame: number) => Promise<Pixels>,
  progress: ChartProgress = () => undefined,
): Promise<ShootChart> {
  const whole = wholeFrames(frames, sensor);
  const isSettled = whole.length === frames.length || whole.length < LEAST_WHOLE;
  const first = isSettled
    ? null
    : await chartDust(
        sensor,
        whole.map((i) => frames[i]),
        (k) => load(whole[k]),
        (share) => progress(FIRST * share),
      );
  const placed: ChartFrame[] = [];
  for (const [i, frame] of frames.entries()) {
    if (!first || whole.includes(i)) placed.push(frame);
    else {
      const pixels = await load(i);
      const { width, height } = pixels.shape;
      const { raster } = pixels.window({ left: 0, top: 0, width, height });
      placed.push({ ...frame, placement: locateOnSensor(raster, frame.placement.orientation, first) });
    }
  }
  const from = first ? FIRST : 0;
  const chart = await chartDust(sensor, placed, load, (share) => progress(from + (1 - from) * share));
  return { ...chart, placements: placed.map(({ placement }) => placement) };
}
