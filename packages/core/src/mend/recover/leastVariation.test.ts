import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mulberry } from '../../random/mulberry.ts';
import type { LightPatch } from './lightPatch.ts';
import { createVariation } from './leastVariation.ts';
import { penumbra } from '../../veil/penumbra.ts';
import { borderOf } from '../../veil/veil.ts';
import { AT } from './veilParameters.ts';

const [WIDTH, HEIGHT] = [29, 26];

function patchOf(seed: number, channels: number): LightPatch {
  const uniform = mulberry(seed);
  return {
    ...{ left: 200, top: 90, scale: 1, width: WIDTH, height: HEIGHT },
    planes: Array.from({ length: channels }, () =>
      Float32Array.from({ length: WIDTH * HEIGHT }, () => 0.2 + 0.4 * uniform()),
    ),
    known: Uint8Array.from({ length: WIDTH * HEIGHT }, () => (uniform() < 0.9 ? 1 : 0)),
  };
}

/** A veil anywhere on the patch, also over its border. */
const points = (channels: number): fc.Arbitrary<Float64Array> =>
  fc
    .tuple(
      ...[fc.double({ min: 202, max: 227, noNaN: true }), fc.double({ min: 92, max: 114, noNaN: true })],
      ...[fc.double({ min: 3, max: 10, noNaN: true }), fc.double({ min: 0.1, max: 0.9, noNaN: true })],
      ...[fc.double({ min: -0.2, max: 0.2, noNaN: true }), fc.double({ min: -0.2, max: 0.2, noNaN: true })],
      fc.double({ min: 0.05, max: 0.9, noNaN: true }),
      ...Array.from({ length: channels }, () => fc.double({ min: 0.3, max: 1.2, noNaN: true })),
    )
    .map(([x, y, r, ...rest]) => Float64Array.from([x, y, Math.log(r), ...rest]));

/** A prior so wide that it weighs nothing. */
const openPrior = (expected: Float64Array) => ({ expected, spread: expected.map(() => 1e9) });

/** The same cost once more, as the method's own words have it, up to the two measures of the patch: in log light. */
function shadowCost({ planes: [light], known }: LightPatch, point: Float64Array): number {
  const [x, y, logRadius, softness, shearA, shearB, depth] = point;
  const r = Math.exp(logRadius);
  const through = Array.from(light, (_, i) => {
    const [dx, dy] = [200.5 + (i % WIDTH) - x, 90.5 + Math.floor(i / WIDTH) - y];
    const away = Math.hypot((1 + shearA) * dx + shearB * dy, shearB * dx + (1 - shearA) * dy);
    return Math.log(1 - depth * penumbra((1 - away / r) / borderOf(softness, r)));
  });
  const seen = light.map((value) => Math.log(value + 0.004));
  const inRow = Array.from(seen, (value, i) => (i % WIDTH === 0 ? -1 : Math.abs(value - seen[i - 1])))
    .filter((step) => step >= 0)
    .sort((a, b) => a - b);
  const median = inRow[inRow.length >> 1];
  const rounding = 0.25 * median + 2e-5;
  const length = (step: number): number => Math.hypot(step, rounding);
  let cost = 0;
  for (let i = 0; i < seen.length; i++)
    for (const along of [1, WIDTH]) {
      const j = i + along;
      if ((along === 1 && j % WIDTH === 0) || j >= seen.length || !known[i] || !known[j]) continue;
      const before = seen[j] - seen[i];
      cost += length(before - (through[j] - through[i])) - length(before);
    }
  return (0.12 / (median + 1e-3)) * cost;
}

describe('the variation that is left when a veil is undone', () => {
  it('is what its words say, in log light for a shadow', () => {
    fc.assert(
      fc.property(fc.nat(), points(0), (seed, point) => {
        const patch = patchOf(seed, 1);
        const { cost } = createVariation(patch, openPrior(point)).describe(point, [AT.depth]);
        expect(cost).toBeCloseTo(shadowCost(patch, point), 2);
      }),
    );
  });

  it.each([
    { name: 'a shadow', channels: 1, lights: 0, moved: [0, 1, 2, 3, 4, 5, 6] },
    // Its second cue weighs the depth against the texture, and is no part of the way down.
    { name: 'a lit veil', channels: 3, lights: 3, moved: [7, 8, 9] },
  ])('goes down the way that is integral: $name', ({ channels, lights, moved }) => {
    const free = Array.from({ length: 7 + lights }, (_, k) => k);
    fc.assert(
      fc.property(fc.nat(), points(lights), fc.constantFrom(...moved), (seed, start, parameter) => {
        const { describe: at } = createVariation(patchOf(seed, channels), openPrior(start));
        const along = (by: number): Float64Array => start.map((v, k) => (k === parameter ? v + by : v));
        const [steps, length] = [24, parameter <= AT.y ? 0.1 : 0.02];
        let integral = 0;
        for (let k = 0; k < steps; k++)
          integral -= (at(along(((k + 0.5) * length) / steps), free).right[parameter] * length) / steps;
        const change = at(along(length), free).cost - at(start, free).cost;
        expect(Math.abs(integral - change)).toBeLessThan(0.01 + 0.02 * Math.abs(change));
      }),
    );
  });

  it('is 0 where there is no veil', () => {
    fc.assert(
      fc.property(fc.nat(), points(0), (seed, point) => {
        const none = point.map((value, k) => (k === AT.depth ? 0 : value));
        const { cost } = createVariation(patchOf(seed, 1), openPrior(point)).describe(none, [AT.depth]);
        expect(cost).toBeCloseTo(0, 12);
      }),
    );
  });

  it('is 0 where the veil lies beside the patch, on any side and however far', () => {
    const beside = fc.constantFrom([-1, 0], [1, 0], [0, -1], [0, 1], [1, 1]);
    fc.assert(
      fc.property(
        fc.nat(),
        points(0),
        beside,
        fc.double({ min: 45, max: 400, noNaN: true }),
        (seed, point, [wayX, wayY], away) => {
          const outside = point.slice();
          outside[AT.x] = 214 + wayX * away;
          outside[AT.y] = 103 + wayY * away;
          const free = Array.from({ length: 7 }, (_, k) => k);
          const { cost, right } = createVariation(patchOf(seed, 1), openPrior(outside)).describe(
            outside,
            free,
          );
          expect(cost).toBeCloseTo(0, 12);
          expect([...right].every((value) => Math.abs(value) < 1e-9)).toBe(true);
        },
      ),
    );
  });
});
