import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Raster } from '../../raster/raster.ts';
import { cloneRaster } from '../../raster/raster.ts';
import { emptyRecipe } from '../../recipe/recipe.ts';
import { renderRecipe } from '../../recipe/render.ts';
import type { Point } from '../../target/target.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { Mend } from '../mend.ts';
import type { MendBase } from '../mendBase.ts';
import type { FaultToMend } from '../run/faultToMend.ts';
import { takenPlaces } from '../run/faultPlaces.ts';
import { mendFault } from '../run/mendFault.ts';
import { proposeMends } from '../run/runMends.ts';
import { occlusionMask } from './occlusionMask.ts';

const [WIDTH, HEIGHT] = [200, 120];
const ONE: readonly Point[] = [
  [20, 30],
  [180, 90],
];
const OTHER: readonly Point[] = [
  [40, 100],
  [160, 20],
];
const lineOf = (id: string, path: readonly Point[]): FaultToMend => ({
  ...{ id, x: 100, y: 60, r: 1.5, softness: 0.4, polarity: 'bright', kind: 'scratch', path },
});
/** Distance from a straight course. */
function distanceTo([from, to]: readonly Point[], x: number, y: number): number {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const way = Math.max(0, Math.min(1, ((x - from[0]) * dx + (y - from[1]) * dy) / (dx * dx + dy * dy)));
  return Math.hypot(x - from[0] - way * dx, y - from[1] - way * dy);
}
const FAULTS = [lineOf('one', ONE), lineOf('other', OTHER)];

/** A ground with soft stripes, and scratches on it that let light through in their shoulders. */
const scratched = (paths: readonly (readonly Point[])[]): Raster =>
  pictureOf(
    WIDTH,
    HEIGHT,
    (x, y) => {
      const ground = 0.4 + 0.06 * Math.sin(x / 5) * Math.cos(y / 7);
      return paths.reduce((seen, path) => {
        const share = 0.9 * Math.exp(-((distanceTo(path, x + 0.5, y + 0.5) / 1.2) ** 2) / 2);
        return seen + share * (0.85 - seen);
      }, ground);
    },
    { grain: 0.004 },
  );

const CLEAN = scratched([]);

/** Root mean square error where the lines cross, in codes. */
function errorAtCrossing(mends: readonly Mend[]): number {
  const raster = cloneRaster(scratched([ONE, OTHER]));
  renderRecipe(raster, { ...emptyRecipe(raster), mends: [...mends] });
  let [sum, count] = [0, 0];
  for (let y = 50; y < 70; y++)
    for (let x = 85; x < 115; x++) {
      if (Math.min(...[ONE, OTHER].map((path) => distanceTo(path, x + 0.5, y + 0.5))) > 4) continue;
      sum += (raster.planes[0][y * raster.stride + x] - CLEAN.planes[0][y * CLEAN.stride + x]) ** 2;
      count++;
    }
  return Math.sqrt(sum / count);
}

/** The same mends told nothing of what crosses them. */
const toldNothing = (mends: readonly Mend[]): Mend[] =>
  mends.map((mend) =>
    mend.method === 'recover' || mend.method === 'bridge' ? { ...mend, avoid: undefined } : mend,
  );

describe('lines that cross', () => {
  const expectTold = (mends: readonly Mend[]): void => {
    const error = errorAtCrossing(mends);
    expect(error).toBeLessThan(0.15 * errorAtCrossing([]));
    expect(error).toBeLessThan(0.93 * errorAtCrossing(toldNothing(mends)));
  };

  it('are closed each from what the other does not hide', () => {
    expectTold(proposeMends(FAULTS, pixelsOf(scratched([ONE, OTHER]))));
  });

  it('are so too when the second is mended after the first', () => {
    const pixels = pixelsOf(scratched([ONE, OTHER]));
    const [one, other] = FAULTS;
    const first = mendFault(one, { avoid: takenPlaces(FAULTS), used: [] }, pixels);
    const around = { avoid: takenPlaces([other]), mended: takenPlaces([one]), used: [] };
    const second = mendFault(other, around, pixels);
    expectTold([first.mend, second.mend]);
  });
});

describe('what is hidden around a mend', () => {
  const base: MendBase = {
    ...{ id: 'm', margin: 2, edge: 1, share: 1, on: true, fault: 'one' },
    target: { shape: 'stroke', points: ONE, width: 3 },
  };
  const whole = { left: 0, top: 0, width: WIDTH, height: HEIGHT };
  const hiddenBy = (faults: readonly FaultToMend[]) => occlusionMask(base, takenPlaces(faults), whole, WIDTH);

  it('is what crosses it, not what it mends', () => {
    const hidden = hiddenBy(FAULTS);
    const count = hidden?.runs.reduce((sum, run, k) => sum + (k % 2 === 1 ? run : 0), 0) ?? 0;
    // A band as long as the other line and as wide as its places.
    expect(count).toBeGreaterThan(144 * 3);
    expect(count).toBeLessThan(144 * 12);
    expect(hiddenBy([FAULTS[0]])).toBeNull();
  });

  it('is nothing where the same line was found once more, or light comes through', () => {
    expect(hiddenBy([{ ...lineOf('again', ONE), x: 101 }])).toBeNull();
    const speck = { ...{ id: 's', x: 60, y: 45, r: 20, softness: 0.8 }, kind: 'speck' } as const;
    expect(hiddenBy([speck])).toBeNull();
    const outline: Point[] = [
      [10, 10],
      [190, 10],
      [190, 110],
      [10, 110],
    ];
    expect(hiddenBy([{ ...speck, kind: 'stain', outline }])).toBeNull();
  });
});
