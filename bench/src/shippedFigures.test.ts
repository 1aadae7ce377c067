import { readFile } from 'node:fs/promises';
import { WITNESS_FILE } from '@fennip/witness';
import { describe, expect, it } from 'vitest';
import type { ShippedFigures } from './shippedFigures.ts';
import { shippedFigures } from './shippedFigures.ts';

describe('what finds faults in this tree', () => {
  it('gives the figures that were written down', async () => {
    const written = JSON.parse(
      await readFile(WITNESS_FILE.replace('witness.onnx', 'figures.json'), 'utf8'),
    ) as ShippedFigures;
    const figures = await shippedFigures();
    expect(Object.keys(figures)).toEqual(Object.keys(written));
    // Another processor rounds otherwise: a place at the edge of being listed may go either way.
    for (const [name, figure] of Object.entries(written))
      expect(Math.abs(figures[name] - figure), `${name}: ${figures[name]} for ${figure}`).toBeLessThanOrEqual(
        name.endsWith('clean') ? 1 : 0.04,
      );
  }, 120_000);
});
