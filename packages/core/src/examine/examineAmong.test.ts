import { describe, expect, it } from 'vitest';
import { mulberry } from '../random/mulberry.ts';
import { pixelsOf } from '../raster/pixels.ts';
import { pictureOf, speckAt } from '../testing/pictures.ts';
import { examineAmong } from './examineAmong.ts';
import { EVERYTHING, examinePicture } from './examinePicture.ts';
import { examineTile, examineWhole } from './examineTile.ts';
import type { PictureNature } from './nature/nature.ts';
import { scoreWithNet } from './specks/scoreWithNet.ts';

describe('examining in threads', () => {
  it.each(['frame', 'print'] as const)(
    'finds on a %s what is found on one thread, whichever part is done first, and tells how far it is',
    async (nature: PictureNature) => {
      const uniform = mulberry(3);
      const spots = Array.from({ length: 24 }, () => ({
        ...{ x: 2600 * uniform(), y: 150 * uniform(), r: 2 + 6 * uniform(), depth: 0.03 + 0.1 * uniform() },
      }));
      const tone = (x: number, y: number): number =>
        spots.reduce(
          (value, { x: cx, y: cy, r, depth }) =>
            Math.abs(x - cx) < 2 * r ? value * (1 - depth * speckAt(x, y, cx, cy, r)) : value,
          0.45 + 0.1 * Math.sin(x / 90) * Math.cos(y / 70),
        );
      const pixels = pixelsOf(pictureOf(2600, 150, tone, { grain: 0.02 }));
      const shares: number[] = [];
      const later = <T>(answer: () => T): Promise<T> =>
        new Promise((done) => {
          setTimeout(
            () => {
              done(answer());
            },
            Math.round(20 * uniform()),
          );
        });
      const found = await examineAmong(
        {
          tile: (tile) => later(() => examineTile(tile, pixels, nature)),
          whole: () => later(() => examineWhole(pixels)),
          closer: (specks) => later(() => scoreWithNet(specks, pixels)),
          joined: (findings) => Promise.resolve([...findings]),
        },
        pixels.shape,
        nature,
        (share) => shares.push(share),
      );
      const all = EVERYTHING;
      expect(found.length).toBeGreaterThan(0);
      expect(found).toEqual(examinePicture(pixels, all, nature));
      expect(shares[shares.length - 1]).toBe(1);
      expect([...shares].sort((a, b) => a - b)).toEqual(shares);
    },
  );
});
