import { startPool } from '@fennip/threads';
import type { Frame } from './renderRows.ts';
import type { SceneName } from '../pictures/scenes.ts';
import type { BandOrder } from './renderBand.ts';

const BAND = 32;

/**
 * Renders a scene on all cores to linear light, pixel after pixel, three values each.
 */
export async function renderLight(picture: SceneName, frame: Frame): Promise<Float32Array> {
  const pool = startPool<BandOrder, Float32Array>(new URL('./renderBand.ts', import.meta.url));
  const light = new Float32Array(frame.width * frame.height * 3);
  const starts = Array.from({ length: Math.ceil(frame.height / BAND) }, (_, i) => i * BAND);
  await Promise.all(
    starts.map(async (from) => {
      const rows = await pool.run({ picture, frame, from, to: Math.min(frame.height, from + BAND) });
      light.set(rows, from * frame.width * 3);
    }),
  );
  await pool.destroy();
  return light;
}
