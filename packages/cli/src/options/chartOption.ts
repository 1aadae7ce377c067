import type { ChartedPlace } from '@fennip/core/chart';
import { chartFaults, locateOnSensor } from '@fennip/core/chart';
import { ChartDocumentSchema, chartOf } from '@fennip/contract';
import { checkerOf } from '@fennip/contract/check';
import type { OptionValues } from './command.ts';
import { numberOption, textOption } from './command.ts';
import type { Frame } from '../pictures/frame.ts';
import { readJson } from '../pictures/readJson.ts';

const checkChart = checkerOf(ChartDocumentSchema);

export const CHART_OPTIONS = { chart: { type: 'string' }, 'f-number': { type: 'string' } } as const;

export const CHART_HELP = `  --chart        a dust chart of the camera: its places are faults of the frame wherever they show in it
  --f-number     the frame's f-number (default: what the file says)`;

/** What a chart that was asked for says of a frame; null where none was. */
export async function chartedPlaces(values: OptionValues, frame: Frame): Promise<ChartedPlace[] | null> {
  const path = textOption(values, 'chart');
  if (path === undefined) return null;
  const chart = chartOf(checkChart(await readJson(path)));
  const stated = textOption(values, 'f-number') === undefined ? frame.fNumber : null;
  const fNumber = stated ?? (numberOption(values, 'f-number', 0.5, 128, 0) || null);
  return chartFaults(chart, frame.pixels, locateOnSensor(frame.raster, frame.orientation, chart), fNumber);
}
