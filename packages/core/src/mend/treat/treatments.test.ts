import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cloneRaster } from '../../raster/raster.ts';
import type { Raster } from '../../raster/raster.ts';
import type { Fence } from '../../fence/fence.ts';
import { measureGrainModel } from '../../grain/grainModel.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import { wholeWindow } from '../../raster/window.ts';
import { pictureOf, speckAt } from '../../testing/pictures.ts';
import { loadOpenCv } from '../../testing/openCv.ts';
import { canvasOf } from '../canvas.ts';
import { layPatch } from '../../raster/patch.ts';
import { applyTreatment } from './applyTreatment.ts';
import { labStatistics } from './match/match.ts';
import type { Treatment } from './treatment.ts';
import type { DrawMend } from './draw/drawMend.ts';
import type { MatchMend } from './match/matchMend.ts';
import type { RegrainMend } from './regrain/regrainMend.ts';
import type { ShiftMend } from './shift/shiftMend.ts';
import type { SiftMend } from './sift/siftMend.ts';
import type { SoftenMend } from './soften/softenMend.ts';
import type { ToneMend } from './tone/toneMend.ts';

const [WIDTH, HEIGHT] = [150, 110];
const WHOLE = { left: 0, top: 0, width: WIDTH, height: HEIGHT };
const PICTURE = pictureOf(
  WIDTH,
  HEIGHT,
  (x, y, c) => 0.35 + 0.15 * Math.sin(x / 17 + c) * Math.cos(y / 13) + 0.3 * speckAt(x, y, 60, 50, 3),
  { grain: 0.02 },
);
const NOISE = new Array<number>(16).fill(0.02);
const BASE = {
  id: 't',
  target: {
    shape: 'outline',
    points: [
      [0, 0],
      [WIDTH, 0],
      [WIDTH, HEIGHT],
      [0, HEIGHT],
    ] as [number, number][],
  },
  margin: 0,
  edge: 0,
  share: 1,
  on: true,
} as const;
const SIFT: SiftMend = {
  ...BASE,
  method: 'sift',
  radius: 6,
  threshold: 4,
  polarity: 'bright',
  detail: 20,
  noise: NOISE,
};
const TONE: ToneMend = {
  ...BASE,
  ...{ method: 'tone', exposure: 0, range: 'all', contrast: 0, contrastSize: 4 },
  ...{ hue: 0, saturation: 1, lightness: 0 },
};
const SOFTEN: SoftenMend = { ...BASE, method: 'soften', sigma: 1.5, along: null };
const SHIFT: ShiftMend = { ...BASE, method: 'shift', dx: 5, dy: -3, keeps: 'darker' };
const REGRAIN: RegrainMend = { ...BASE, method: 'regrain', strength: 1.6, grain: measureGrainModel(PICTURE) };
const MATCH: MatchMend = {
  ...BASE,
  method: 'match',
  from: { mean: [40, 0, 0], spread: [5, 2, 2] },
  to: { mean: [45, 3, -2], spread: [6, 2, 2] },
};
const ALL: Treatment[] = [
  SIFT,
  REGRAIN,
  { ...TONE, exposure: 0.4, range: 'shadows', contrast: 0.6, hue: 20, saturation: 1.3, lightness: -3 },
  SOFTEN,
  { ...SOFTEN, along: 0.7, sigma: 3 },
  SHIFT,
  MATCH,
];

function treated(picture: Raster, mend: Treatment, fences: readonly Fence[] = []): Raster {
  const copy = cloneRaster(picture);
  layPatch(applyTreatment(mend, canvasOf(pixelsOf(picture), fences), WHOLE), wholeWindow(copy));
  return copy;
}
const valuesOf = ({ planes }: Raster): number[] => planes.flatMap((plane) => [...plane]);

describe('a treatment', () => {
  it.each(ALL)('gives the same pixels whatever piece is asked for: $method', (mend) => {
    const whole = treated(PICTURE, mend);
    fc.assert(
      fc.property(
        fc.nat(WIDTH - 20),
        fc.nat(HEIGHT - 15),
        fc.integer({ min: 1, max: 20 }),
        (left, top, side) => {
          const piece = { left, top, width: side, height: Math.min(side, 15) };
          const copy = cloneRaster(PICTURE);
          layPatch(applyTreatment(mend, canvasOf(pixelsOf(PICTURE)), piece), wholeWindow(copy));
          copy.planes.forEach((plane, c) => {
            for (let y = top; y < top + piece.height; y++)
              for (let x = left; x < left + piece.width; x++)
                expect(plane[y * WIDTH + x]).toBe(whole.planes[c][y * WIDTH + x]);
          });
        },
      ),
      { numRuns: 25 },
    );
  });

  it.each(ALL)('changes nothing in a guard, and lets nothing from there in: $method', (mend) => {
    const guard: Fence = {
      ...{ id: 'g', kind: 'guard', name: 'g', edge: 0, on: true },
      area: { shape: 'mask', left: 0, top: 0, width: 70, height: HEIGHT, runs: [0, 70 * HEIGHT] },
    };
    const out = treated(PICTURE, mend, [guard]);
    const other = cloneRaster(PICTURE);
    for (const plane of other.planes)
      for (let i = 0; i < plane.length; i++) if (i % WIDTH < 70) plane[i] = 255 - plane[i];
    const otherOut = treated(other, mend, [guard]);
    let [changed, changedBehind, letIn] = [0, 0, 0];
    out.planes.forEach((plane, c) => {
      for (let i = 0; i < plane.length; i++) {
        const isChanged = plane[i] !== PICTURE.planes[c][i];
        if (isChanged) changed++;
        if (isChanged && i % WIDTH < 70) changedBehind++;
        if (i % WIDTH >= 70 && otherOut.planes[c][i] !== plane[i]) letIn++;
      }
    });
    expect(changedBehind).toBe(0);
    expect(letIn).toBe(0);
    // The sift's only speck lies in the guard.
    if (mend.method !== 'sift') expect(changed).toBeGreaterThan(100);
  });

  it.each(ALL)('is painted in and out by degrees: $method', (mend) => {
    const full = valuesOf(treated(PICTURE, mend));
    const at = { shape: 'disc', x: 60, y: 50, r: 12 } as const;
    const stroke = { shape: at, edge: 0, amount: 1, lays: 'in' } as const;
    const inside = (i: number): boolean => {
      const p = i % (WIDTH * HEIGHT);
      return Math.hypot((p % WIDTH) + 0.5 - 60, Math.floor(p / WIDTH) + 0.5 - 50) <= 12;
    };
    const before = valuesOf(PICTURE);
    const wrong = (paint: Treatment['paint'], isRight: (value: number, i: number) => boolean): number =>
      valuesOf(treated(PICTURE, { ...mend, paint })).filter((value, i) => !isRight(value, i)).length;
    expect(wrong([stroke], (value, i) => value === (inside(i) ? full[i] : before[i]))).toBe(0);
    const away = { ...stroke, lays: 'out' } as const;
    expect(wrong([away], (value, i) => value === (inside(i) ? before[i] : full[i]))).toBe(0);
    const half = { ...stroke, amount: 0.5 };
    // Twice a half of what is missing: three quarters.
    const threeQuarters = (value: number, i: number): boolean =>
      !inside(i) || Math.abs(value - (before[i] + 0.75 * (full[i] - before[i]))) < 1.01;
    expect(wrong([half, half], threeQuarters)).toBe(0);
  });
});

describe('sift', () => {
  it('without a threshold is the median, value for value that of the reference library', async () => {
    const { cv } = await loadOpenCv();
    for (const radius of [1, 3, 10]) {
      const out = treated(PICTURE, { ...SIFT, radius, threshold: 0, polarity: 'both', detail: 0 });
      PICTURE.planes.forEach((plane, c) => {
        const source = cv.matFromArray(HEIGHT, WIDTH, cv.CV_8UC1, [...plane]);
        const blurred = new cv.Mat();
        cv.medianBlur(source, blurred, 2 * radius + 1);
        expect([...out.planes[c]]).toEqual([...blurred.data]);
        source.delete();
        blurred.delete();
      });
    }
  });

  it('takes out a speck of its polarity, leaves what is larger than detail, and keeps the grain', () => {
    const clean = pictureOf(WIDTH, HEIGHT, () => 0.3, { grain: 0.02, seed: 4 });
    const dirty = cloneRaster(clean);
    const add = (x: number, y: number, amount: number): void => {
      for (const plane of dirty.planes)
        plane[y * WIDTH + x] = Math.max(0, Math.min(255, plane[y * WIDTH + x] + amount));
    };
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        add(40 + dx, 40 + dy, 90);
        add(90 + dx, 40 + dy, -60);
      }
    // A wire, thin but long.
    for (let x = 20; x < 120; x++) add(x, 80, 90);
    const out = treated(dirty, SIFT);
    const deviation = (raster: Raster, left: number, top: number): number => {
      const values: number[] = [];
      for (let y = top; y < top + 5; y++)
        for (let x = left; x < left + 5; x++) values.push(raster.planes[1][y * WIDTH + x]);
      const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
      return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
    };
    const at = (raster: Raster, x: number, y: number): number => raster.planes[1][y * WIDTH + x];
    expect(Math.abs(at(out, 40, 40) - 0.3 * 255)).toBeLessThan(18);
    expect(deviation(out, 38, 38) / deviation(clean, 38, 38)).toBeGreaterThan(0.5);
    expect(at(out, 90, 40)).toBe(at(dirty, 90, 40));
    expect(at(out, 70, 80)).toBe(at(dirty, 70, 80));
    const all = treated(dirty, { ...SIFT, detail: 0 });
    expect(Math.abs(at(all, 70, 80) - 0.3 * 255)).toBeLessThan(25);
  });
});

describe('regrain', () => {
  it('brings a smudge back to the grain of the rest, and leaves what has its grain', () => {
    const grainy = pictureOf(256, 256, () => 0.5, { grain: 0.03, seed: 7 });
    const smudged = cloneRaster(grainy);
    const isSmudge = (x: number, y: number): boolean => x >= 100 && x < 180 && y >= 100 && y < 180;
    for (const plane of smudged.planes)
      for (let i = 0; i < plane.length; i++) if (isSmudge(i % 256, i >> 8)) plane[i] = 128;
    const mend: RegrainMend = {
      ...REGRAIN,
      strength: 1,
      target: { shape: 'disc', x: 128, y: 128, r: 400 },
      grain: measureGrainModel(smudged),
    };
    const out = cloneRaster(smudged);
    layPatch(
      applyTreatment(mend, canvasOf(pixelsOf(smudged)), { left: 0, top: 0, width: 256, height: 256 }),
      wholeWindow(out),
    );
    const deviation = (raster: Raster, left: number, side: number): number => {
      let sum = 0;
      for (let y = left; y < left + side; y++)
        for (let x = left; x < left + side; x++) sum += (raster.planes[1][y * 256 + x] - 128) ** 2;
      return Math.sqrt(sum) / side;
    };
    expect(deviation(out, 115, 50) / deviation(grainy, 115, 50)).toBeGreaterThan(0.85);
    expect(deviation(out, 115, 50) / deviation(grainy, 115, 50)).toBeLessThan(1.15);
    expect(deviation(out, 10, 60) / deviation(grainy, 10, 60)).toBeLessThan(1.06);
  });
});

describe('tone', () => {
  it('of nothing changes nothing, and a stop doubles the light', () => {
    const before = valuesOf(PICTURE);
    const out = valuesOf(treated(PICTURE, TONE));
    expect(out.filter((value, i) => Math.abs(value - before[i]) > 1)).toEqual([]);
    const grey = pictureOf(8, 8, () => 118 / 255);
    const copy = cloneRaster(grey);
    const target = { shape: 'disc', x: 4, y: 4, r: 20 } as const;
    layPatch(
      applyTreatment({ ...TONE, target, exposure: 1 }, canvasOf(pixelsOf(grey)), { ...WHOLE }),
      wholeWindow(copy),
    );
    // 118 of 255 is 0.1812 in light (IEC 61966-2-1); twice that is 162.3.
    expect(Math.abs(copy.planes[0][27] - 162)).toBeLessThanOrEqual(1);
  });

  it('acts on its own range: highlights stay when shadows are lifted', () => {
    const steps = pictureOf(WIDTH, HEIGHT, (x) => x / WIDTH);
    const out = treated(steps, { ...TONE, exposure: 0.5, range: 'shadows' });
    const change = (x: number): number => out.planes[0][20 * WIDTH + x] - steps.planes[0][20 * WIDTH + x];
    expect(change(25)).toBeGreaterThan(3);
    expect(change(140)).toBe(0);
  });
});

describe('what is laid down', () => {
  it('is composited as the open standard has it', () => {
    // W3C Compositing and Blending Level 1, section 5.1: co = cs x as + cb x (1 - as) over an opaque backdrop; and of
    // the separable blend modes (section 10.1) lighten is max(cb, cs), darken min(cb, cs).
    const grey = pictureOf(40, 20, (x) => (x < 20 ? 0.2 : 0.8), { channels: 1 });
    const here = { shape: 'disc', x: 20, y: 10, r: 60 } as const;
    const at = (mend: Treatment, x: number): number => {
      const copy = cloneRaster(grey);
      const within = { left: 0, top: 0, width: 40, height: 20 };
      layPatch(applyTreatment(mend, canvasOf(pixelsOf(grey)), within), wholeWindow(copy));
      return copy.planes[0][10 * 40 + x];
    };
    const [dark, light] = [51, 204];
    const moved = { ...SHIFT, target: here, dx: 20, dy: 0 };
    expect(at({ ...moved, keeps: 'lighter' }, 5)).toBe(Math.max(dark, light));
    expect(at({ ...moved, keeps: 'darker' }, 5)).toBe(Math.min(dark, light));
    for (const alpha of [0.25, 0.5, 0.8])
      expect(at({ ...moved, keeps: 'lighter', share: alpha }, 5)).toBe(
        Math.round(light * alpha + dark * (1 - alpha)),
      );
    // Two strokes of alpha a and b make 1 - (1 - a)(1 - b) (section 5.1, union of shapes).
    const stroke = { shape: here, edge: 0, amount: 0.5, lays: 'in' } as const;
    const twice = { ...moved, keeps: 'lighter', paint: [stroke, { ...stroke, amount: 0.2 }] } as const;
    expect(at(twice, 5)).toBe(Math.round(light * 0.6 + dark * 0.4));
  });
});

describe('match', () => {
  it('brings the mean of a patch to that of its reference', () => {
    const pixels = pixelsOf(PICTURE);
    const here = { shape: 'disc', x: 40, y: 40, r: 15 } as const;
    const from = labStatistics(here, pixels);
    const to = labStatistics({ shape: 'disc', x: 110, y: 70, r: 15 }, pixels);
    if (!from || !to) throw new Error('both lie on the picture');
    const out = treated(PICTURE, { ...MATCH, target: here, from, to });
    const after = labStatistics(here, pixelsOf(out));
    to.mean.forEach((mean, k) => expect(Math.abs((after?.mean[k] ?? 0) - mean)).toBeLessThan(0.5));
  });
});

describe('shift', () => {
  it('takes the darker of the picture and itself, and takes a bright speck out whose shifted place is darker', () => {
    const out = treated(PICTURE, { ...SHIFT, dx: 12, dy: 0 });
    expect(out.planes[1][50 * WIDTH + 60]).toBeLessThan(PICTURE.planes[1][50 * WIDTH + 60] - 30);
    const luma = (raster: Raster, i: number): number =>
      0.2126 * raster.planes[0][i] + 0.7152 * raster.planes[1][i] + 0.0722 * raster.planes[2][i];
    let wrong = 0;
    for (let i = 0; i < WIDTH * HEIGHT; i++) {
      const there = i % WIDTH < WIDTH - 12 ? luma(PICTURE, i + 12) : Infinity;
      if (Math.abs(luma(out, i) - Math.min(luma(PICTURE, i), there)) > 1e-6) wrong++;
    }
    expect(wrong).toBe(0);
  });
});

describe('drawn detail', () => {
  const stroke = {
    shape: 'stroke',
    points: [
      [20, 55],
      [130, 55],
    ] as [number, number][],
    width: 6,
  } as const;
  const drawn = (more: Partial<DrawMend> = {}, amount = 1): Raster => {
    const raster = cloneRaster(pictureOf(WIDTH, HEIGHT, () => 0.8));
    const mend: DrawMend = {
      ...{ ...BASE, method: 'draw', colour: [0.2, 0.3, 0.4], fade: 0, strength: 0, grain: GRAIN },
      paint: [{ shape: stroke, edge: 0, amount, lays: 'in' }],
      ...more,
    };
    layPatch(applyTreatment(mend, canvasOf(pixelsOf(raster)), WHOLE), wholeWindow(raster));
    return raster;
  };
  const GRAIN = measureGrainModel(pictureOf(WIDTH, HEIGHT, () => 0.5, { grain: 0.03 }));
  const at = ({ planes, stride }: Raster, x: number, y: number): number[] =>
    planes.slice(0, 3).map((plane) => plane[y * stride + x]);

  it('is its colour, as much of it as the stroke lays on, and nothing beside the stroke', () => {
    expect(at(drawn(), 75, 55)).toEqual([0.2, 0.3, 0.4].map((own) => Math.round(255 * own)));
    expect(at(drawn({}, 0.1), 75, 55)).toEqual(
      [0.2, 0.3, 0.4].map((own) => Math.round(204 + 0.1 * (255 * own - 204))),
    );
    expect(at(drawn(), 75, 65)).toEqual([204, 204, 204]);
  });

  it('fades in and out along its course, and not across it', () => {
    const faded = drawn({ fade: 40 });
    const reds = [22, 30, 40, 50, 60, 75].map((x) => at(faded, x, 55)[0]);
    expect([...reds].sort((a, b) => b - a)).toEqual(reds);
    expect(reds[0]).toBeGreaterThan(190);
    expect(reds[5]).toBe(51);
    expect(at(faded, 40, 53)).toEqual(at(faded, 40, 55));
  });

  it('has the grain of the picture on it', () => {
    const grained = drawn({ strength: 1 });
    const values = Array.from({ length: 100 }, (_, k) => at(grained, 25 + k, 55)[1]);
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const spread = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
    expect(Math.abs(mean - 76.5)).toBeLessThan(4);
    // Grain of 0.03 of 255.
    expect(spread).toBeGreaterThan(4);
    expect(spread).toBeLessThan(12);
  });
});
