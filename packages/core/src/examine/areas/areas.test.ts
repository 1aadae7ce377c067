import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Point } from '../../target/target.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { examinePicture } from '../examinePicture.ts';
import type { Fault } from '../../fault/fault.ts';
import type { Shaped } from '../scoredFault.ts';
import { polygonArea } from './areaTraits.ts';
import type { ExtremalRegion, RegionLimits } from './extremalRegions.ts';
import { extremalRegions } from './extremalRegions.ts';
import { areasOffSpecks, keepAreas, outsideAreas, sharedArea } from './keepAreas.ts';
import { regionOutline } from './regionOutline.ts';

const LIMITS: RegionLimits = { least: 1, most: 1000, step: 10, mostGrowth: 1000 };

/** The pixels that hang together with a region's seed, told pixel by pixel. */
function grown(
  values: Uint8Array,
  width: number,
  { seed, threshold, polarity }: ExtremalRegion,
): Set<number> {
  const isIn = (i: number): boolean =>
    polarity === 'dark' ? values[i] <= threshold : values[i] >= threshold;
  const found = new Set<number>();
  const visit = (i: number): void => {
    if (found.has(i) || !isIn(i)) return;
    found.add(i);
    if (i % width > 0) visit(i - 1);
    if (i % width < width - 1) visit(i + 1);
    if (i >= width) visit(i - width);
    if (i + width < values.length) visit(i + width);
  };
  visit(seed);
  return found;
}

describe('extremal regions', () => {
  it('are as large as what hangs together at their threshold, and grow as they say', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 9 }).chain((width) =>
          fc.record({
            width: fc.constant(width),
            values: fc.uint8Array({ minLength: 4 * width, maxLength: 4 * width, max: 40 }),
          }),
        ),
        ({ width, values }) => {
          for (const region of extremalRegions(values, width, LIMITS)) {
            const own = grown(values, width, region);
            expect(region.area).toBe(own.size);
            const give = region.polarity === 'dark' ? LIMITS.step : -LIMITS.step;
            const wider = grown(values, width, { ...region, threshold: region.threshold + give });
            expect(region.growth).toBeCloseTo((wider.size - own.size) / own.size, 9);
          }
        },
      ),
    );
  });

  it('find a patch whatever the light, once, with its border between the pixels', () => {
    const width = 60;
    const values = Uint8Array.from({ length: width * 50 }, (_, i) => {
      const [x, y] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
      const share = 1 / (1 + Math.exp(3 * (Math.hypot(x - 30, y - 25) - 12)));
      return Math.round(60 + 0.5 * x + share * 120);
    });
    const found = extremalRegions(values, width, { least: 50, most: 1500, step: 10, mostGrowth: 0.3 });
    const bright = found.filter(({ polarity }) => polarity === 'bright');
    expect(bright).toHaveLength(1);
    const outline = regionOutline(values, width, bright[0]) ?? [];
    const away = outline.map(([x, y]) => Math.abs(Math.hypot(x - 30, y - 25) - 12));
    expect(Math.max(...away)).toBeLessThan(1);
    expect(polygonArea(outline) / (Math.PI * 144)).toBeCloseTo(1, 0.9);
  });
});

const square = (left: number, top: number, side: number): Point[] => [
  [left, top],
  [left + side, top],
  [left + side, top + side],
  [left, top + side],
];
const area = (outline: Point[], confidence: number): Shaped => ({
  ...{ kind: 'loss', polarity: 'bright', x: outline[0][0], y: outline[0][1], r: 10, strength: 0.5 },
  ...{ softness: 0.1, confidence, outline, score: 0, fit: 0 },
});

describe('areas that cover one another', () => {
  it('share what their borders say', () => {
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 60 }), fc.integer({ min: 0, max: 60 }), (side, off) => {
        const both = Math.max(0, side - off) * side;
        const wanted = both / (2 * side * side - both);
        expect(sharedArea(square(0, 0, side), square(off, 0, side))).toBeCloseTo(wanted, 1);
      }),
    );
  });

  it('are kept once, the surest, and dust on them goes with them', () => {
    const kept = keepAreas([
      area(square(0, 0, 20), 0.5),
      area(square(1, 1, 20), 0.8),
      area(square(90, 0, 20), 0.3),
    ]);
    expect(kept.map(({ confidence }) => confidence)).toEqual([0.8, 0.3]);
    const dust = (x: number, confidence: number): Fault => ({
      ...{ kind: 'speck', polarity: 'dark', x, y: 10, r: 2, strength: 0.2, softness: 0.4, confidence },
    });
    expect(outsideAreas([dust(10, 0.6), dust(10, 0.9), dust(50, 0.6)], kept)).toEqual([
      dust(10, 0.9),
      dust(50, 0.6),
    ]);
  });
});

describe('an area that is a large speck', () => {
  it('is left to the surer of the two', () => {
    const speck: Fault = {
      ...{
        kind: 'speck',
        polarity: 'dark',
        x: 50,
        y: 50,
        r: 20,
        strength: 0.2,
        softness: 0.4,
        confidence: 0.7,
      },
    };
    const here = { ...area(square(33, 33, 34), 0.6), x: 50, y: 50, r: 19 };
    expect(areasOffSpecks([here], [speck])).toEqual([]);
    expect(areasOffSpecks([{ ...here, confidence: 0.9 }], [speck])).toHaveLength(1);
    // A doubtful area takes no speck away that is sure.
    const doubtful = { ...here, confidence: 0.2 };
    expect(outsideAreas([speck], areasOffSpecks([doubtful], [speck]))).toEqual([speck]);
    expect(outsideAreas([speck], [doubtful])).toEqual([speck]);
    expect(
      areasOffSpecks([{ ...here, ...area(square(0, 0, 120), 0.6), x: 60, y: 60, r: 68 }], [speck]),
    ).toHaveLength(1);
  });
});

describe('the examination', () => {
  it('finds a loss down to the paper, as a loss, with its outline', () => {
    const loss: Point[] = [
      [120, 90],
      [210, 100],
      [230, 170],
      [150, 190],
      [100, 150],
    ];
    const isIn = (x: number, y: number): boolean =>
      loss.every(([ax, ay], i) => {
        const [bx, by] = loss[(i + 1) % loss.length];
        return (bx - ax) * (y - ay) - (by - ay) * (x - ax) > 0;
      });
    const picture = pictureOf(
      420,
      320,
      (x, y) =>
        isIn(x, y) ? 0.94 : 0.45 + 0.12 * Math.sin(x / 31) * Math.cos(y / 23) + 0.05 * Math.sin(x * 0.9),
      { grain: 0.02 },
    );
    const areas = examinePicture(pixelsOf(picture)).filter(({ outline }) => outline !== undefined);
    expect(areas).toHaveLength(1);
    expect(areas[0]).toMatchObject({ kind: 'loss', polarity: 'bright' });
    expect(sharedArea(areas[0].outline ?? [], loss)).toBeGreaterThan(0.9);
  });
});
