import fc from 'fast-check';
import type { Fence } from '../fence/fence.ts';
import { KERNEL_SIDE } from '../grain/kernelSide.ts';
import type { Mend } from '../mend/mend.ts';
import type { HealMend } from '../mend/heal/healMend.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import type { Raster } from '../raster/raster.ts';
import { pictureOf } from './pictures.ts';

/** Sides of the picture that the recipes are for. */
export const [WIDTH, HEIGHT] = [101, 77];
export const PICTURE = pictureOf(WIDTH, HEIGHT, (x, y) => 0.5 + 0.3 * Math.sin(x / 7) * Math.cos(y / 9), {
  grain: 0.05,
});
export const WHOLE = { left: 0, top: 0, width: WIDTH, height: HEIGHT };

export const disc = fc.record({
  shape: fc.constant('disc' as const),
  x: fc.integer({ min: 0, max: WIDTH }),
  y: fc.integer({ min: 0, max: HEIGHT }),
  r: fc.integer({ min: 1, max: 9 }),
});
export const source = fc.record({
  dx: fc.integer({ min: -30, max: 30 }),
  dy: fc.integer({ min: -30, max: 30 }),
});
const baseOf = (id: string) => ({
  id: fc.constant(id),
  target: disc,
  margin: fc.integer({ min: 0, max: 3 }),
  edge: fc.integer({ min: 0, max: 3 }),
  share: fc.constantFrom(1, 0.5),
  on: fc.boolean(),
});
export const healOf = (id: string): fc.Arbitrary<HealMend> =>
  fc.record({ ...baseOf(id), method: fc.constant('heal' as const), source });
export const mendOf = (id: string): fc.Arbitrary<Mend> =>
  fc.oneof(
    healOf(id),
    fc.record({
      ...baseOf(id),
      method: fc.constant('clone' as const),
      source: fc.oneof(
        source,
        fc.constant({ dx: 10.4, dy: -7.3, turn: 0.4, scale: 1.2 }),
        fc.constant({ dx: -20, dy: 9, mirror: true }),
      ),
      reads: fc.constantFrom('mended' as const, 'original' as const),
      laying: fc.constantFrom('along' as const, 'fixed' as const),
      buildUp: fc.boolean(),
      only: fc.constantFrom('lighten' as const, 'darken' as const),
    }),
    fc.record({ ...baseOf(id), method: fc.constant('bridge' as const), zone: fc.constant('sky') }),
    fc.record({
      ...baseOf(id),
      method: fc.constant('recover' as const),
      veil: disc.map(({ x, y, r }) => ({
        kind: 'disc' as const,
        ...{ x, y, r, softness: 0.3, stretch: 1.1, angle: 0.5, depth: 0.6 },
        light: [0.9, 0.8, 0.7],
      })),
      source,
    }),
  );
export const NOISE = Array.from({ length: 16 }, (_, band) => 0.004 + 0.001 * band);
const KERNEL = Array.from({ length: KERNEL_SIDE ** 2 }, (_, i) => (i === (KERNEL_SIDE ** 2 - 1) / 2 ? 1 : 0));
const painted = fc.array(
  fc.record({
    shape: disc,
    edge: fc.integer({ min: 0, max: 3 }),
    amount: fc.constantFrom(0.3, 1),
    lays: fc.constantFrom('in' as const, 'out' as const),
  }),
  { maxLength: 3 },
);
const treatmentOf = (id: string): fc.Arbitrary<Mend> =>
  fc
    .tuple(
      fc.record({ ...baseOf(id), paint: painted }),
      fc.constantFrom<Treatment>(
        ...([
          { method: 'sift', radius: 2, threshold: 3, polarity: 'both', detail: 6, noise: NOISE },
          { method: 'regrain', strength: 1.5, grain: { noise: NOISE, kernel: KERNEL, mix: [[1]] } },
          { method: 'soften', sigma: 1.2, along: 0.6 },
          { method: 'shift', dx: 3, dy: -2, keeps: 'lighter' },
          {
            method: 'match',
            from: { mean: [50, 0, 0], spread: [4, 1, 1] },
            to: { mean: [55, 2, 0], spread: [6, 1, 1] },
          },
          {
            ...{ method: 'tone', exposure: 0.3, range: 'midtones', contrast: 0.5, contrastSize: 2 },
            ...{ hue: 10, saturation: 1.2, lightness: 2 },
          },
        ] as unknown as Treatment[]),
      ),
      fc.boolean(),
    )
    .map(([base, method, isZoned]) => ({ ...method, ...base, ...(isZoned ? { zone: 'sky' } : {}) }));
export const IDS = ['a', 'b', 'c', 'd', 'e', 'f'];
export const fencesOf: fc.Arbitrary<Fence[]> = fc
  .record({
    guard: disc,
    guardOn: fc.boolean(),
    zone: disc,
    edge: fc.integer({ min: 0, max: 4 }),
  })
  .map(({ guard, guardOn, zone, edge }) => [
    { id: 'roof', kind: 'guard', name: 'roof', area: guard, edge, on: guardOn },
    { id: 'sky', kind: 'zone', name: 'sky', area: { ...zone, r: zone.r + 25 }, edge, on: true },
  ]);

/** What of a recipe changes pixels. */
export interface Sheet {
  readonly mends: readonly Mend[];
  readonly fences: readonly Fence[];
}
/** Recipes of mends of all methods over and beside each other, with fences. */
export const recipeOf: fc.Arbitrary<Sheet> = fc.record({
  mends: fc
    .shuffledSubarray(IDS, { minLength: 0 })
    .chain(
      (ids) => fc.tuple(...ids.map((id) => fc.oneof(mendOf(id), treatmentOf(id)))) as fc.Arbitrary<Mend[]>,
    ),
  fences: fencesOf,
});

/** Values in which two pictures differ. */
export function differences(one: Raster, other: Raster): number {
  let count = 0;
  one.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) if (plane[i] !== other.planes[c][i]) count++;
  });
  return count;
}
