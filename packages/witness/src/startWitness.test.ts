import type { Fault } from '@fennip/core/fault';
import { createRaster, pixelsOf } from '@fennip/core/raster';
import { describe, expect, it } from 'vitest';
import { joinWithNet } from './joinWithNet.ts';
import { startWitness } from './startWitness.ts';

describe('the net that sees faults', () => {
  it('is done without where its file is missing', async () => {
    expect(await startWitness(1, '/nowhere/witness.onnx')).toEqual({ missing: 'no net' });
  });

  it('is done without where its file is none', async () => {
    expect(await startWitness(1, new URL(import.meta.url).pathname)).toMatchObject({ missing: 'no library' });
  });

  it('leaves findings as they are where there is none', async () => {
    const raster = createRaster(300, 200, 3, 8);
    const speck: Fault = {
      ...{ kind: 'speck', polarity: 'dark', x: 60, y: 50, r: 4 },
      ...{ strength: 0.2, softness: 0.4, confidence: 0.7 },
    };
    expect(await joinWithNet([speck], pixelsOf(raster), 'frame', '/nowhere/witness.onnx')).toEqual([speck]);
  });
});
