import fc from 'fast-check';
import { expect, it } from 'vitest';
import { intersectRects, isEmpty, pictureRect, pyramidLevels, rectHolds } from '@fennip/core/raster';
import { onLevel } from './onLevel.ts';
import { partForCell } from './partForCell.ts';

const PICTURE = { width: 12_300, height: 8_200, channels: 3, depth: 8 } as const;
const rects = fc
  .record({
    left: fc.integer({ min: -200, max: PICTURE.width }),
    top: fc.integer({ min: -200, max: PICTURE.height }),
    width: fc.integer({ min: 1, max: 2 * PICTURE.width }),
    height: fc.integer({ min: 1, max: 2 * PICTURE.height }),
  })
  .map((rect) => intersectRects(rect, pictureRect(PICTURE)))
  .filter((rect) => !isEmpty(rect));

it('reads no more pixels for a cell of the proof than it can show, and shows all that was asked for', () => {
  fc.assert(
    fc.property(rects, (asked) => {
      const { level, rect } = partForCell(asked, PICTURE);
      expect(Math.max(rect.width, rect.height)).toBeLessThanOrEqual(2 * 256 + 2);
      const longer = Math.max(asked.width, asked.height);
      expect(Math.max(rect.width, rect.height)).toBeGreaterThanOrEqual(Math.min(longer, 256));
      const size = pyramidLevels(PICTURE.width, PICTURE.height)[level];
      expect(rectHolds({ left: 0, top: 0, ...size }, rect)).toBe(true);
      expect(rect).toEqual(onLevel(asked, level, PICTURE));
    }),
  );
});

it('shows what is small pixel by pixel', () => {
  const rect = { left: 30, top: 40, width: 44, height: 44 };
  expect(partForCell(rect, PICTURE)).toEqual({ level: 0, rect });
});
