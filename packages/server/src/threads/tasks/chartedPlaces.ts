import type { ChartedPlace, DustChart, Placement } from '@fennip/core/chart';
import { chartFaults, locateOnSensor } from '@fennip/core/chart';
import { pixelsOf } from '@fennip/core/raster';
import type { Original } from './original.ts';
import { decodeOriginal } from './original.ts';

/** What a chart says of one frame, and where that lies on the sensor. */
export interface FoundPlaces {
  readonly places: readonly ChartedPlace[];
  readonly placement: Placement;
}

export interface ChartedFrame extends Original {
  readonly chart: DustChart;
  readonly placement: Placement;
  /** The frame is looked for on the sensor first: its file alone says where it lies. */
  readonly isSought: boolean;
  readonly fNumber: number | null;
}

/** Where the dust of a chart lies on one frame. */
export async function chartedPlaces({
  chart,
  placement,
  isSought,
  fNumber,
  ...of
}: ChartedFrame): Promise<FoundPlaces> {
  const { raster, header } = await decodeOriginal(of);
  const lies = isSought ? locateOnSensor(raster, placement.orientation, chart) : placement;
  return {
    places: chartFaults(chart, pixelsOf(raster, header.transfer), lies, fNumber),
    placement: lies,
  };
}
