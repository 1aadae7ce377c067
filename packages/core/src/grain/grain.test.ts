import { describe, expect, it } from 'vitest';
import { pictureOf } from '../testing/pictures.ts';
import { measureGrain } from './measureGrain.ts';

describe('grain', () => {
  it('is measured by brightness, and edges of the subject are not taken for it', () => {
    // Grey, so that luma has the grain itself; tone rises in steps, with hard edges between and a lattice on a part.
    const sigmaAt = (tone: number): number => 0.01 + 0.03 * tone;
    const picture = pictureOf(
      512,
      512,
      (x, y) => {
        const tone = 0.1 + 0.2 * Math.floor(x / 128);
        const isLattice = y > 400 && (Math.floor(x / 5) + Math.floor(y / 5)) % 2 === 0;
        const noise = Math.sin(x * 12.9898 + y * 78.233) * 43758.5453;
        const other = Math.sin(x * 39.346 + y * 11.135) * 24634.6345;
        const [u, v] = [noise - Math.floor(noise), other - Math.floor(other)];
        const normal = Math.sqrt(-2 * Math.log(u + 1e-9)) * Math.cos(2 * Math.PI * v);
        return tone + (isLattice ? 0.05 : 0) + sigmaAt(tone) * normal;
      },
      { channels: 1, depth: 16 },
    );
    const { brightness, sigma } = measureGrain(picture);
    for (const tone of [0.3, 0.5, 0.7]) {
      const band = brightness.findIndex((middle) => Math.abs(middle - tone) < 0.04);
      expect((sigma[band] ?? 0) / sigmaAt(tone)).toBeGreaterThan(0.85);
      expect((sigma[band] ?? 0) / sigmaAt(tone)).toBeLessThan(1.15);
    }
    expect(sigma[BAND_WITHOUT]).toBeNull();
  });
});

/** The brightest band: nothing in the picture is as light. */
const BAND_WITHOUT = 15;
