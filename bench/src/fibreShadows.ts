import { mulberry } from '@fennip/core/random';
import type { LaidFault, Sheet } from '@fennip/scenes';
import type { Path } from './lines.ts';
import { distanceTo } from './lines.ts';

/** A full sensor is so wide; fibres lie so far before it and are so thick (from memory), in millimetres. */
const SENSOR = 36;
const DISTANCES = [0.5, 1];
const THICKNESSES = [0.015, 0.045];
/** How long they are, as shares of the picture's width, and how far they turn in a hundredth of it, radians. */
const LENGTHS = [0.01, 0.08];
const BEND = 0.8;
/** Fibres are opaque; so much of the light they stop where they are as thick as their shadow. */
const OPAQUE = 0.9;
const COUNT = 16;
/** A full width at half the depth is so many spreads of a bell. */
const WIDTH_SPREADS = 2 * Math.sqrt(2 * Math.LN2);

const between = ([least, most]: readonly number[], share: number): number => least + (most - least) * share;

function courseOf({ width, height }: Sheet, length: number, uniform: () => number): Path {
  const step = width / 600;
  let [x, y] = [width * (0.1 + 0.8 * uniform()), height * (0.1 + 0.8 * uniform())];
  let heading = 2 * Math.PI * uniform();
  const turn = (BEND * step * 100) / width;
  const curl = turn * (uniform() - 0.5);
  const path: Path = [[x, y]];
  for (let along = 0; along < length; along += step) {
    heading += curl + turn * (uniform() - 0.5);
    x += step * Math.cos(heading);
    y += step * Math.sin(heading);
    path.push([x, y]);
  }
  return path;
}

/**
 * Lays the shadows of fibres before a sensor on a sheet of light. A shadow's border is as wide as the fibre's distance over
 * the f-number; where that is wider than the fibre, the shadow is so much wider and fainter.
 */
export function layFibreShadows(sheet: Sheet, fNumber: number, seed: number): LaidFault[] {
  const { light, width, height } = sheet;
  const uniform = mulberry(seed);
  return Array.from({ length: COUNT }, (): LaidFault => {
    const path = courseOf(sheet, width * between(LENGTHS, uniform()), uniform);
    const thick = (between(THICKNESSES, uniform()) * width) / SENSOR;
    const blur = ((between(DISTANCES, uniform()) / fNumber) * width) / SENSOR;
    const wide = Math.max(thick, blur);
    const depth = OPAQUE * Math.min(1, thick / blur);
    const spread = wide / WIDTH_SPREADS;
    const reach = 3 * spread;
    const [xs, ys] = [path.map(([x]) => x), path.map(([, y]) => y)];
    const [endX, endY] = [
      Math.min(width, Math.max(...xs) + reach),
      Math.min(height, Math.max(...ys) + reach),
    ];
    for (let y = Math.max(0, Math.floor(Math.min(...ys) - reach)); y < endY; y++)
      for (let x = Math.max(0, Math.floor(Math.min(...xs) - reach)); x < endX; x++) {
        const away = distanceTo(path, x + 0.5, y + 0.5);
        if (away > reach) continue;
        const left = 1 - depth * Math.exp(-0.5 * (away / spread) ** 2);
        for (let c = 0; c < 3; c++) light[3 * (y * width + x) + c] *= left;
      }
    const [x, y] = path[path.length >> 1];
    return { kind: 'fibre', polarity: 'dark', x, y, r: wide / 2, depth, path };
  });
}
