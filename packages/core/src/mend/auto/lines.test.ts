import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Raster } from '../../raster/raster.ts';
import { cloneRaster } from '../../raster/raster.ts';
import { wholeWindow } from '../../raster/window.ts';
import { emptyRecipe } from '../../recipe/recipe.ts';
import { renderRecipe } from '../../recipe/render.ts';
import type { Point, StrokeTarget } from '../../target/target.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { FaultToMend } from '../run/faultToMend.ts';
import { proposeMends } from '../run/runMends.ts';
import { bandLeft } from './bandLeft.ts';
import { lineExtent } from './lineExtent.ts';

const [WIDTH, HEIGHT] = [200, 120];
const PATH: readonly Point[] = [
  [30, 30],
  [100, 58],
  [170, 86],
];
const target = (width: number): StrokeTarget => ({ shape: 'stroke', points: PATH, width });
/** Distance from the course, which is straight. */
function away(x: number, y: number): number {
  const [dx, dy] = [140 / Math.hypot(140, 56), 56 / Math.hypot(140, 56)];
  const along = (x - 30) * dx + (y - 30) * dy;
  const over = along < 0 ? along : Math.max(0, along - Math.hypot(140, 56));
  return Math.hypot(over, (x - 30) * -dy + (y - 30) * dx);
}

/** An even ground with a line on it that covers all in its middle and fades out like a Gaussian. */
const scratched = (depth: number, blur: number): Raster =>
  pictureOf(
    WIDTH,
    HEIGHT,
    (x, y) => {
      const share = depth * Math.exp(-((away(x + 0.5, y + 0.5) / blur) ** 2) / 2);
      return 0.41 + share * (0.82 - 0.41);
    },
    { grain: 0.012 },
  );

describe('a line as it is seen', () => {
  it('reaches as far as its shoulders show, and is none where there is none', () => {
    for (const blur of [0.8, 1.3, 2]) {
      const extent = lineExtent(target(2), wholeWindow(scratched(0.95, blur)));
      expect(extent).toBeGreaterThan(2 * blur);
      expect(extent).toBeLessThan(4 * blur);
    }
    expect(lineExtent(target(2), wholeWindow(scratched(0, 1)))).toBeNull();
  });

  it('leaves a band by which its middle departs from its sides', () => {
    expect(bandLeft(target(2), 4, wholeWindow(scratched(0, 1)))).toBeLessThan(0.4);
    expect(bandLeft(target(2), 4, wholeWindow(scratched(0.1, 1.3)))).toBeGreaterThan(1.5);
  });

  it('shows where a third of it was left, and where it was left too bright here and too dark there', () => {
    const left = (share: (x: number) => number): number =>
      bandLeft(
        target(2),
        4,
        wholeWindow(
          pictureOf(WIDTH, HEIGHT, (x, y) => 0.41 + share(x) * Math.exp(-((away(x, y) / 1.3) ** 2) / 2), {
            grain: 0.012,
          }),
        ),
      );
    expect(left((x) => (x < 80 ? 0.06 : 0))).toBeGreaterThan(0.5);
    expect(left((x) => (x < 100 ? 0.03 : -0.03))).toBeGreaterThan(1);
    expect(left(() => 0)).toBeLessThan(0.4);
  });

  it('is gone where it is mended without being asked how, however blurred it is', () => {
    for (const blur of [1, 1.4]) {
      const raster = cloneRaster(scratched(0.95, blur));
      expect(bandLeft(target(2), 4, wholeWindow(raster))).toBeGreaterThan(10);
      const fault: FaultToMend = {
        ...{ id: 'm', x: 100, y: 58, r: 1.5, softness: 0.4, polarity: 'bright', kind: 'scratch', path: PATH },
      };
      const mends = proposeMends([fault], pixelsOf(raster));
      renderRecipe(raster, { ...emptyRecipe({ width: WIDTH, height: HEIGHT }), mends });
      // Less than the ground's own grain: one spread, of the many that there were.
      expect(bandLeft(target(2), 4, wholeWindow(raster))).toBeLessThan(1);
    }
  });
});

describe('a loss that edges run into', () => {
  it('is rebuilt with them led through it: the corner of a frame stays square', () => {
    const clean = pictureOf(260, 240, (x, y) => (x < 40 || y > 200 ? 0.8 : 0.42), { grain: 0.012 });
    const raster = cloneRaster(clean);
    for (let y = 0; y < 240; y++)
      for (let x = 0; x < 260; x++)
        if (x + (240 - y) < 110) for (const plane of raster.planes) plane[y * raster.stride + x] = 246;
    const outline: Point[] = [
      [0, 130],
      [110, 240],
      [0, 240],
    ];
    const [mend] = proposeMends(
      [{ id: 'm', x: 37, y: 203, r: 44, softness: 0.1, kind: 'loss', polarity: 'bright', outline }],
      pixelsOf(raster),
    );
    expect(mend).toMatchObject({ method: 'rebuild', why: { because: 'edges go on' } });
    renderRecipe(raster, { ...emptyRecipe({ width: 260, height: 240 }), mends: [mend] });
    const at = (x: number, y: number): number => raster.planes[0][y * raster.stride + x];
    expect(at(20, 180)).toBeGreaterThan(180);
    expect(at(20, 220)).toBeGreaterThan(180);
    expect(at(60, 220)).toBeGreaterThan(180);
    expect(at(55, 188)).toBeLessThan(140);
  });
});

describe('a tear through one thing after another', () => {
  it('is rebuilt: neither its ground nor the white margin keeps a trace of it', () => {
    const [width, height] = [260, 220];
    const tone = (x: number, y: number): number => {
      if (x > 200) return 0.85;
      const isJoint = y % 24 < 2 || (x + (Math.floor(y / 24) % 2) * 20) % 40 < 2;
      return isJoint ? 0.3 : 0.42;
    };
    const course = (x: number): number => 120 - 0.35 * (x - 80) + 3 * Math.sin(x / 9);
    const away = (x: number, y: number): number => Math.abs(y - course(x));
    const clean = pictureOf(width, height, tone, { grain: 0.008 });
    const raster = cloneRaster(
      pictureOf(width, height, (x, y) => (x > 60 && away(x, y) < 6 ? 0.96 : tone(x, y)), { grain: 0.008 }),
    );
    const path = Array.from({ length: 24 }, (_, k): Point => [64 + 8 * k, course(64 + 8 * k)]);
    const [mend] = proposeMends(
      [{ id: 'm', x: 160, y: 90, r: 6, softness: 0.1, kind: 'tear', polarity: 'bright', path }],
      pixelsOf(raster),
    );
    expect(mend).toMatchObject({ method: 'rebuild', why: { because: 'trial beside it' } });
    renderRecipe(raster, { ...emptyRecipe({ width, height }), mends: [mend] });
    const errorOver = (from: number, to: number): number => {
      let [squares, count] = [0, 0];
      for (let y = 0; y < height; y++)
        for (let x = from; x < to; x++) {
          if (away(x, y) > 8) continue;
          const at = y * raster.stride + x;
          squares += (raster.planes[0][at] - clean.planes[0][at]) ** 2;
          count++;
        }
      return Math.sqrt(squares / count);
    };
    // In codes of 255: the grain alone is 2, and it differs twice; the joints stand 30 below.
    expect(errorOver(204, 256)).toBeLessThan(5);
    expect(errorOver(70, 196)).toBeLessThan(15);
  });

  it('is not said to have been tried beside itself where it is too short, or has no room there', () => {
    const raster = pictureOf(120, 60, (_, y) => (Math.abs(y - 30) < 6 ? 0.96 : 0.4), { grain: 0.01 });
    const becauseOf = (length: number): unknown => {
      const path: Point[] = [
        [10, 30],
        [10 + length, 30],
      ];
      const [mend] = proposeMends(
        [{ id: 'm', x: 60, y: 30, r: 6, softness: 0.1, kind: 'scratch', polarity: 'bright', path }],
        pixelsOf(raster),
      );
      return mend.why?.because;
    };
    expect(becauseOf(30)).not.toBe('trial beside it');
    expect(becauseOf(100)).not.toBe('trial beside it');
  });
});
