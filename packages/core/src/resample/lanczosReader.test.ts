import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pictureOf } from '../testing/pictures.ts';
import { lanczos } from './lanczos.ts';
import { createLanczosReader } from './lanczosReader.ts';

const picture = pictureOf(60, 40, (x, y) => 0.5 + 0.4 * Math.sin(x) * Math.cos(y / 2));
const read = createLanczosReader(picture);

describe('a reader of many places', () => {
  it('gives what reading each for itself gives', () => {
    const [many, one] = [new Float64Array(3), [0, 1, 2].map(() => new Float32Array(1))];
    fc.assert(
      fc.property(
        fc.double({ min: -2, max: 62, noNaN: true }),
        fc.double({ min: -2, max: 42, noNaN: true }),
        (x, y) => {
          read(x, y, many);
          lanczos(picture, picture.planes, x, y, 1, one, 0);
          for (let c = 0; c < 3; c++) expect(Math.abs(many[c] - one[c][0])).toBeLessThan(0.1);
        },
      ),
    );
  });

  it('keeps samples as they are', () => {
    const value = new Float64Array(3);
    for (let x = 0; x < 60; x++) {
      read(x + 0.5, 20.5, value);
      expect(value[1]).toBe(picture.planes[1][20 * picture.stride + x]);
    }
  });
});
