import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fault } from '../../fault/fault.ts';
import { mulberry } from '../../random/mulberry.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Raster } from '../../raster/raster.ts';
import { createRaster } from '../../raster/raster.ts';
import { growForest } from '../classify/forest.ts';
import { joinWitness } from './joinWitness.ts';
import { LINE_WITNESS_TRAITS, lineWitnessTraits } from './lineWitness.ts';
import { SPECK_WITNESS_TRAITS, jointSpecks } from './speckWitness.ts';
import type { Witness } from './witness.ts';
import { WITNESS_MAPS } from './witness.ts';
import { witnessInput } from './witnessInput.ts';
import { emptyMaps, lookAtPicture, mapAt } from './witnessMaps.ts';
import { witnessedPlace, witnessedSpecks } from './witnessedSpecks.ts';

/** A grey picture with a little noise and dark discs. */
function speckled(
  width: number,
  height: number,
  discs: readonly { x: number; y: number; r: number }[],
): Raster {
  const raster = createRaster(width, height, 3, 8);
  const uniform = mulberry(3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const isDark = discs.some((disc) => Math.hypot(x + 0.5 - disc.x, y + 0.5 - disc.y) < disc.r);
      for (const plane of raster.planes)
        plane[y * width + x] = (isDark ? 90 : 150) + Math.floor(5 * uniform());
    }
  return raster;
}

/** Steps to the places of a square of seven by seven. */
const AROUND = Array.from({ length: 49 }, (_, k) => [(k % 7) - 3, Math.floor(k / 7) - 3] as const);

/** A net that knows one thing: where the middle of what is dark lies, that it has a radius of 6, and which pixels are dark. */
const seesDark: Witness = (planes, width, height) => {
  const [half, tall] = [width / 2, height / 2];
  const maps = new Float32Array(WITNESS_MAPS.length * half * tall).fill(-8);
  const isDark = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < half && y < tall && planes[2 * y * width + 2 * x] < -0.1;
  for (let y = 0; y < tall; y++)
    for (let x = 0; x < half; x++) {
      if (!isDark(x, y)) continue;
      const i = y * half + x;
      maps[i] = AROUND.filter(([dx, dy]) => isDark(x + dx, y + dy)).length / 4 - 2;
      maps[2 * half * tall + i] = Math.log(6);
      maps[3 * half * tall + i] = 4;
    }
  return Promise.resolve(maps);
};

/** Two specks of 5 pixels. */
const TWO = [
  { x: 40, y: 40, r: 5 },
  { x: 120, y: 60, r: 5 },
];

const found = (x: number, y: number, r: number, confidence: number): Fault => ({
  ...{ kind: 'speck', polarity: 'dark', x, y, r, confidence },
  ...{ strength: 0.2, softness: 0.4, tone: 0.6 },
});

describe('what a net looks at', () => {
  it('is a window grown to steps of sixteen, colours from -1 to 1 and luma against its surroundings', () => {
    const raster = speckled(50, 37, [{ x: 20, y: 20, r: 5 }]);
    const { planes, width, height } = witnessInput(raster);
    expect([width, height]).toEqual([64, 48]);
    const size = width * height;
    expect(planes[0]).toBeCloseTo((2 * raster.planes[0][0]) / 255 - 1, 6);
    // Dark against its surroundings in the middle of the disc, about as they are elsewhere.
    expect(planes[3 * size + 20 * width + 20]).toBeLessThan(-1.5);
    expect(Math.abs(planes[3 * size + 4 * width + 45])).toBeLessThan(1.5);
    // Beyond the border its last pixels go on.
    expect(planes[10 * width + 63]).toBe(planes[10 * width + 49]);
  });

  it('is the same for 8 and 16 bits and for grey', () => {
    const raster = speckled(32, 32, [{ x: 16, y: 16, r: 4 }]);
    const deep = createRaster(32, 32, 1, 16);
    const grey = createRaster(32, 32, 1, 8);
    for (let i = 0; i < 32 * 32; i++) {
      grey.planes[0][i] = raster.planes[0][i];
      deep.planes[0][i] = raster.planes[0][i] * 257;
    }
    const one = witnessInput(grey).planes;
    expect([...witnessInput(deep).planes].every((value, i) => Math.abs(value - one[i]) < 1e-4)).toBe(true);
  });
});

describe('the maps of a picture', () => {
  it('are the same however it is cut into windows', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1030, max: 1300 }),
        fc.integer({ min: 20, max: 60 }),
        async (width, height) => {
          const discs = [1010, 1024, 1029].map((x, k) => ({ x, y: 8 + 4 * k, r: 3 }));
          const raster = speckled(width, height, discs);
          const cut = await lookAtPicture(pixelsOf(raster), seesDark);
          const { planes, width: padded, height: tall } = witnessInput(raster);
          const whole = await seesDark(planes, padded, tall);
          for (let y = 0; y < cut.height; y++)
            for (let x = 0; x < cut.width; x++)
              if (
                Math.abs(
                  mapAt(cut, 'darkDisc', x, y) - whole[3 * (padded / 2) * (tall / 2) + y * (padded / 2) + x],
                ) > 0.05
              )
                return false;
          return true;
        },
      ),
      { numRuns: 6 },
    );
  });
});

describe('specks that a net sees', () => {
  it('lie where it sees a centre, as large as it says', async () => {
    const raster = speckled(120, 90, [{ x: 40, y: 30, r: 5 }]);
    const maps = await lookAtPicture(pixelsOf(raster), seesDark);
    const specks = witnessedSpecks(maps, 'dark');
    expect(specks.length).toBeGreaterThan(0);
    for (const { x, y, r } of specks) {
      expect(Math.hypot(x - 40, y - 30)).toBeLessThan(6);
      expect(r).toBeCloseTo(6, 0);
    }
    expect(witnessedSpecks(maps, 'bright')).toEqual([]);
    expect(witnessedPlace(maps, { x: 40, y: 30, r: 5, polarity: 'dark' }).inside).toBeGreaterThan(2);
    expect(witnessedPlace(maps, { x: 90, y: 60, r: 5, polarity: 'dark' }).inside).toBeCloseTo(-8, 0);
  });

  it('are those of the finder where both see one, and more beside them', async () => {
    const pixels = pixelsOf(speckled(160, 100, TWO));
    const joint = jointSpecks(
      [found(41, 40, 5, 0.4)],
      await lookAtPicture(pixels, seesDark),
      pixels,
      'frame',
    );
    const near = (x: number, y: number) =>
      joint.filter(({ fault }) => Math.hypot(fault.x - x, fault.y - y) < 7);
    expect(near(40, 40)).toHaveLength(1);
    expect(near(40, 40)[0].fault.confidence).toBe(0.4);
    expect(near(120, 60).length).toBeGreaterThan(0);
    expect(near(120, 60)[0].fault.strength).toBeGreaterThan(0.1);
    for (const { traits } of joint) {
      expect(traits).toHaveLength(SPECK_WITNESS_TRAITS.length);
      expect(traits.every(Number.isFinite)).toBe(true);
    }
  });

  it('become as sure as a forest makes them of both, and what is no speck stays', async () => {
    const pixels = pixelsOf(speckled(160, 100, TWO));
    const maps = await lookAtPicture(pixels, seesDark);
    // One tree that asks for the net's mask, and one leaf for all lines.
    const inside = SPECK_WITNESS_TRAITS.indexOf('inside');
    const asks = (trees: number[][]) =>
      growForest({ traits: [], share: 0.1, base: 0, trees, calibration: { slope: 1, offset: 0 } });
    const forests = { specks: asks([[inside, -4, 2, -1, -3, 0, -1, 3, 0]]), lines: asks([[-1, 2, 0]]) };
    const line: Fault = {
      ...found(80, 20, 1, 0.3),
      kind: 'scratch',
      path: [
        [60, 20],
        [100, 20],
      ],
    };
    const area: Fault = {
      ...found(20, 80, 8, 0.6),
      kind: 'loss',
      outline: [
        [15, 75],
        [25, 75],
        [20, 85],
      ],
    };
    const joined = joinWitness(
      [found(40, 40, 5, 0.1), found(90, 20, 4, 0.9), line, area],
      maps,
      pixels,
      'print',
      forests,
    );
    const at = (x: number, y: number): number =>
      joined.find((fault) => Math.hypot(fault.x - x, fault.y - y) < 7)?.confidence ?? 0;
    expect(at(40, 40)).toBeGreaterThan(0.9);
    expect(at(120, 60)).toBeGreaterThan(0.9);
    expect(at(90, 20)).toBeLessThan(0.1);
    expect(joined.find(({ kind }) => kind === 'scratch')?.confidence).toBeCloseTo(0.88, 2);
    expect(joined.find(({ kind }) => kind === 'loss')?.confidence).toBe(0.6);
  });
});

describe('what a net knows of a line', () => {
  it('is how likely its pixels lie on one, and those beside it', () => {
    const maps = emptyMaps({ width: 200, height: 100 });
    maps.planes.line.fill(128 - 16 * 5);
    for (let x = 20; x < 80; x++) maps.planes.line[25 * maps.width + x] = 128 + 16 * 3;
    const line = (y: number): Fault => ({
      ...found(100, y, 1, 0.5),
      path: [
        [45, y],
        [155, y],
      ],
    });
    const of = (y: number, name: (typeof LINE_WITNESS_TRAITS)[number]): number =>
      lineWitnessTraits(line(y), maps, 'print')[LINE_WITNESS_TRAITS.indexOf(name)];
    expect(of(51, 'onLine')).toBeCloseTo(3, 1);
    expect(of(51, 'shareOn')).toBe(1);
    expect(of(51, 'beside')).toBeCloseTo(-5, 1);
    expect(of(80, 'onLine')).toBeCloseTo(-5, 1);
    expect(of(51, 'straightness')).toBeCloseTo(1, 3);
  });
});
