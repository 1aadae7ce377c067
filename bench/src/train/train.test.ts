import type { Polarity } from '@fennip/core/fault';
import { LOOK_SIDE, growForest, holdNet, netInput } from '@fennip/core/bench';
import { gaussian, mulberry } from '@fennip/core/random';
import { createRaster } from '@fennip/core/raster';
import { describe, expect, it } from 'vitest';
import { onLines, scoreLines } from '../onLines.ts';
import { BOOST_DEFAULTS, boost } from './boost.ts';
import { calibrate } from './calibrate.ts';
import { laySubjects } from './laySubjects.ts';
import { logisticRegression } from './logisticRegression.ts';
import type { LookExample } from './teach.ts';
import { TEACH_DEFAULTS, teach } from './teach.ts';
import { throughJpeg } from './throughJpeg.ts';

/** Rows of two traits; a row is a fault where the first is large and the second small. */
function examples(count: number, seed: number): { rows: Float64Array[]; labels: number[] } {
  const uniform = mulberry(seed);
  const rows = Array.from({ length: count }, () => Float64Array.of(uniform(), uniform(), uniform()));
  return { rows, labels: rows.map(([a, b]) => (a > 0.6 && b < 0.5 ? 1 : 0)) };
}

describe('boosting', () => {
  it('learns what two traits say together, and is the same on every run', () => {
    const { rows, labels } = examples(3000, 1);
    const train = () => boost(['a', 'b', 'noise'], rows, labels, { ...BOOST_DEFAULTS, trees: 60 });
    expect(train()).toEqual(train());
    const forest = growForest(train());
    const unseen = examples(1000, 2);
    const right = unseen.rows.filter((row, i) => forest.score(row) > 0 === (unseen.labels[i] === 1)).length;
    expect(right).toBeGreaterThan(970);
  });

  it('tells few from very many, though all of them lie at one end', () => {
    const uniform = mulberry(7);
    const rows = Array.from({ length: 20_000 }, () => Float64Array.of(uniform()));
    const labels = rows.map(([a]) => (a > 0.997 ? 1 : 0));
    const forest = growForest(boost(['a'], rows, labels, { ...BOOST_DEFAULTS, columns: 1, leastLeaf: 0.1 }));
    expect(forest.score(Float64Array.of(0.9985))).toBeGreaterThan(0);
    expect(forest.score(Float64Array.of(0.995))).toBeLessThan(0);
  });

  it('takes a row that stands for many for as many', () => {
    const few = { rows: [0, 0, 1, 1].map((a) => Float64Array.of(a)), labels: [0, 1, 0, 1] };
    const weights = [3, 1, 1, 3];
    const many = few.rows.flatMap((row, i) =>
      Array.from({ length: weights[i] }, () => ({ row, label: few.labels[i] })),
    );
    const options = { ...BOOST_DEFAULTS, rows: 1, columns: 1, trees: 20, leastLeaf: 0 };
    const weighted = boost(['a'], few.rows, few.labels, options, weights);
    const repeated = boost(
      ['a'],
      many.map(({ row }) => row),
      many.map(({ label }) => label),
      options,
    );
    expect(weighted.base).toBeCloseTo(repeated.base, 9);
    expect(growForest(weighted).score(Float64Array.of(1))).toBeCloseTo(
      growForest(repeated).score(Float64Array.of(1)),
      4,
    );
  });
});

describe('calibrating', () => {
  it('finds the line by which scores that are too sure mean what they say', () => {
    const uniform = mulberry(5);
    const truth = Array.from({ length: 20_000 }, () => 2 * gaussian(uniform) - 1);
    const labels = truth.map((odds) => (uniform() < 1 / (1 + Math.exp(-odds)) ? 1 : 0));
    const { slope, offset } = calibrate(
      truth.map((odds) => 2 * odds + 1),
      labels,
    );
    expect(slope).toBeCloseTo(0.5, 1);
    expect(offset).toBeCloseTo(-0.5, 1);
  });
});

describe('weighing values', () => {
  it('finds the weights that labels were drawn by, and next to none for noise', () => {
    const uniform = mulberry(9);
    const rows = Array.from({ length: 20_000 }, () => [
      1,
      gaussian(uniform),
      gaussian(uniform),
      gaussian(uniform),
    ]);
    const labels = rows.map(([, a, b]) => (uniform() < 1 / (1 + Math.exp(1 - 2 * a + 0.5 * b)) ? 1 : 0));
    const weights = logisticRegression(rows, labels);
    [-1, 2, -0.5, 0].forEach((wanted, k) => expect(Math.abs(weights[k] - wanted)).toBeLessThan(0.12));
  });
});

describe('teaching a net', () => {
  /** Looks at a noisy ground, half of them with a soft disc in the middle, half of the others with an edge through it. */
  function looks(count: number, seed: number): LookExample[] {
    const uniform = mulberry(seed);
    return Array.from({ length: count }, (_, k): LookExample => {
      const label = k % 2 === 0 ? 1 : 0;
      const depth = label === 1 || k % 4 === 1 ? 0.3 + 0.3 * uniform() : 0;
      const angle = 2 * Math.PI * uniform();
      const light = Float32Array.from({ length: LOOK_SIDE * LOOK_SIDE }, (_, i) => {
        const [x, y] = [(i % LOOK_SIDE) - LOOK_SIDE / 2, Math.floor(i / LOOK_SIDE) - LOOK_SIDE / 2];
        const away = label === 1 ? Math.hypot(x, y) - 8 : x * Math.cos(angle) + y * Math.sin(angle);
        const cover = Math.min(1, Math.max(0, 0.5 - away / 3));
        return 0.3 * (1 - depth * cover) * (1 + 0.03 * gaussian(uniform));
      });
      const polarity: Polarity = 'dark';
      return { light: [light, light, light], speck: { r: 6, polarity }, label, counts: 1 };
    });
  }

  it('tells discs from edges on looks it has not seen', () => {
    const numbers = teach(looks(120, 1), 2, { ...TEACH_DEFAULTS, rounds: 5, batch: 6, leftOut: 0 });
    const unseen = looks(100, 3);
    const right = holdNet(numbers, ({ judge }) =>
      unseen.filter(({ light, speck, label }) => {
        const { values, features } = netInput(light, speck);
        return judge(values, features).score > 0 === (label === 1);
      }),
    );
    expect(right.length).toBeGreaterThan(90);
  });

  it('is the same on every run', () => {
    const few = looks(16, 4);
    const once = (): Float32Array => teach(few, 5, { ...TEACH_DEFAULTS, rounds: 1 });
    expect(once()).toEqual(once());
  });
});

describe('pictures that are trained on', () => {
  it('have the same subjects laid on a copy of them on every run, as many as are asked for', () => {
    const plain = createRaster(200, 150, 3, 8);
    plain.planes.forEach((plane) => plane.fill(120));
    const laid = laySubjects(plain, 400, 7);
    expect(laid.planes).toEqual(laySubjects(plain, 400, 7).planes);
    const changed = laid.planes[0].filter((value) => value !== 120).length;
    expect(changed).toBeGreaterThan(300);
    expect(plain.planes[0].every((value) => value === 120)).toBe(true);
  });

  it('come back from a JPEG file nearly as they were', async () => {
    const uniform = mulberry(8);
    const picture = createRaster(64, 48, 3, 8);
    picture.planes.forEach((plane, c) => {
      plane.forEach((_, i) => (plane[i] = 60 + 40 * c + (i % 64) + Math.round(2 * uniform())));
    });
    const back = await throughJpeg(picture, 90, '4:4:4');
    const off = back.planes.flatMap((plane, c) =>
      Array.from(plane, (value, i) => Math.abs(value - picture.planes[c][i])),
    );
    expect(Math.max(...off)).toBeGreaterThan(0);
    expect(off.reduce((sum, value) => sum + value, 0) / off.length).toBeLessThan(3);
  });
});

describe('scoring lines', () => {
  const line = (y: number, from: number, to: number, polarity: 'dark' | 'bright' = 'dark') => ({
    polarity,
    width: 2,
    path: [
      [from, y],
      [to, y],
    ] as const,
  });
  const laid = (y: number) => ({ ...line(y, 0, 100), kind: 'scratch' as const, x: 50, y, r: 1, depth: 1 });

  it('counts a line that is found in two pieces once, and a piece that lies beside it as wrong', () => {
    const findings = [line(20, 0, 45), line(21, 50, 100), line(60, 0, 80)];
    expect(scoreLines(findings, [laid(20), laid(90)])).toMatchObject({ precision: 2 / 3, recall: 0.5 });
  });

  it('does not take a bright line for a dark one', () => {
    expect(onLines([line(20, 0, 100)], [1]).shareOf(line(20, 0, 100, 'bright'))).toBe(0);
    expect(onLines([line(20, 0, 100)], [1]).shareOf(line(20, 50, 150))).toBeCloseTo(0.5, 1);
  });
});
