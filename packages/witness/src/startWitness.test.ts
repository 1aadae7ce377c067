import { readFile } from 'node:fs/promises';
import { createRaster, pixelsOf } from '@fennip/core/raster';
import { startPool } from '@fennip/threads';
import { describe, expect, it } from 'vitest';
import { joinWithNet } from './joinWithNet.ts';
import { WITNESS_FILE, startWitness } from './startWitness.ts';

const [WIDTH, HEIGHT] = [96, 64];

/** The window that `training/export.py` lets the net look at: anyone can make it again. */
function window(): Float32Array {
  const planes = new Float32Array(4 * WIDTH * HEIGHT);
  for (let k = 0, i = 0; k < 4; k++)
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++, i++) planes[i] = Math.sin(0.11 * (k + 1) * x + 0.07 * y);
  return planes;
}

describe('the net that sees faults', () => {
  it('gives what torch gave when it was written', async () => {
    const started = await startWitness(1);
    if (!('witness' in started)) throw new Error(started.missing);
    const maps = await started.witness(window(), WIDTH, HEIGHT);
    expect(maps).toHaveLength((6 * WIDTH * HEIGHT) / 4);
    const { mapRowColumnValue } = JSON.parse(
      await readFile(WITNESS_FILE.replace('.onnx', '.check.json'), 'utf8'),
    ) as { mapRowColumnValue: [number, number, number, number][] };
    expect(mapRowColumnValue.length).toBeGreaterThan(10);
    for (const [map, row, column, value] of mapRowColumnValue)
      expect(maps[(map * (HEIGHT / 2) + row) * (WIDTH / 2) + column]).toBeCloseTo(value, 2);
  });

  it('is found by a thread, whose program lies elsewhere', async () => {
    const pool = startPool<null, string>(new URL('./testing/whatAThreadFinds.ts', import.meta.url));
    expect(await pool.run(null)).toBe('the net');
    await pool.destroy();
  });

  it('is found by one thread after another, and none that ends takes the others down', async () => {
    for (let k = 0; k < 3; k++) {
      const pool = startPool<null, string>(new URL('./testing/whatAThreadFinds.ts', import.meta.url));
      expect(await Promise.all([pool.run(null), pool.run(null)])).toEqual(['the net', 'the net']);
      await pool.destroy();
    }
  });

  it('is done without where its file is missing', async () => {
    expect(await startWitness(1, '/nowhere/witness.onnx')).toEqual({ missing: 'no net' });
  });

  it('is done without where its file is none', async () => {
    expect(await startWitness(1, new URL(import.meta.url).pathname)).toMatchObject({ missing: 'no library' });
  });

  it('leaves a clean grey picture without specks', async () => {
    const raster = createRaster(300, 200, 3, 8);
    for (const plane of raster.planes) plane.fill(128);
    expect(await joinWithNet([], pixelsOf(raster), 'frame')).toEqual([]);
  });
});
