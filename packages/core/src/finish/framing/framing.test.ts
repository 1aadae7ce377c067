import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cloneRaster, viewRaster } from '../../raster/raster.ts';
import { intersectRects } from '../../raster/rect.ts';
import { narrowWindow, pictureRect, wholeWindow } from '../../raster/window.ts';
import { loadOpenCv } from '../../testing/openCv.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { FinishStep } from '../finishStep.ts';
import type { CropStep } from '../crop/cropStep.ts';
import type { LensStep } from '../lens/lensStep.ts';
import type { StraightenStep } from '../straighten/straightenStep.ts';
import { applyFraming, framingReads } from './applyFraming.ts';
import { frameWhole } from './frameWhole.ts';
import { lanczos } from '../../resample/lanczos.ts';
import { cropFits, framingOf, isInFrame, uncropped, wholePlane } from './framing.ts';
import { lensFromLines } from './lensFromLines.ts';

const SIZE = { width: 300, height: 200 };
const BASE = { on: true, share: 1 } as const;
const lens = (k1: number, k2 = 0): LensStep => ({ ...BASE, id: 'l', method: 'lens', k1, k2 });
const straighten = (angle: number): StraightenStep => ({ ...BASE, id: 't', method: 'straighten', angle });
const crop = (left: number, top: number, width: number, height: number): CropStep => ({
  ...{ ...BASE, id: 'c', method: 'crop' },
  ...{ left, top, width, height },
});
const SCENE = pictureOf(
  SIZE.width,
  SIZE.height,
  (x, y, c) => 0.4 + 0.25 * Math.sin(x / 7 + c) * Math.cos(y / 9) + 0.001 * x,
);
const framings = fc.record({
  k1: fc.double({ min: -0.2, max: 0.2, noNaN: true }),
  k2: fc.double({ min: -0.05, max: 0.05, noNaN: true }),
  angle: fc.double({ min: -0.7, max: 0.7, noNaN: true }),
});
const stepsOf = ({ k1, k2, angle }: { k1: number; k2: number; angle: number }): FinishStep[] => [
  lens(k1, k2),
  straighten(angle),
];

describe('a framing', () => {
  it('shows each pixel as the original holds it at its place, to a code', () => {
    const onto = [new Float32Array(1), new Float32Array(1), new Float32Array(1)];
    fc.assert(
      fc.property(framings, fc.double({ min: 0.05, max: 0.8, noNaN: true }), (how, along) => {
        const framing = framingOf(SIZE, stepsOf(how));
        fc.pre(framing !== null);
        const part = {
          left: Math.floor(along * (framing.width - 12)),
          top: Math.floor((1 - along) * (framing.height - 9)),
          ...{ width: 12, height: 9 },
        };
        const framed = applyFraming(framing, wholeWindow(SCENE), part);
        let compared = 0;
        for (let k = 0; k < part.width * part.height; k++) {
          const [column, row] = [k % part.width, Math.floor(k / part.width)];
          const [x, y] = framing.toOriginal(part.left + column + 0.5, part.top + row + 0.5);
          if (x < 0 || y < 0 || x > SIZE.width || y > SIZE.height) continue;
          compared++;
          lanczos(SCENE, SCENE.planes, x, y, 1, onto, 0);
          framed.planes.forEach((plane, c) =>
            expect(Math.abs(plane[row * framed.stride + column] - onto[c][0])).toBeLessThan(1),
          );
        }
        expect(compared).toBeGreaterThan(0);
      }),
      { numRuns: 40 },
    );
  });

  it('finds every place back', () => {
    fc.assert(
      fc.property(framings, fc.double({ min: 0, max: 1, noNaN: true }), (how, along) => {
        const framing = framingOf(SIZE, stepsOf(how));
        fc.pre(framing !== null);
        const [x, y] = [along * framing.width, (1 - along) * framing.height * 0.9];
        const [backX, backY] = framing.toFramed(...framing.toOriginal(x, y));
        expect(backX).toBeCloseTo(x, 4);
        expect(backY).toBeCloseTo(y, 4);
      }),
    );
  });

  it('without a crop shows the most that holds nothing beyond the picture', () => {
    fc.assert(
      fc.property(framings, (how) => {
        const steps = stepsOf(how);
        const framing = framingOf(SIZE, steps);
        fc.pre(framing !== null);
        for (const [x, y] of [
          [0, 0],
          [framing.width, 0],
          [0, framing.height],
          [framing.width, framing.height],
        ]) {
          const [px, py] = framing.toOriginal(x, y);
          expect(px).toBeGreaterThan(-0.01);
          expect(py).toBeGreaterThan(-0.01);
          expect(px).toBeLessThan(SIZE.width + 0.01);
          expect(py).toBeLessThan(SIZE.height + 0.01);
        }
        const frame = uncropped(SIZE, steps);
        const wider = crop(frame.left - 4, frame.top - 4, frame.width + 8, frame.height + 8);
        expect(cropFits(SIZE, steps, wider)).toBe(false);
      }),
    );
  });

  it('keeps the very values where it only leaves pixels out', () => {
    const cut = frameWhole(SCENE, [crop(40, 30, 120, 90)]);
    expect(cut.planes).toEqual(
      cloneRaster(viewRaster(SCENE, { left: 40, top: 30, width: 120, height: 90 })).planes,
    );
    expect(frameWhole(SCENE, [{ ...crop(40, 30, 120, 90), on: false }])).toBe(SCENE);
  });

  it('by a quarter turn only moves pixels', () => {
    const turned = frameWhole(SCENE, [straighten(Math.PI / 2)]);
    expect([turned.width, turned.height]).toEqual([200, 300]);
    for (const [x, y] of [
      [0, 0],
      [150, 60],
      [299, 199],
    ])
      expect(turned.planes[1][x * 200 + (199 - y)]).toBe(SCENE.planes[1][y * 300 + x]);
  });

  it('gives the same values whatever part is asked for', () => {
    const steps = [lens(-0.08), straighten(0.05), crop(20, 15, 250, 160)];
    const framing = framingOf(SIZE, steps);
    if (!framing) throw new Error('Nothing was framed');
    const part = { left: 70, top: 40, width: 64, height: 50 };
    const reads = intersectRects(framingReads(framing, part, 1), pictureRect(wholeWindow(SCENE).picture));
    const own = applyFraming(framing, narrowWindow(wholeWindow(SCENE), reads), part);
    expect(own.planes).toEqual(cloneRaster(viewRaster(frameWhole(SCENE, steps), part)).planes);
  });

  it('tells what is seen of the picture, and all that could be', () => {
    const framing = framingOf(SIZE, [crop(40, 30, 120, 90)]);
    expect(isInFrame(framing, 41, 31)).toBe(true);
    expect(isInFrame(framing, 39, 31)).toBe(false);
    expect(isInFrame(null, 39, 31)).toBe(true);
    expect(wholePlane(SIZE, [straighten(0.1)])).toEqual({ left: 0, top: 0, ...SIZE });
    expect(wholePlane(SIZE, [straighten(Math.PI / 2)])).toEqual({
      left: 50,
      top: -50,
      width: 200,
      height: 300,
    });
  });

  it('shows white paper beyond the picture', () => {
    const beyond = frameWhole(SCENE, [crop(-20, -10, 100, 80)]);
    expect([beyond.planes[0][0], beyond.planes[2][5 * 100 + 90]]).toEqual([0, 0]);
  });
});

describe('a lens', () => {
  it('is corrected as a reference library does it: cv.undistort with the half diagonal as focal length', async () => {
    const { cv } = await loadOpenCv();
    const half = Math.hypot(SIZE.width, SIZE.height) / 2;
    const [k1, k2] = [-0.12, 0.03];
    // The library counts from the middle of the first pixel.
    const camera = cv.matFromArray(3, 3, cv.CV_64F, [
      half,
      0,
      SIZE.width / 2 - 0.5,
      0,
      half,
      SIZE.height / 2 - 0.5,
      0,
      0,
      1,
    ]);
    const distortion = cv.matFromArray(1, 4, cv.CV_64F, [k1, k2, 0, 0]);
    const [mapX, mapY] = [new cv.Mat(), new cv.Mat()];
    const still = cv.Mat.eye(3, 3, cv.CV_64F);
    cv.initUndistortRectifyMap(
      camera,
      distortion,
      still,
      camera,
      new cv.Size(SIZE.width, SIZE.height),
      cv.CV_32FC1,
      mapX,
      mapY,
    );
    const framing = framingOf(SIZE, [lens(k1, k2), crop(0, 0, SIZE.width, SIZE.height)]);
    const [xs, ys] = [mapX.data32F as Float32Array, mapY.data32F as Float32Array];
    for (const [x, y] of [
      [3, 4],
      [150, 100],
      [280, 20],
      [40, 180],
    ]) {
      const [px, py] = framing?.toOriginal(x + 0.5, y + 0.5) ?? [NaN, NaN];
      expect(px - 0.5).toBeCloseTo(xs[y * SIZE.width + x], 3);
      expect(py - 0.5).toBeCloseTo(ys[y * SIZE.width + x], 3);
    }
  });

  it('is found again from lines that it has bent', () => {
    const lens4 = framingOf(SIZE, [lens(-0.11), crop(0, 0, SIZE.width, SIZE.height)]);
    expect(lens4).not.toBeNull();
    if (!lens4) return;
    const bent = [
      [20, 12, 280, 18],
      [14, 30, 22, 180],
    ].map(([x1, y1, x2, y2]) =>
      [0, 0.25, 0.5, 0.75, 1].map((t) => lens4.toOriginal(x1 + t * (x2 - x1), y1 + t * (y2 - y1))),
    );
    expect(lensFromLines(bent, SIZE)).toBeCloseTo(-0.11, 3);
    // A line through the middle, set by an unsteady hand, tells next to nothing.
    const unsteady = [
      [130, 100],
      [150, 100.3],
      [170, 100],
    ] as const;
    expect(Math.abs(lensFromLines([unsteady], SIZE) ?? NaN)).toBeLessThan(0.02);
    expect(
      lensFromLines(
        [
          [
            [0, 0],
            [10, 10],
          ],
        ],
        SIZE,
      ),
    ).toBeNull();
  });
});
