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

/**
 * Makes the chart of a sensor from a shoot in which some frames were cropped or turned by another program: the whole
 * frames are charted first, the others find their places by their own dust, and then all are charted.
 *
 * @param frames placed as their files say
 * @param load hands out a frame's upright pixels
 */
export async function chartShoot(
  sensor: SensorShape,
  frames: readonly ChartFrame[],
  load: (frame: number) => Promise<Pixels>,
  progress: ChartProgress = () => undefined,
): Promise<ShootChart> {
  const whole = frames.flatMap(({ placement }, i) => (isWholeFrame(placement, sensor) ? [i] : []));
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
