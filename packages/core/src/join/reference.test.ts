import { beforeAll, describe, expect, it } from 'vitest';
import { mulberry } from '../random/index.ts';
import type { Point } from '../target/target.ts';
import type { Cv } from '../testing/openCv.ts';
import { loadOpenCv } from '../testing/openCv.ts';
import { LYING, scanOfHalves } from '../testing/tornPrint.ts';
import { renderAssembly } from './compose/renderAssembly.ts';
import { fitPlacement, place } from './fit/placement.ts';

let cv: Cv;
beforeAll(async () => {
  ({ cv } = await loadOpenCv());
});

/** Values of a matrix of doubles, which is then freed. */
function valuesOf(matrix: InstanceType<Cv['Mat']>): number[] {
  const values = [...matrix.data64F];
  matrix.delete();
  return values;
}

describe('a placement from pairs of places', () => {
  it('is the one that a reference library finds (estimateAffine2D, which may also scale and shear)', () => {
    const uniform = mulberry(5);
    const from = Array.from({ length: 40 }, (): Point => [800 * uniform(), 600 * uniform()]);
    const truth = { angle: 2.1, dx: 140.25, dy: -60.5 };
    const onto = from.map((at) => place(truth, at));
    const matrix = (points: readonly Point[]) =>
      cv.matFromArray(
        points.length,
        1,
        cv.CV_32FC2,
        points.flatMap(([x, y]) => [x, y]),
      );
    const [a, b] = [matrix(from), matrix(onto)];
    const [cos, minusSin, dx, sin, , dy] = valuesOf(cv.estimateAffine2D(a, b));
    a.delete();
    b.delete();
    const found = fitPlacement(from.map((at, k) => ({ from: at, onto: onto[k], weight: 1 })));
    expect(Math.abs(Math.cos(found.angle) - cos)).toBeLessThan(1e-4);
    expect(Math.abs(Math.sin(found.angle) - sin)).toBeLessThan(1e-4);
    expect(minusSin).toBeCloseTo(-sin, 6);
    expect(Math.hypot(found.dx - dx, found.dy - dy)).toBeLessThan(0.05);
  });
});

describe('a turned piece', () => {
  it('is resampled as a reference library does (warpAffine, Lanczos of four lobes)', () => {
    const scan = scanOfHalves(LYING.left, LYING.right);
    const outline: Point[] = [
      [90, 120],
      [200, 120],
      [200, 280],
      [90, 280],
    ];
    const angle = 0.3;
    const placement = { angle, dx: 20.4, dy: -90.7 };
    const piece = { scan: 0, paper: outline, picture: outline, holes: [], placement };
    const [width, height] = [220, 260];
    const { raster, origin } = renderAssembly([scan], { width, height, pieces: [piece], joins: [] });
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    const source = cv.matFromArray(scan.height, scan.width, cv.CV_8UC1, scan.planes[0]);
    // There the centre of the first pixel lies at 0, 0; here at 0.5, 0.5.
    const [half, to] = [0.5, place(placement, [0.5, 0.5])];
    const matrix = cv.matFromArray(2, 3, cv.CV_64F, [cos, -sin, to[0] - half, sin, cos, to[1] - half]);
    const warped = new cv.Mat();
    cv.warpAffine(source, warped, matrix, new cv.Size(width, height), cv.INTER_LANCZOS4);
    let [sum, count] = [0, 0];
    origin.forEach((number, i) => {
      if (number === 0) return;
      sum += (raster.planes[0][i] - warped.data[i]) ** 2;
      count++;
    });
    for (const used of [source, matrix, warped]) used.delete();
    expect(count).toBeGreaterThan(10_000);
    expect(10 * Math.log10(255 ** 2 / (sum / count))).toBeGreaterThan(45);
  });
});
