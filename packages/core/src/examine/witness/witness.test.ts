import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fault } from '../../fault/fault.ts';
import { mulberry } from '../../random/mulberry.ts';
import type { FloatPlane } from '../../raster/float.ts';
import { lumaPlane } from '../../raster/float.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Raster } from '../../raster/raster.ts';
import { createRaster } from '../../raster/raster.ts';
import { growForest } from '../classify/forest.ts';
import type { PictureNature } from '../nature/nature.ts';
import { joinWitness } from './joinWitness.ts';
import { LINE_WITNESS_TRAITS, jointLines } from './jointLines.ts';
import { SPECK_WITNESS_TRAITS, jointSpecks } from './jointSpecks.ts';
import { AROUND, thinMask } from './thinMask.ts';
import type { Witness } from './witness.ts';
import { WITNESS_MAPS } from './witness.ts';
import { witnessInput } from './witnessInput.ts';
import { witnessedLines } from './witnessedLines.ts';
import type { WitnessedPicture } from './witnessedPicture.ts';
import type { WitnessMaps } from './witnessMaps.ts';
import { emptyMaps, lookAtPicture, mapAt, toByte } from './witnessMaps.ts';
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
const SQUARE = Array.from({ length: 49 }, (_, k) => [(k % 7) - 3, Math.floor(k / 7) - 3] as const);

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
      maps[i] = SQUARE.filter(([dx, dy]) => isDark(x + dx, y + dy)).length / 4 - 2;
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
    const raster = speckled(160, 100, TWO);
    const joint = jointSpecks([found(41, 40, 5, 0.4)], {
      ...{ nature: 'frame', raster, luma: lumaPlane(raster) },
      maps: await lookAtPicture(pixelsOf(raster), seesDark),
    });
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

/** Maps of 200 x 100 pixels whose net sees lines on some of their pixels, and luma that is dark there. */
function linedMaps(isLine: (x: number, y: number) => boolean): WitnessMaps {
  const maps = emptyMaps({ width: 200, height: 100 });
  for (let y = 0; y < maps.height; y++)
    for (let x = 0; x < maps.width; x++) maps.planes.line[y * maps.width + x] = toByte(isLine(x, y) ? 3 : -5);
  return maps;
}
const luma: FloatPlane = { width: 200, height: 100, data: new Float32Array(20_000).fill(0.5) };
for (let x = 40; x < 160; x++) luma.data[50 * 200 + x] = luma.data[51 * 200 + x] = 0.2;
const lined = (maps: WitnessMaps, nature: PictureNature): WitnessedPicture => ({
  ...{ nature, maps, luma },
  raster: createRaster(200, 100, 1, 8),
});

describe('lines that a net sees', () => {
  const isTwo = (x: number, y: number): boolean => (x > 20 && x < 80 && y === 25) || x === 50;

  it('run through crossings and over gaps', () => {
    const maps = linedMaps((x, y) => isTwo(x, y) && !(x > 60 && x < 64));
    const lines = witnessedLines(maps, luma);
    expect(lines).toHaveLength(2);
    const lying = lines.find(({ path = [] }) => path.every(([, y]) => Math.abs(y - 51) < 3));
    const xs = lying?.path?.map(([x]) => x) ?? [];
    expect(Math.min(...xs)).toBeLessThan(46);
    expect(Math.max(...xs)).toBeGreaterThan(155);
    expect(lying).toMatchObject({ polarity: 'dark', kind: 'scratch' });
    expect(lying?.strength).toBeCloseTo(0.3, 1);
  });

  it('are those of the finder too where both see one, and named as it named them', () => {
    const known: Fault = {
      ...found(100, 51, 1, 0.6),
      kind: 'crease',
      path: [
        [40, 51],
        [160, 51],
      ],
    };
    const joint = jointLines([known], lined(linedMaps(isTwo), 'print'));
    expect(joint).toHaveLength(3);
    const odds = joint.map(({ traits }) => traits[LINE_WITNESS_TRAITS.indexOf('finder')]);
    expect(odds[0]).toBeCloseTo(Math.log(0.6 / 0.4), 5);
    expect(joint.filter(({ fault }) => fault.kind === 'crease')).toHaveLength(2);
    expect(Math.min(...odds)).toBeLessThan(-4);
  });

  it('are fibres on a frame, which has no emulsion to scratch', () => {
    expect(jointLines([], lined(linedMaps(isTwo), 'frame')).map(({ fault }) => fault.kind)).toEqual([
      'fibre',
      'fibre',
    ]);
  });
});

describe('a mask that is thinned', () => {
  /** How many parts hang together, corners counting. */
  function partsOf(mask: Uint8Array, width: number): number {
    const left = mask.slice();
    let parts = 0;
    for (let start = 0; start < left.length; start++) {
      if (left[start] === 0) continue;
      parts++;
      const open = [start];
      left[start] = 0;
      for (let i = open.pop(); i !== undefined; i = open.pop())
        for (const [dx, dy] of AROUND) {
          const n = i + dy * width + dx;
          if (left[n] !== 1) continue;
          left[n] = 0;
          open.push(n);
        }
    }
    return parts;
  }

  it('hangs together as it did, lies in what it was, and is thin', () => {
    const disc = fc.record({ x: fc.nat(30), y: fc.nat(20), r: fc.integer({ min: 2, max: 6 }) });
    fc.assert(
      fc.property(fc.array(disc, { minLength: 1, maxLength: 6 }), (discs) => {
        const [width, height] = [44, 34];
        const whole = Uint8Array.from({ length: width * height }, (_, i) => {
          const [x, y] = [(i % width) - 7, Math.floor(i / width) - 7];
          return discs.some((one) => Math.hypot(x - one.x, y - one.y) < one.r) ? 1 : 0;
        });
        const mask = whole.slice();
        const left = thinMask(mask, width, height);
        // Where lines cross a square of four may be left, but never a pixel whose neighbours are all set.
        const isThin = [...left].every((i) => AROUND.some(([dx, dy]) => mask[i + dy * width + dx] === 0));
        const again = thinMask(mask.slice(), width, height);
        return (
          isThin &&
          again.length === left.length &&
          left.length === mask.filter((value) => value === 1).length &&
          left.every((i) => whole[i] === 1) &&
          partsOf(mask, width) === partsOf(whole, width)
        );
      }),
    );
  });
});

describe('what a net knows of a line', () => {
  it('is how likely its pixels lie on one, and those beside it', () => {
    const maps = linedMaps((x, y) => y === 25 && x >= 20 && x < 80);
    const line = (y: number): Fault => ({
      ...found(100, y, 1, 0.5),
      path: [
        [45, y],
        [155, y],
      ],
    });
    const of = (y: number, name: (typeof LINE_WITNESS_TRAITS)[number]): number =>
      jointLines([line(y)], lined(maps, 'print'))[0].traits[LINE_WITNESS_TRAITS.indexOf(name)];
    expect(of(51, 'onLine')).toBeCloseTo(3, 1);
    expect(of(51, 'shareOn')).toBe(1);
    expect(of(51, 'beside')).toBeCloseTo(-5, 1);
    expect(of(80, 'onLine')).toBeCloseTo(-5, 1);
    expect(of(51, 'straightness')).toBeCloseTo(1, 3);
  });
});
