import { describe, expect, it } from 'vitest';
import { mulberry } from '../random/mulberry.ts';
import { createFloatPlane } from '../raster/float.ts';
import type { FloatPlane } from '../raster/float.ts';
import { guidedFilter } from './guidedFilter.ts';

const [WIDTH, HEIGHT, RADIUS] = [24, 20, 2];

function planeOf(tone: (x: number, y: number) => number): FloatPlane {
  const plane = createFloatPlane(WIDTH, HEIGHT);
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = tone(i % WIDTH, Math.floor(i / WIDTH));
  return plane;
}

/** The filter written out window by window, as formulas 5, 6 and 8 of He, Sun and Tang 2010 have it. */
function writtenOut(p: FloatPlane, guide: FloatPlane, epsilon: number): Float64Array {
  const windowAt = (x: number, y: number): number[] => {
    const found: number[] = [];
    for (let ny = Math.max(0, y - RADIUS); ny <= Math.min(HEIGHT - 1, y + RADIUS); ny++)
      for (let nx = Math.max(0, x - RADIUS); nx <= Math.min(WIDTH - 1, x + RADIUS); nx++)
        found.push(ny * WIDTH + nx);
    return found;
  };
  const mean = (of: readonly number[], value: (i: number) => number): number =>
    of.reduce((sum, i) => sum + value(i), 0) / of.length;
  const fits = Array.from({ length: WIDTH * HEIGHT }, (_, k) => {
    const around = windowAt(k % WIDTH, Math.floor(k / WIDTH));
    const [mu, pMean] = [mean(around, (i) => guide.data[i]), mean(around, (i) => p.data[i])];
    const variance = mean(around, (i) => (guide.data[i] - mu) ** 2);
    const a = (mean(around, (i) => guide.data[i] * p.data[i]) - mu * pMean) / (variance + epsilon);
    return { a, b: pMean - a * mu };
  });
  return Float64Array.from(fits, (_, k) => {
    const around = windowAt(k % WIDTH, Math.floor(k / WIDTH));
    return mean(around, (i) => fits[i].a) * guide.data[k] + mean(around, (i) => fits[i].b);
  });
}

describe('the guided filter', () => {
  it('is what its paper writes out, window by window', () => {
    const uniform = mulberry(4);
    const [p, guide] = [planeOf(() => uniform()), planeOf(() => uniform())];
    const own = guidedFilter(p, guide, RADIUS, 0.01);
    writtenOut(p, guide, 0.01).forEach((value, i) => expect(own.data[i]).toBeCloseTo(value, 4));
  });

  it('keeps a strong edge of the picture it guides itself by, and levels what is weaker than epsilon', () => {
    // He, Sun, Tang 2010, section 3.2: a is variance over variance plus epsilon.
    const edge = planeOf((x) => (x < 12 ? 0.1 : 0.9));
    const kept = guidedFilter(edge, edge, RADIUS, 0.0001);
    for (let i = 0; i < kept.data.length; i++)
      expect(Math.abs(kept.data[i] - edge.data[i])).toBeLessThan(0.01);
    const ripple = planeOf((x) => 0.5 + (x % 2 === 0 ? 0.01 : -0.01));
    const level = guidedFilter(ripple, ripple, RADIUS, 0.01);
    for (let i = 0; i < level.data.length; i++) expect(Math.abs(level.data[i] - 0.5)).toBeLessThan(0.004);
  });
});
