import { describe, expect, it } from 'vitest';
import { FAULT_KINDS, kindsThat } from '../fault/kinds.ts';
import { createRaster } from '../raster/raster.ts';
import { ON_DEMAND_FINDERS, findOnDemand } from './findOnDemand.ts';

/** Grey noise with one straight dark line across it. */
function wired() {
  const raster = createRaster(240, 160, 1, 8);
  for (let y = 0; y < 160; y++)
    for (let x = 0; x < 240; x++) {
      const isWire = Math.abs(y - 60 - 0.1 * x) < 1.5;
      raster.planes[0][y * 240 + x] = isWire ? 60 : 170 + ((x * 7919 + y * 104729) % 11);
    }
  return raster;
}

describe('what is looked for only when it is asked for', () => {
  it('has a finder for each kind that says so, and for no other', () => {
    expect(FAULT_KINDS.filter((kind) => kind in ON_DEMAND_FINDERS)).toEqual(
      kindsThat(({ found }) => found === 'on demand'),
    );
  });

  it('is found when its kind is named, and not otherwise', () => {
    const raster = wired();
    expect(findOnDemand(raster, ['intruder']).map(({ kind }) => kind)).toEqual(['intruder']);
    expect(findOnDemand(raster, ['speck', 'scratch'])).toEqual([]);
  });
});
