import type { Mend } from '@fennip/core/mend';
import type { Recipe } from '@fennip/core/recipe';
import { RecipeError } from '@fennip/core/errors';
import { emptyRecipe } from '@fennip/core/recipe';
import { describe, expect, it } from 'vitest';
import { EditRequestSchema } from '../index.ts';
import { checkRecipe, checkerOf } from './index.ts';

const MEND: Mend = {
  id: 'm1',
  method: 'heal',
  target: { shape: 'disc', x: 40, y: 30, r: 5 },
  margin: 2,
  edge: 1.5,
  share: 1,
  on: true,
  source: { dx: 20, dy: 0 },
};
/** A crease with the light on both of its sides. */
const CREASE = {
  ...{ id: 'm3', method: 'bridge', margin: 0.5, edge: 0.5, share: 1, on: true, relief: [0, -0.1, 0, 0.1, 0] },
  target: {
    shape: 'stroke',
    points: [
      [10, 20],
      [60, 24],
    ],
    width: 3,
  },
};
const STAIN = {
  ...{ ...MEND, id: 'm4', method: 'recover', source: null },
  target: {
    shape: 'outline',
    points: [
      [10, 10],
      [40, 12],
      [30, 40],
    ],
  },
  veil: { kind: 'stain', depths: [-1, 0, 4], density: [[0, 0.2, 0.3]] },
};
const recipe = (...mends: unknown[]): unknown => ({ ...emptyRecipe({ width: 100, height: 80 }), mends });

/** The place that a refusal names. */
function placeOf(value: unknown): string {
  try {
    checkRecipe(value);
    return 'taken';
  } catch (error) {
    if (!(error instanceof RecipeError)) throw error;
    return `${error.place}: ${error.reason}`;
  }
}

const CURVE = {
  ...{ id: 'c', on: true, share: 1, method: 'curve' },
  points: [
    [0, 0.1],
    [1, 0.9],
  ],
};
const LEVELS = {
  ...{ id: 'l', on: true, share: 0.5, method: 'levels' },
  tones: [{ black: 0.1, white: 0.8, gamma: 1.2 }],
};
const finished = (...finish: unknown[]): unknown => ({ ...(recipe() as Recipe), finish });

describe('a finish', () => {
  it('that is right is taken as it is', () => {
    const value = finished(LEVELS, CURVE, {
      ...{ id: 'w', on: false, share: 1, method: 'colour', temperature: 0.2, tint: -0.1, saturation: 0 },
    });
    expect(checkRecipe(value)).toEqual(value);
  });

  it.each([
    [
      'white that lies below black',
      { ...LEVELS, tones: [{ black: 0.5, white: 0.4, gamma: 1 }] },
      /^finish\/0\/tones\/0\/white/,
    ],
    [
      'levels for two channels',
      { ...LEVELS, tones: [LEVELS.tones[0], LEVELS.tones[0]] },
      /^finish\/0\/tones/,
    ],
    [
      'a curve that goes back',
      {
        ...CURVE,
        points: [
          [0.5, 0],
          [0.4, 1],
        ],
      },
      /^finish\/0\/points\/1/,
    ],
    ['a zone that is not there', { ...CURVE, zone: 'sky' }, /^finish\/0\/zone: no zone/],
    ['an unknown method', { ...CURVE, method: 'magic' }, /^finish\/0\/method/],
  ])('is refused with %s', (_, step, place) => {
    expect(placeOf(finished(step))).toMatch(place);
  });

  it('is refused where a step is there twice', () => {
    expect(placeOf(finished(CURVE, CURVE))).toMatch(/^finish\/1\/id: c is there twice/);
  });
});

describe('a recipe', () => {
  it('that is right is taken as it is', () => {
    const value = recipe(MEND, { ...MEND, id: 'm2', source: null, fault: 'f1' }, CREASE, STAIN);
    expect(checkRecipe(value)).toEqual(value);
  });

  it.each([
    ['is no recipe', 'words', /^document/],
    ['has another format', { ...(recipe() as Recipe), format: 'other' }, /^format: must be "fennip-recipe"/],
    ['is of a later version', { ...(recipe() as Recipe), version: 2 }, /^version/],
    ['has an unknown method', recipe({ ...MEND, method: 'paint' }), /^mends\/0\/method/],
    [
      'has an unknown field',
      recipe({ ...MEND, colour: 'red' }),
      /^mends\/0: has a field that is not known: colour/,
    ],
    [
      'has a radius of 0',
      recipe({ ...MEND, target: { shape: 'disc', x: 1, y: 1, r: 0 } }),
      /^mends\/0\/target\/r/,
    ],
    ['has no number where one must be', recipe({ ...MEND, margin: null }), /^mends\/0\/margin/],
    ['has a share above 1', recipe(MEND, { ...MEND, id: 'b', share: 1.5 }), /^mends\/1\/share/],
    ['names a mend twice', recipe(MEND, MEND), /^mends\/1\/id: m1 is there twice/],
    [
      'has a mend outside the picture',
      recipe({ ...MEND, target: { shape: 'disc', x: 300, y: 30, r: 5 } }),
      /^mends\/0\/target: lies outside/,
    ],
    [
      'has a line with fewer widths than points',
      recipe({
        ...MEND,
        method: 'recover',
        source: null,
        veil: {
          kind: 'line',
          points: [
            [30, 30],
            [50, 30],
          ],
          widths: [2, 2, 2],
          softness: 0.2,
          depth: 0.9,
          light: [0.8, 0.8, 0.8],
          correction: [],
          doubt: { amount: 0.01, beside: 0.02 },
        },
      }),
      /^mends\/0\/veil\/widths: has 3 values for 2 points/,
    ],
    [
      'has a relief without a middle',
      recipe({ ...CREASE, relief: [0, 0.1, 0.1, 0] }),
      /^mends\/0\/relief: must have an odd number/,
    ],
    [
      'has a relief along no course',
      recipe({ ...CREASE, target: MEND.target }),
      /^mends\/0\/target: must be a stroke/,
    ],
    [
      'has a stain whose depths do not rise',
      recipe({ ...STAIN, veil: { ...STAIN.veil, depths: [0, 0, 4] } }),
      /^mends\/0\/veil\/depths: must rise/,
    ],
    [
      'has a stain with a density too few',
      recipe({ ...STAIN, veil: { ...STAIN.veil, density: [[0, 0.2]] } }),
      /^mends\/0\/veil\/density\/0: must have 3 values/,
    ],
    [
      'has a source off the picture',
      recipe({ ...MEND, source: { dx: -90, dy: 0 } }),
      /^mends\/0\/source: lies outside/,
    ],
    [
      'has an outline that encloses nothing',
      recipe({
        ...MEND,
        target: {
          shape: 'outline',
          points: [
            [1, 1],
            [5, 5],
            [9, 9],
          ],
        },
      }),
      /^mends\/0\/target\/points/,
    ],
    [
      'has a mask whose runs do not fill it',
      recipe({ ...MEND, target: { shape: 'mask', left: 2, top: 2, width: 3, height: 3, runs: [1, 2] } }),
      /^mends\/0\/target\/runs: add up to 3/,
    ],
  ])('that %s is refused by place and reason', (_what, value, message) => {
    expect(placeOf(value)).toMatch(message);
  });
});

describe('an edit', () => {
  const check = checkerOf(EditRequestSchema);
  it('must say what it did and do something', () => {
    const edit = { words: 'Dismissed 1 speck', steps: [{ op: 'judge', fault: 'f1', as: 'dismissed' }] };
    expect(check({ revision: 0, edit })).toEqual({ revision: 0, edit });
    expect(() => check({ revision: 0, edit: { ...edit, steps: [] } })).toThrow('edit/steps');
    expect(() => check({ revision: -1, edit })).toThrow('revision');
    expect(() =>
      check({ revision: 0, edit: { ...edit, steps: [{ op: 'judge', fault: 'f1', as: 'gone' }] } }),
    ).toThrow('edit/steps/0');
  });
});
