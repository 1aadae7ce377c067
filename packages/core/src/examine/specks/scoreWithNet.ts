import type { Pixels } from '../../raster/pixels.ts';
import { holdNet } from '../classify/runNet.ts';
import type { Fault } from '../../fault/fault.ts';
import speckNet from './speckNet.json' with { type: 'json' };
import { speckLight } from './speckLight.ts';
import { netInput } from './netInput.ts';

// Made when it is first asked: all that finds loads the net, and on prints nothing looks closer.
let made: Float32Array | null = null;
const trained = (): Float32Array => (made ??= Float32Array.from(speckNet.numbers));

/**
 * Looks closer at specks: a small net is shown each with its surroundings. It was trained on places that the finder leaves
 * in doubt, and tells shadows and particles from windows, leaves and pebbles as the eye does, by their rims.
 *
 * @param pixels encoded values around every speck
 * @param numbers of the net
 * @returns a log-odds for each, if as many of them were faults as of those that were trained on
 */
export const scoreWithNet = (
  specks: readonly Fault[],
  pixels: Pixels,
  numbers: Float32Array = trained(),
): number[] =>
  holdNet(numbers, ({ judge }) =>
    specks.map((speck) => {
      const { values, features } = netInput(speckLight(speck, pixels), speck);
      return judge(values, features).score;
    }),
  );
