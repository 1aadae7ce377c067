import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gaussian } from '../random/gaussian.ts';
import { mulberry } from '../random/mulberry.ts';
import { reviveTexture } from './reviveTexture.ts';

const [WIDTH, HEIGHT] = [72, 60];
const isHole = (i: number): boolean => Math.hypot((i % WIDTH) - 36, Math.floor(i / WIDTH) - 30) < 11;
const invented = Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => (isHole(i) ? 1 : 0));
const known = invented.map((one) => 1 - one);

/** Grain of a deviation in three channels that have a share in common; nothing of it in the hole. */
function grainy(deviation: number, common: number, seed: number): Float32Array[] {
  const uniform = mulberry(seed);
  const planes = [0, 1, 2].map(() => new Float32Array(WIDTH * HEIGHT));
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const shared = gaussian(uniform);
    planes.forEach((plane) => {
      const own = gaussian(uniform);
      const grain = Math.sqrt(common) * shared + Math.sqrt(1 - common) * own;
      plane[i] = 120 + (isHole(i) ? 0 : deviation * grain);
    });
  }
  return planes;
}

const revived = (planes: readonly Float32Array[], seed: number): Float32Array[] => {
  const copies = planes.map((plane) => plane.slice());
  reviveTexture(copies, invented, known, WIDTH, seed);
  return copies;
};

/** Standard deviation of what lies in the middle of the hole, or far from it. */
function deviationOf(plane: Float32Array, inHole: boolean): number {
  const values = [...plane].filter((_, i) => {
    const away = Math.hypot((i % WIDTH) - 36, Math.floor(i / WIDTH) - 30);
    return inHole ? away < 9 : away > 14;
  });
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
}

describe('the texture of an invented part', () => {
  it('comes near to that of its surroundings, however strong that is', () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 20, noNaN: true }), fc.integer(), (deviation, seed) => {
        const planes = revived(grainy(deviation, 0.5, seed), 7);
        for (const plane of planes) {
          const share = deviationOf(plane, true) / deviationOf(plane, false);
          expect(share).toBeGreaterThan(0.6);
          expect(share).toBeLessThan(1);
        }
      }),
      { numRuns: 15 },
    );
  });

  it('is left alone where it is known, and the same for the same seed', () => {
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: 1, max: 1e6 }), (seed, mends) => {
        const planes = grainy(8, 0.3, seed);
        const [once, again, other] = [
          revived(planes, mends),
          revived(planes, mends),
          revived(planes, mends + 1),
        ];
        once.forEach((plane, c) => {
          expect(again[c]).toEqual(plane);
          expect(other[c]).not.toEqual(plane);
          expect(plane.filter((_, i) => known[i])).toEqual(planes[c].filter((_, i) => known[i]));
        });
      }),
      { numRuns: 8 },
    );
  });

  it('goes together in the channels as that of its surroundings does', () => {
    const likeness = (common: number): number => {
      const [red, green] = revived(grainy(10, common, 3), 5);
      let [products, squares] = [0, 0];
      for (let i = 0; i < red.length; i++) {
        if (!invented[i]) continue;
        products += (red[i] - 120) * (green[i] - 120);
        squares += 0.5 * ((red[i] - 120) ** 2 + (green[i] - 120) ** 2);
      }
      return products / squares;
    };
    const [apart, half, together] = [likeness(0), likeness(0.5), likeness(1)];
    expect(Math.abs(apart)).toBeLessThan(0.25);
    expect(half).toBeGreaterThan(apart + 0.2);
    expect(together).toBeGreaterThan(0.95);
  });

  it('stays calm where the surroundings are', () => {
    const planes = [0, 1, 2].map(() => new Float32Array(WIDTH * HEIGHT).fill(90));
    for (const plane of revived(planes, 11))
      plane.forEach((value) => expect(Math.abs(value - 90)).toBeLessThan(0.05));
  });
});
