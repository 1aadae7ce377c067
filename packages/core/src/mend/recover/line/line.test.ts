import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linearToSrgb, srgbToLinear } from '../../../light/srgb.ts';
import { comparePictures } from '../../../measure/compare.ts';
import { pixelsOf } from '../../../raster/pixels.ts';
import type { Raster } from '../../../raster/raster.ts';
import { cloneRaster } from '../../../raster/raster.ts';
import { wholeWindow } from '../../../raster/window.ts';
import type { Point } from '../../../target/target.ts';
import { distanceToStroke } from '../../../target/targetDistance.ts';
import { pictureOf } from '../../../testing/pictures.ts';
import { applyMend, mendFootprint } from '../../applyMend.ts';
import { canvasOf } from '../../canvas.ts';
import { layPatch } from '../../../raster/patch.ts';
import type { MethodChoice } from '../../mendWish.ts';
import { proposeMend } from '../../proposeMend.ts';
import { fitLine } from './fitLine.ts';
import { lineCoordinates } from './lineCoordinates.ts';
import { slitAt } from './lineVeil.ts';

const [WIDTH, HEIGHT] = [160, 120];
const COURSE: Point[] = [
  [20.4, 30.2],
  [70.1, 52.7],
  [140.3, 88.9],
];

const ground = (): Raster =>
  pictureOf(WIDTH, HEIGHT, (x, y, c) => 0.42 + 0.14 * Math.sin(x / 5) * Math.cos(y / 6) - 0.05 * c, {
    grain: 0.02,
    seed: 5,
  });

/** Lays a line on in linear light with the box-shaped blur of a scanner's pixels, which is not the fit's own model. */
function scratched(clean: Raster, half: number, light: number, cover = 0.95): Raster {
  const seen = cloneRaster(clean);
  const { across } = lineCoordinates(COURSE, { left: 0, top: 0, width: WIDTH, height: HEIGHT }, half + 1);
  across.forEach((away, i) => {
    const share = cover * Math.min(1, Math.max(0, half + 0.5 - Math.abs(away)));
    if (share === 0) return;
    for (const plane of seen.planes) {
      const real = srgbToLinear(plane[i] / 255);
      plane[i] = Math.round(255 * linearToSrgb(real + share * (light - real)));
    }
  });
  return seen;
}

const stroke = (points: readonly Point[], width: number) => ({ shape: 'stroke' as const, points, width });

function mended(seen: Raster, width: number, choice: MethodChoice): { raster: Raster; method: string } {
  const wish = { id: 'm', target: stroke(COURSE, width), margin: 1 };
  const { mend } = proposeMend(wish, { avoid: [], used: [] }, pixelsOf(seen), choice);
  const raster = cloneRaster(seen);
  layPatch(applyMend(mend, canvasOf(pixelsOf(seen))), wholeWindow(raster));
  return { raster, method: mend.method };
}

describe('a line', () => {
  it('is a slit: all light is lost in the middle of a wide one, and half of it at its border', () => {
    expect(slitAt(0, 5, 0.6)).toBeCloseTo(1, 6);
    expect(slitAt(5, 5, 0.6)).toBeCloseTo(0.5, 6);
    expect(slitAt(5.7, 5, 0.6)).toBe(0);
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 6, noNaN: true }),
        fc.double({ min: 0.6, max: 3, noNaN: true }),
        (half, shoulder) => {
          // The blur moves light but makes none: the slit keeps its width.
          let sum = 0;
          for (let away = -15; away < 15; away += 0.01) sum += 0.01 * slitAt(Math.abs(away), half, shoulder);
          expect(sum).toBeCloseTo(2 * half, 1);
        },
      ),
      { numRuns: 30 },
    );
  });

  it.each([
    ['light', 0.82],
    ['dark', 0.02],
  ])('that is %s is found to a tenth of a pixel, with its width, from a stroke beside it', (_, light) => {
    const seen = scratched(ground(), 1.3, light);
    const beside = COURSE.map(([x, y]): Point => [x - 0.6, y + 1.1]);
    const fit = fitLine(stroke(beside, 3.2), pixelsOf(seen));
    if (!fit) throw new Error('no line');
    expect(fit.evidence).toBeGreaterThan(1);
    // A stroke's ends say little of where a line ends, so its first and last points do not count.
    const off = fit.veil.points.slice(3, -3).map(([x, y]) => distanceToStroke(x, y, stroke(COURSE, 1)));
    expect(off.reduce((sum, one) => sum + one, 0) / off.length).toBeLessThan(0.1);
    for (const width of fit.veil.widths) expect(Math.abs(width - 2.6)).toBeLessThan(0.25);
  });

  it.each([
    ['a light scratch', 1.3, 0.82, 0.95, 1],
    ['a dark scratch', 1.8, 0.02, 0.95, 2],
    ['a thin hair that lets light through', 0.6, 0.03, 0.7, 5],
  ])('%s comes off better by recover than by a bridge', (_, half, light, cover, gain) => {
    const clean = ground();
    const seen = scratched(clean, half, light, cover);
    const { across } = lineCoordinates(
      COURSE,
      { left: 0, top: 0, width: WIDTH, height: HEIGHT },
      half + 0.45,
    );
    const inside = Uint8Array.from(across, (away) => (away === Infinity ? 0 : 1));
    const auto = mended(seen, 2 * half, 'auto');
    expect(auto.method).toBe('recover');
    const [own, bridged] = [auto.raster, mended(seen, 2 * half, 'bridge').raster].map(
      (raster) => comparePictures(raster, clean, inside).psnr ?? Infinity,
    );
    expect(own - bridged).toBeGreaterThan(gain);
  });

  it('that is not there is not recovered', () => {
    expect(mended(ground(), 2.6, 'auto').method).toBe('bridge');
  });

  it('changes not one value outside its footprint', () => {
    const seen = scratched(ground(), 1.3, 0.82);
    const wish = { id: 'm', target: stroke(COURSE, 2.6), margin: 1 };
    const { mend } = proposeMend(wish, { avoid: [], used: [] }, pixelsOf(seen));
    const patch = applyMend(mend, canvasOf(pixelsOf(seen)));
    const { left, top, width, height } = mendFootprint(mend, pixelsOf(seen).shape);
    const { across } = lineCoordinates(COURSE, patch.rect, 4);
    patch.coverage.forEach((amount, i) => {
      const [x, y] = [
        patch.rect.left + (i % patch.rect.width),
        patch.rect.top + Math.floor(i / patch.rect.width),
      ];
      if (x < left || y < top || x >= left + width || y >= top + height || across[i] === Infinity)
        expect(amount).toBe(0);
    });
  });

  it('next to a guard takes nothing from it and changes nothing in it', () => {
    const clean = ground();
    const seen = scratched(clean, 1.3, 0.82);
    const fences = [
      {
        id: 'roof',
        kind: 'guard' as const,
        name: 'roof',
        area: {
          shape: 'outline' as const,
          points: [
            [0, 60],
            [160, 60],
            [160, 120],
            [0, 120],
          ] as Point[],
        },
        edge: 1,
        on: true,
      },
    ];
    const { mend } = proposeMend(
      { id: 'm', target: stroke(COURSE, 2.6), margin: 1 },
      { avoid: [], used: [], fences },
      pixelsOf(seen),
    );
    const patch = applyMend(mend, canvasOf(pixelsOf(seen), fences));
    const other = cloneRaster(seen);
    for (const plane of other.planes) plane.fill(0, 62 * WIDTH);
    const same = applyMend(mend, canvasOf(pixelsOf(other), fences));
    patch.coverage.forEach((amount, i) => {
      const y = patch.rect.top + Math.floor(i / patch.rect.width);
      if (y >= 61) expect(amount).toBe(0);
      if (y < 56 && amount > 0) expect(same.values[0][i]).toBeCloseTo(patch.values[0][i], 0);
    });
  });
});
