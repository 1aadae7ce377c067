import { LUMA } from '../../../light/luma.ts';
import { grainNoise } from '../../../grain/grainNoise.ts';
import { noiseAt } from '../../../grain/noiseTable.ts';
import { colourChannels, fullScale } from '../../../raster/raster.ts';
import type { Rect } from '../../../raster/rect.ts';
import { seedOf } from '../../seedOf.ts';
import type { Ground } from '../ground.ts';
import type { DrawMend } from './drawMend.ts';

/**
 * One colour with the picture's own grain on it, as strong as at its brightness elsewhere: what is drawn must not lie
 * on the picture as a film. Works on encoded values, as paint.
 */
export function draw(
  { id, colour, strength, grain }: DrawMend,
  { raster }: Ground,
  rect: Rect,
): Float32Array[] {
  const top = fullScale(raster.depth);
  const channels = colourChannels(raster.planes.length);
  const own = (c: number): number => colour[Math.min(c, colour.length - 1)];
  const luma = channels === 3 ? LUMA.reduce((sum, weight, c) => sum + weight * own(c), 0) : own(0);
  const amount = strength * noiseAt(grain.noise, luma) * top;
  // A grey grain lies alike on all channels.
  const isOwn = grain.mix.length === channels;
  const noise = amount > 0 ? grainNoise(isOwn ? grain : { ...grain, mix: [[1]] }, rect, seedOf(id)) : null;
  return Array.from({ length: channels }, (_, c) => {
    const values = new Float32Array(rect.width * rect.height).fill(own(c) * top);
    if (noise) for (let i = 0; i < values.length; i++) values[i] += amount * noise[isOwn ? c : 0][i];
    return values;
  });
}
