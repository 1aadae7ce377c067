import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mulberry } from '../../random/mulberry.ts';
import { holdLuma } from '../ground/heldLuma.ts';
import type { CoreUsual } from './coreUsual.ts';
import { CELL } from './coreUsual.ts';
import { ringContrast } from './ringContrast.ts';

const [STRAIGHT, SLANTED] = [3, 2];
/** So many times the usual contrast stands out. */
const TIMES = 3.6;

/** The weakest contrast of four pairs as it is defined, one place after the other, where it stands out from its cell's. */
function plainContrast(data: Uint16Array, width: number, height: number, usual: CoreUsual): Int16Array {
  const map = new Int16Array(width * height);
  const steps = [STRAIGHT, STRAIGHT * width, SLANTED * width + SLANTED, SLANTED * width - SLANTED];
  for (let y = STRAIGHT; y < height - STRAIGHT; y++)
    for (let x = STRAIGHT; x < width - STRAIGHT; x++) {
      const i = y * width + x;
      const pairs = steps.map((step) => data[i - step] + data[i + step] - 2 * data[i]);
      const least = TIMES * usual.data[Math.floor(y / CELL) * usual.columns + Math.floor(x / CELL)];
      if (pairs.every((pair) => pair >= least)) map[i] = Math.min(...pairs);
      if (pairs.every((pair) => pair <= -least)) map[i] = Math.max(...pairs);
    }
  return map;
}

describe('the ring-against-core test, eight places at a time', () => {
  it('sees at every place what it is defined to see, and names the peaks', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 45 }),
        fc.integer({ min: 1, max: 35 }),
        fc.integer({ min: 1, max: 1e6 }),
        (width, height, seed) => {
          const uniform = mulberry(seed);
          // Mostly even, so that some places stand out from all of their ring.
          const data = Uint16Array.from({ length: width * height }, () =>
            uniform() < 0.1 ? 18_000 * uniform() : 9000 + 60 * uniform(),
          );
          const columns = Math.ceil(width / CELL);
          const usual: CoreUsual = {
            columns,
            data: Float32Array.from(
              { length: columns * Math.ceil(height / CELL) },
              () => 20 + 500 * uniform(),
            ),
          };
          const { at, contrast } = holdLuma({ width, height, data }, (plane) =>
            ringContrast(plane, { straight: STRAIGHT, slanted: SLANTED }, usual),
          );
          const plain = plainContrast(data, width, height, usual);
          expect([...contrast]).toEqual([...at].map((i) => plain[i]));
          const around = [-width - 1, -width, -width + 1, -1, 1, width - 1, width, width + 1];
          const isPeak = (i: number, isMore: (one: number, other: number) => boolean): boolean =>
            plain[i] !== 0 &&
            around.every((step) =>
              isMore(Math.sign(plain[i]) * plain[i], Math.sign(plain[i]) * plain[i + step]),
            );
          const all = Array.from(plain, (_, i) => i);
          // Of equals that touch one another one or none is named.
          for (const i of all.filter((k) => isPeak(k, (one, other) => one > other))) expect(at).toContain(i);
          for (const i of at) expect(isPeak(i, (one, other) => one >= other)).toBe(true);
        },
      ),
    );
  });
});
