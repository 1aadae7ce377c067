import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compiledKernels } from '../../../../tools/compileKernels.mjs';
import { readFile } from 'node:fs/promises';
import { codesOf, valuesOf } from '../raster/values.ts';
import { createRaster, viewRaster } from '../raster/raster.ts';
import type { Depth } from '../raster/raster.ts';
import { weightedLuma } from '../colour/luma.ts';
import { addToAll } from '../finish/addToAll.ts';
import { fromLight, lightTablesOf, toLight } from '../colour/lightTable.ts';
import { gaussianBlur } from './gaussian.ts';
import { kernels, layOut, takeFloats } from './kernels.ts';

test('the compiled code is that of its source', async () => {
  const committed = await readFile(new URL('kernelCode.ts', import.meta.url), 'utf8');
  expect(committed).toBe(await compiledKernels());
});

/** The convolution as it is written in textbooks, in double precision. */
function plainBlur(data: Float32Array, width: number, height: number, sigma: number): number[] {
  const radius = Math.max(1, Math.round(3.5 * sigma));
  const weights = Array.from({ length: 2 * radius + 1 }, (_, i) =>
    Math.exp(-((i - radius) ** 2) / (2 * sigma ** 2)),
  );
  const total = weights.reduce((a, b) => a + b, 0);
  const at = (values: ArrayLike<number>, x: number, y: number): number =>
    values[Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))];
  const along = (values: ArrayLike<number>, dx: number, dy: number): number[] =>
    Array.from({ length: width * height }, (_, i) =>
      weights.reduce((sum, weight, k) => {
        const [x, y] = [(i % width) + (k - radius) * dx, Math.floor(i / width) + (k - radius) * dy];
        return sum + (weight / total) * at(values, x, y);
      }, 0),
    );
  return along(along(data, 1, 0), 0, 1);
}

const sizes = { width: fc.integer({ min: 1, max: 21 }), height: fc.integer({ min: 1, max: 13 }) };

describe('what is done four samples at a time', () => {
  test('blurs as one sample at a time would, at every width', () => {
    fc.assert(
      fc.property(
        fc.record({ ...sizes, sigma: fc.double({ min: 0.3, max: 4, noNaN: true }), seed: fc.integer() }),
        ({ width, height, sigma, seed }) => {
          const data = Float32Array.from({ length: width * height }, (_, i) =>
            Math.abs(Math.sin(seed + i * 12.9898)),
          );
          const ours = gaussianBlur({ width, height, data }, sigma).data;
          plainBlur(data, width, height, sigma).forEach((value, i) => expect(ours[i]).toBeCloseTo(value, 5));
        },
      ),
      { numRuns: 40 },
    );
  });

  test('halves and doubles as one sample at a time would, at every size', () => {
    fc.assert(
      fc.property(fc.record({ ...sizes, seed: fc.integer() }), ({ width, height, seed }) => {
        const data = Float32Array.from({ length: width * height }, (_, i) =>
          Math.abs(Math.sin(seed + i * 78.233)),
        );
        const [columns, rows] = [(width + 1) >> 1, (height + 1) >> 1];
        const bounded = (value: number, count: number): number => Math.min(count - 1, Math.max(0, value));
        const [from, half, doubled, mixed] = layOut([
          data,
          4 * columns * rows,
          data.byteLength,
          4 * (columns + 2),
        ]);
        kernels().halveFloats(from, half, width, height);
        kernels().doubleFloats(half, doubled, width, height, mixed);
        const [small, large] = [takeFloats(half, columns * rows), takeFloats(doubled, width * height)];
        const inData = (x: number, y: number): number => data[bounded(y, height) * width + bounded(x, width)];
        const inHalf = (x: number, y: number): number =>
          small[bounded(y, rows) * columns + bounded(x, columns)];
        small.forEach((value, i) => {
          const [x, y] = [2 * (i % columns), 2 * Math.floor(i / columns)];
          const mean = (inData(x, y) + inData(x + 1, y) + inData(x, y + 1) + inData(x + 1, y + 1)) / 4;
          expect(value).toBeCloseTo(mean, 6);
        });
        large.forEach((value, i) => {
          const [x, y] = [i % width, Math.floor(i / width)];
          const [cx, cy] = [x >> 1, y >> 1];
          const [dx, dy] = [x % 2 ? 1 : -1, y % 2 ? 1 : -1];
          const across = (row: number): number => 0.75 * inHalf(cx, row) + 0.25 * inHalf(cx + dx, row);
          expect(value).toBeCloseTo(0.75 * across(cy) + 0.25 * across(cy + dy), 6);
        });
      }),
      { numRuns: 40 },
    );
  });

  test('every code comes back from its value, also from a part of a wider raster', () => {
    for (const depth of [8, 16] as Depth[]) {
      const wide = createRaster(259, 257, 3, depth);
      wide.planes.forEach((plane, c) => plane.forEach((_, i) => (plane[i] = (i * 7 + c) % 2 ** depth)));
      const part = viewRaster(wide, { left: 1, top: 0, width: 257, height: 256 });
      valuesOf(part).forEach((values, c) => {
        const codes = codesOf(values, depth);
        for (let i = 0; i < codes.length; i++) {
          const [x, y] = [i % part.width, Math.floor(i / part.width)];
          if (codes[i] !== part.planes[c][y * part.stride + x]) expect.fail(`code ${i} of ${depth} bit`);
        }
      });
    }
  });

  test('luma is the weighted sum of Rec. 709, and what is added is bounded', () => {
    const planes = [0, 1, 2].map((c) => Float32Array.from({ length: 7 }, (_, i) => ((i + c) % 7) / 6));
    const luma = weightedLuma(planes);
    planes[0].forEach((_, i) =>
      expect(luma[i]).toBeCloseTo(0.2126 * planes[0][i] + 0.7152 * planes[1][i] + 0.0722 * planes[2][i], 6),
    );
    const change = Float32Array.of(-2, -0.5, 0, 0.25, 0.5, 1, 2);
    addToAll(planes, change).forEach((plane, c) =>
      plane.forEach((value, i) =>
        expect(value).toBeCloseTo(Math.min(1, Math.max(0, planes[c][i] + change[i])), 6),
      ),
    );
  });

  test('light and back is the same value to a hundredth of a code of 16 bit', () => {
    const [table] = lightTablesOf(1, undefined);
    const values = Float32Array.from({ length: 4096 }, (_, i) => (16 * i) / 65535);
    const back = fromLight(toLight(values, table), table);
    values.forEach((value, i) => expect(Math.abs(back[i] - value) * 65535).toBeLessThan(0.02));
  });
});
