import type { Particle } from '../chart/particle.ts';
import { shadowAt } from '../chart/particle.ts';
import type { Orientation, SensorShape } from '../chart/sensor.ts';
import { onSensor, placeOnSensor } from '../chart/sensor.ts';
import { linearToSrgb, srgbToLinear } from '../light/srgb.ts';
import { gaussianBlur } from '../filter/gaussian.ts';
import { penumbra } from '../veil/penumbra.ts';
import { gaussian } from '../random/gaussian.ts';
import { mulberry } from '../random/mulberry.ts';
import type { Raster } from '../raster/raster.ts';
import { createRaster } from '../raster/raster.ts';

/** A scene of its own: soft blotches and grain, with a sensor's dust on it at an f-number, seen as the camera was held. */
export function dustyFrame(
  sensor: SensorShape,
  {
    seed,
    fNumber,
    dust,
    held = 1,
    blotches: strength = 0.3,
  }: {
    readonly seed: number;
    readonly fNumber: number;
    readonly dust: readonly Particle[];
    readonly held?: Orientation;
    /** How strong the blotches are, encoded, 0 to 1. */
    readonly blotches?: number;
  },
): Raster {
  const uniform = mulberry(seed);
  const { width, height } = sensor;
  const noise = {
    width,
    height,
    data: Float32Array.from({ length: width * height }, () => gaussian(uniform)),
  };
  const blotches = gaussianBlur(noise, 5);
  const turned = held >= 5;
  const upright = turned ? createRaster(height, width, 3, 8) : createRaster(width, height, 3, 8);
  const placement = placeOnSensor(upright, held, sensor);
  const tone = 0.3 + 0.3 * uniform();
  for (let y = 0, i = 0; y < upright.height; y++)
    for (let x = 0; x < upright.width; x++, i++) {
      const [sx, sy] = onSensor(x + 0.5, y + 0.5, placement);
      const at = Math.floor(sy) * width + Math.floor(sx);
      let light = srgbToLinear(
        Math.min(0.95, Math.max(0.05, tone + strength * blotches.data[at] + 0.012 * noise.data[at])),
      );
      for (const one of dust) {
        const { r, softness, depth } = shadowAt(one, fNumber);
        const away = Math.hypot(sx - one.x, sy - one.y) / r;
        light *= 1 - depth * penumbra((1 - away) / Math.max(softness, 0.6 / r));
      }
      for (const plane of upright.planes) plane[i] = Math.round(255 * linearToSrgb(light));
    }
  return upright;
}
