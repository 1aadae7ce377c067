import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compiledKernels, kernelLoops } from '../../../../tools/compileKernels.mjs';
import { readFile } from 'node:fs/promises';
import { valuesOf } from '../raster/values.ts';
import { createRaster, viewRaster } from '../raster/raster.ts';
import type { Depth } from '../raster/raster.ts';
import { LUMA } from '../light/luma.ts';
import {
  TABLE_TOP,
  encodeHeld,
  encodedLight,
  lightTablesOf,
  throughTable,
  toLight,
} from '../colour/lightTable.ts';
import type { LightTable } from '../colour/lightTable.ts';
import { gaussianBlur } from '../filter/gaussian.ts';
import { floatsAt, holding, kernels, layOut, takeFloats } from './kernels.ts';

test('the compiled code and its declarations are those of the sources', async () => {
  const committed = (name: string): Promise<string> => readFile(new URL(name, import.meta.url), 'utf8');
  expect(await committed('kernelCode.ts')).toBe(await compiledKernels());
  expect(await committed('kernelLoops.ts')).toBe(await kernelLoops());
});

/** Linear light in encoded values. */
const fromLight = (plane: Float32Array, table: LightTable): Float32Array =>
  holding([plane], (place) => {
    encodeHeld(place, plane.length, table);
    return takeFloats(place, plane.length);
  });

/** Values of 0 to 1 as the nearest codes. */
const codesOf = (values: Float32Array, depth: Depth): Uint8Array | Uint16Array => {
  const [from, onto] = layOut([values, values.byteLength]);
  const { memory, toBytes, toShorts } = kernels();
  (depth === 8 ? toBytes : toShorts)(from, onto, values.length, 2 ** depth - 1);
  return new (depth === 8 ? Uint8Array : Uint16Array)(memory.buffer, onto, values.length).slice();
};

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
    const [red, green, blue, sum] = layOut([...planes, 4 * 7]);
    kernels().weigh(red, green, blue, sum, 7, ...LUMA);
    const luma = takeFloats(sum, 7);
    planes[0].forEach((_, i) =>
      expect(luma[i]).toBeCloseTo(0.2126 * planes[0][i] + 0.7152 * planes[1][i] + 0.0722 * planes[2][i], 6),
    );
    const change = Float32Array.of(-2, -0.5, 0, 0.25, 0.5, 1, 2);
    const [onto, by] = layOut([planes[1], change]);
    kernels().addBounded(onto, by, 7);
    takeFloats(onto, 7).forEach((value, i) =>
      expect(value).toBeCloseTo(Math.min(1, Math.max(0, planes[1][i] + change[i])), 6),
    );
  });

  const values = fc.array(fc.float({ min: -0.5, max: 1.5, noNaN: true }), { minLength: 1, maxLength: 40 });

  test('looks up and encodes as one value at a time would', () => {
    const [{ light, codes }] = lightTablesOf(1, undefined);
    fc.assert(
      fc.property(values, (list) => {
        const plane = Float32Array.from(list);
        const bounded = plane.map((value) => Math.min(1, Math.max(0, value)));
        throughTable(plane, light).forEach((value, i) =>
          expect(value).toBe(light[Math.floor(Math.fround(Math.fround(bounded[i] * TABLE_TOP) + 0.5))]),
        );
        fromLight(plane, { light, codes }).forEach((value, i) =>
          expect(value).toBeCloseTo(encodedLight(plane[i], codes), 6),
        );
      }),
    );
  });

  test('what stands out beyond a threshold is made stronger, on either side', () => {
    fc.assert(
      fc.property(values, fc.float({ min: 0, max: 0.5, noNaN: true }), (list, threshold) => {
        const plane = Float32Array.from(list);
        const soft = plane.map((value, i) => value + Math.sin(i));
        holding([plane, soft], (place, others) => {
          kernels().mirror(place, others, plane.length);
          kernels().standOut(place, others, plane.length, 0.75, threshold);
          floatsAt(others, plane.length).forEach((value, i) => {
            const gained = plane[i] - soft[i];
            const beyond = Math.max(0, Math.abs(gained) - threshold);
            expect(value).toBeCloseTo(0.75 * Math.sign(gained) * beyond, 5);
          });
        });
      }),
    );
  });

  test('means over blocks are those of the same grid, wherever a part begins', () => {
    const side = fc.integer({ min: 1, max: 23 });
    const away = fc.integer({ min: 0, max: 40 });
    fc.assert(
      fc.property(side, side, away, away, fc.constantFrom(1, 2, 4, 8), (width, height, left, top, block) => {
        const plane = Float32Array.from({ length: width * height }, (_, i) =>
          Math.abs(Math.sin(12.9898 * i)),
        );
        const columns = Math.floor((left + width - 1) / block) - Math.floor(left / block) + 1;
        const rows = Math.floor((top + height - 1) / block) - Math.floor(top / block) + 1;
        const [values, mean, square] = layOut([plane, 4 * columns * rows, 4 * columns * rows]);
        const { blockMeans } = kernels();
        blockMeans(values, width, height, left % block, top % block, block, mean, square, columns);
        const [means, squares] = [takeFloats(mean, columns * rows), takeFloats(square, columns * rows)];
        for (let k = 0; k < columns * rows; k++) {
          const inBlock = [...plane].filter((_, i) => {
            const column = Math.floor((left + (i % width)) / block) - Math.floor(left / block);
            const row = Math.floor((top + Math.floor(i / width)) / block) - Math.floor(top / block);
            return row * columns + column === k;
          });
          const meanOf = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length;
          expect(means[k]).toBeCloseTo(meanOf(inBlock), 5);
          expect(squares[k]).toBeCloseTo(meanOf(inBlock.map((value) => value ** 2)), 5);
        }
      }),
      { numRuns: 60 },
    );
  });

  test('samples of every depth are the nearest, at every length', () => {
    fc.assert(
      fc.property(values, fc.constantFrom<Depth>(8, 16), (list, depth) => {
        const most = 2 ** depth - 1;
        codesOf(Float32Array.from(list), depth).forEach((code, i) => {
          const wanted = Math.min(most, Math.max(0, Math.fround(list[i]) * most));
          expect(Math.abs(code - wanted)).toBeLessThan(0.5 + most * 1e-6);
        });
      }),
    );
  });

  test('what is held stays while more is laid out, and is let go of also where something fails', () => {
    const held = Float32Array.of(1, 2, 3, 4, 5);
    const [free] = layOut([4]);
    holding([held], (place) => {
      const [behind] = layOut([Float32Array.of(9)]);
      expect(behind).toBeGreaterThanOrEqual(place + held.byteLength);
      expect(() => holding([4e6], () => expect.fail('as it should'))).toThrow('as it should');
      gaussianBlur({ width: 300, height: 300, data: new Float32Array(90000).fill(0.5) }, 2);
      expect([...floatsAt(place, 5)]).toEqual([...held]);
    });
    expect(layOut([4])[0]).toBe(free);
  });

  test('light and back is the same value to a hundredth of a code of 16 bit', () => {
    const [table] = lightTablesOf(1, undefined);
    const values = Float32Array.from({ length: 4096 }, (_, i) => (16 * i) / 65535);
    const back = fromLight(toLight(values, table), table);
    values.forEach((value, i) => expect(Math.abs(back[i] - value) * 65535).toBeLessThan(0.02));
  });

  test('adds a plane that is read a little way off, at every width', () => {
    const share = fc.float({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.record({ ...sizes, dx: share, dy: share }), ({ width, height, dx, dy }) => {
        const stride = width + 5;
        const from = Float32Array.from({ length: stride * (height + 2) }, (_, i) => Math.sin(12.9898 * i));
        const onto = Float32Array.from({ length: width * height }, (_, i) => Math.cos(i));
        const weights = [(1 - dx) * (1 - dy), dx * (1 - dy), (1 - dx) * dy, dx * dy] as const;
        const [source, sum] = layOut([from, onto]);
        kernels().addBetween(source, 4 * stride, sum, width, height, ...weights);
        takeFloats(sum, width * height).forEach((value, i) => {
          const at = Math.floor(i / width) * stride + (i % width);
          const read = [at, at + 1, at + stride, at + stride + 1].reduce(
            (all, place, k) => all + weights[k] * from[place],
            0,
          );
          expect(value).toBeCloseTo(onto[i] + read, 5);
        });
      }),
    );
  });

  test('lays values on samples of both depths as one sample at a time would', () => {
    const laid = fc.record({
      old: fc.double({ min: 0, max: 1, noNaN: true }),
      value: fc.double({ min: -0.2, max: 1.2, noNaN: true }),
      cover: fc.constantFrom(0, 0.25, 0.6, 1),
    });
    fc.assert(
      fc.property(
        fc.array(laid, { minLength: 1, maxLength: 23 }),
        fc.constantFrom<Depth>(8, 16),
        (list, depth) => {
          const top = 2 ** depth - 1;
          const wholes = list.map(({ old }) => Math.round(old * top));
          const codes = depth === 8 ? Uint8Array.from(wholes) : Uint16Array.from(wholes);
          const [samples, values, cover] = layOut([
            codes,
            Float32Array.from(list, ({ value }) => value * top),
            Float32Array.from(list, (one) => one.cover),
          ]);
          const { layBytes, layShorts, memory } = kernels();
          (depth === 8 ? layBytes : layShorts)(samples, values, cover, list.length);
          const now = new (depth === 8 ? Uint8Array : Uint16Array)(memory.buffer, samples, list.length);
          list.forEach((one, i) => {
            const mixed = codes[i] + one.cover * (one.value * top - codes[i]);
            const wanted = one.cover === 0 ? codes[i] : Math.min(top, Math.max(0, mixed));
            expect(Math.abs(now[i] - wanted)).toBeLessThanOrEqual(one.cover === 0 ? 0 : 0.51);
          });
        },
      ),
    );
  });
});
