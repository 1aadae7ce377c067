import { expect, it } from 'vitest';
import { pixelsOf } from '../raster/pixels.ts';
import { pictureOf } from '../testing/pictures.ts';
import { maskOfSpans, spanArea } from '../target/spanRows.ts';
import { maskPixels } from '../target/targetDistance.ts';
import { areaOfTarget } from './areaOfTarget.ts';
import { followEdges } from './followEdges.ts';

it('an area drawn roughly around a shape has its border moved onto the shape', () => {
  const [WIDTH, HEIGHT] = [120, 100];
  const isShape = (x: number, y: number): boolean => Math.hypot(x - 60, y - 50) < 25;
  const picture = pictureOf(WIDTH, HEIGHT, (x, y) => (isShape(x, y) ? 0.3 : 0.6), { grain: 0.01 });
  const sides = { width: WIDTH, height: HEIGHT };
  const whole = { left: 0, top: 0, ...sides };
  const rough = areaOfTarget({ shape: 'disc', x: 61, y: 49, r: 29 }, sides);
  const wrong = (area: typeof rough): number => {
    const mask = maskOfSpans(area);
    if (!mask) return Infinity;
    return maskPixels(mask, whole).filter(
      (isIn, i) => (isIn === 1) !== isShape((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5),
    ).length;
  };
  const window = pixelsOf(picture).window(whole);
  const moved = followEdges(rough, 6, [{ window, part: whole }]);
  expect(wrong(moved)).toBeLessThan(0.15 * wrong(rough));
  // Where there is no edge the border stays.
  const even = pixelsOf(pictureOf(WIDTH, HEIGHT, () => 0.5)).window(whole);
  const stayed = followEdges(rough, 6, [{ window: even, part: whole }]);
  expect(Math.abs(spanArea(stayed) / spanArea(rough) - 1)).toBeLessThan(0.03);
});
