import { describe, expect, it } from 'vitest';
import { meanSquaredError, psnrOf } from '../measure/psnr.ts';
import { cloneRaster, createRaster, viewRaster } from '../raster/raster.ts';
import type { Raster } from '../raster/raster.ts';
import { lumaPlane } from '../raster/float.ts';
import { growRect } from '../raster/rect.ts';
import { narrowWindow, wholeWindow } from '../raster/window.ts';
import { emptyRecipe } from '../recipe/recipe.ts';
import { renderRecipe } from '../recipe/render.ts';
import { loadOpenCv } from '../testing/openCv.ts';
import { pictureOf } from '../testing/pictures.ts';
import { applyFinish, finishReach } from './applyFinish.ts';
import type { FinishStep } from './finishStep.ts';
import type { ContrastStep } from './contrast/contrastStep.ts';
import type { SharpenStep } from './sharpen/sharpenStep.ts';
import type { SoftenStep } from './soften/softenStep.ts';
import { TABLE_TOP, encodedLight, lightTablesOf } from '../colour/lightTable.ts';
import { measureBlur } from './measureBlur.ts';
import { scaleFinish } from './scaleFinish.ts';

const [WIDTH, HEIGHT] = [220, 420];
/** Stones with joints, and a slope of tone over all of them. */
const WALL = pictureOf(
  WIDTH,
  HEIGHT,
  (x, y, c) => 0.3 + 0.25 * (x / WIDTH) + (x % 23 < 3 || y % 17 < 2 ? -0.15 : 0) + 0.02 * c,
  { grain: 0.008 },
);
const BASE = { on: true, share: 1 } as const;
const contrast = (more: Partial<ContrastStep> = {}): ContrastStep => ({
  ...{ ...BASE, id: 'k', method: 'contrast', amount: 0.8, size: 24 },
  ...more,
});
const sharpen = (more: Partial<SharpenStep> = {}): SharpenStep => ({
  ...{ ...BASE, id: 's', method: 'sharpen', way: 'unsharp', radius: 1.2, amount: 1, threshold: 0 },
  ...more,
});
const soften = (more: Partial<SoftenStep> = {}): SoftenStep => ({
  ...{ ...BASE, id: 'b', method: 'soften', radius: 2 },
  ...more,
});
const finished = (picture: Raster, ...steps: readonly FinishStep[]): Raster =>
  applyFinish(wholeWindow(picture), steps, []);
const lumaAt = (raster: Raster, x: number, y: number): number => lumaPlane(raster).data[y * raster.width + x];
/** Deviation of a plane inside of a rectangle. */
function spread({ planes, stride }: Raster, left: number, top: number, side: number): number {
  const values = Array.from(
    { length: side * side },
    (_, i) => planes[1][(top + Math.floor(i / side)) * stride + left + (i % side)],
  );
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
}

describe('steps that look around', () => {
  const every: FinishStep[] = [
    contrast(),
    sharpen({ threshold: 0.01 }),
    sharpen({ id: 'd', way: 'deconvolve', radius: 0.9 }),
    soften(),
  ];

  it.each(every)('$method gives the same values whatever part is asked for', (step) => {
    const whole = finished(WALL, step);
    const wanted = { left: 61, top: 133, width: 50, height: 43 };
    const reach = finishReach([step]);
    const seen = narrowWindow(wholeWindow(WALL), growRect(wanted, reach));
    const part = applyFinish(seen, [step], []);
    const inner = viewRaster(part, {
      ...wanted,
      left: wanted.left - seen.left,
      top: wanted.top - seen.top,
    });
    expect(cloneRaster(inner).planes).toEqual(cloneRaster(viewRaster(whole, wanted)).planes);
  });

  it('render in bands what they show as a whole', () => {
    const steps = [contrast(), sharpen({ threshold: 0.01 }), soften({ share: 0.4 })];
    const rendered = cloneRaster(WALL);
    renderRecipe(rendered, { ...emptyRecipe({ width: WIDTH, height: HEIGHT }), finish: steps });
    expect(rendered.planes).toEqual(finished(WALL, ...steps).planes);
  });

  it('leave a level surface as it is', () => {
    const even = pictureOf(80, 80, (_, __, c) => 0.3 + 0.1 * c);
    for (const step of every) expect(finished(even, step).planes).toEqual(even.planes);
  });
});

describe('local contrast', () => {
  it('makes what is small stand out, in lightness alone, and no light runs along a border', () => {
    const after = finished(WALL, contrast());
    expect(spread(after, 60, 60, 60)).toBeGreaterThan(1.3 * spread(WALL, 60, 60, 60));
    const at = 100 * WIDTH + 70;
    const shift = after.planes.map((plane, c) => plane[at] - WALL.planes[c][at]);
    expect(Math.max(...shift) - Math.min(...shift)).toBeLessThanOrEqual(1);
    const border = pictureOf(200, 60, (x) => (x < 100 ? 0.15 : 0.85));
    const lightAlong = (step: FinishStep): number =>
      Math.max(...[90, 96, 104, 110].map((x) => Math.abs(at30(finished(border, step), x) - at30(border, x))));
    const at30 = (raster: Raster, x: number): number => raster.planes[0][30 * 200 + x];
    const plainBlur = sharpen({ radius: 12 });
    expect(lightAlong(contrast({ amount: 1 }))).toBeLessThan(0.25 * lightAlong(plainBlur));
  });
});

describe('sharpening', () => {
  it('unsharp is what a reference library gives by its own blur', async () => {
    const { cv } = await loadOpenCv();
    const grey = pictureOf(
      90,
      70,
      (x, y) => 0.4 + 0.2 * Math.sin(x / 3) * Math.cos(y / 5) + (x > 45 ? 0.2 : 0),
      {
        channels: 1,
      },
    );
    const source = cv.matFromArray(70, 90, cv.CV_8UC1, [...grey.planes[0]]);
    const float = new cv.Mat();
    source.convertTo(float, cv.CV_32F);
    const soft = new cv.Mat();
    cv.GaussianBlur(float, soft, new cv.Size(0, 0), 1.5, 1.5, cv.BORDER_REPLICATE);
    const peer = new cv.Mat();
    cv.addWeighted(float, 1.8, soft, -0.8, 0, peer);
    const own = finished(grey, sharpen({ radius: 1.5, amount: 0.8 })).planes[0];
    const theirs = peer.data32F as Float32Array;
    // Their kernel is cut at another place, and ours is rounded.
    own.forEach((value, i) =>
      expect(Math.abs(value - Math.min(255, Math.max(0, theirs[i])))).toBeLessThanOrEqual(1),
    );
  });

  it('leaves grain below its threshold alone, and sharpens borders all the same', () => {
    const grainy = pictureOf(120, 80, (x) => (x < 60 ? 0.3 : 0.7), { grain: 0.01 });
    const plain = finished(grainy, sharpen({ amount: 2 }));
    const kept = finished(grainy, sharpen({ amount: 2, threshold: 0.04 }));
    expect(spread(plain, 10, 20, 30)).toBeGreaterThan(1.8 * spread(grainy, 10, 20, 30));
    expect(spread(kept, 10, 20, 30)).toBeLessThan(1.02 * spread(grainy, 10, 20, 30));
    expect(lumaAt(kept, 60, 40) - lumaAt(kept, 59, 40)).toBeGreaterThan(0.43);
  });

  it('brings back nearly half of what a known blur took, and measures that blur', () => {
    const blurred = finished(WALL, soften({ radius: 1.1 }));
    const sigma = measureBlur(lumaPlane(blurred), 0.003);
    expect(sigma).not.toBeNull();
    if (sigma === null) return;
    expect(Math.abs(sigma - 1.1)).toBeLessThan(0.4);
    const back = finished(blurred, sharpen({ way: 'deconvolve', radius: 1.1 }));
    const psnr = (raster: Raster): number => psnrOf(meanSquaredError(lumaPlane(raster), lumaPlane(WALL)));
    expect(psnr(back)).toBeGreaterThan(psnr(blurred) + 2.5);
  });

  it('does less on a smaller level, and nothing where its blur is less than a pixel', () => {
    const step = scaleFinish(sharpen(), 16);
    expect(finished(WALL, step).planes).toEqual(WALL.planes);
  });
});

describe('softening', () => {
  it('blurs light, so that a lamp in the dark stays as bright as it is', () => {
    const dark = createRaster(60, 60, 3, 16);
    for (const plane of dark.planes) plane[30 * 60 + 30] = 65535;
    const soft = finished(dark, soften({ radius: 1.5 }));
    const light = [...soft.planes[0]].reduce((sum, value) => {
      const v = value / 65535;
      return sum + (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
    }, 0);
    expect(light).toBeCloseTo(1, 2);
  });
});

describe('light by tables', () => {
  it('is the curve of IEC 61966-2-1 to less than a fiftieth of a code of 16 bit, there and back', () => {
    const [table] = lightTablesOf(1, undefined);
    for (let code = 0; code <= TABLE_TOP; code += 7) {
      const value = code / TABLE_TOP;
      const light = value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
      expect(Math.abs(table.light[code] - light)).toBeLessThan(1e-6);
      expect(Math.abs(encodedLight(light, table.codes) - value) * TABLE_TOP).toBeLessThan(0.02);
    }
  });
});
