import { describe, expect, it } from 'vitest';
import type { Fence } from '../fence/fence.ts';
import { placeOnSensor } from '../chart/sensor.ts';
import type { Mend } from '../mend/mend.ts';
import type { RecoverMend } from '../mend/recover/recoverMend.ts';
import { pixelsOf } from '../raster/pixels.ts';
import type { Recipe } from '../recipe/recipe.ts';
import { emptyRecipe } from '../recipe/recipe.ts';
import { pictureOf } from '../testing/pictures.ts';
import type { FinishStep } from '../finish/finishStep.ts';
import type { NumberedFault } from '../fault/fault.ts';
import { answerFaults } from './answerFaults.ts';
import { carryFinish } from './carryFinish.ts';
import { carryRecipe } from './carryRecipe.ts';

const [WIDTH, HEIGHT] = [200, 140];
/** A slow wave of tone with a shadow where one is asked for. */
const scene = (shadow: readonly [number, number] | null, phase: number) =>
  pictureOf(
    WIDTH,
    HEIGHT,
    (x, y) => {
      const tone = 0.55 + 0.12 * Math.sin(x / 23 + phase) * Math.cos(y / 31);
      if (!shadow) return tone;
      const away = Math.hypot(x + 0.5 - shadow[0], y + 0.5 - shadow[1]) / 8;
      const t = Math.min(1, Math.max(0, (1.4 - away) / 0.8));
      return tone * (1 - 0.12 * t * t * (3 - 2 * t));
    },
    { grain: 0.006 },
  );

const recover: RecoverMend = {
  ...{ id: 'dust', method: 'recover', margin: 4, edge: 1, share: 1, on: true, source: null },
  target: { shape: 'disc', x: 60, y: 50, r: 8 },
  veil: {
    ...{ kind: 'disc', x: 60, y: 50, r: 8, softness: 0.4, stretch: 1, angle: 0, depth: 0.25, light: null },
  },
};
const stroke: Mend = {
  ...{ id: 'wire', method: 'clone', margin: 1, edge: 1, share: 0.5, on: true, source: { dx: 0, dy: 20 } },
  ...{ reads: 'mended', laying: 'along', buildUp: false },
  target: {
    shape: 'stroke',
    points: [
      [120, 20],
      [160, 60],
    ],
    width: 4,
  },
};
const zone: Fence = {
  ...{ id: 'sky', kind: 'zone', name: 'sky', edge: 2, on: true },
  area: {
    shape: 'outline',
    points: [
      [0, 0],
      [200, 0],
      [200, 70],
      [0, 70],
    ],
  },
};
const recipe: Recipe = {
  ...emptyRecipe({ width: WIDTH, height: HEIGHT }),
  fences: [zone],
  mends: [recover, stroke],
};

const carry = (to: ReturnType<typeof scene>) => {
  const sensor = { width: WIDTH, height: HEIGHT };
  const placement = placeOnSensor(sensor, 1, sensor);
  return carryRecipe(
    recipe,
    { picture: 'first', from: placement, to: placement, idFor: (index) => `c${index}` },
    pixelsOf(to),
  );
};

describe('a recipe carried over', () => {
  it('is made anew from what the other frame shows: fences, fits and sources', () => {
    const { recipe: made, carried, lostFences } = carry(scene([61, 50.5], 2));
    expect(lostFences).toEqual([]);
    expect(made.fences).toEqual([zone]);
    expect(carried.map((one) => 'mend' in one)).toEqual([true, true]);
    const [dust, wire] = made.mends;
    expect(dust).toMatchObject({ id: 'c0', method: 'recover', carried: { picture: 'first', mend: 'dust' } });
    if (dust.method !== 'recover' || dust.veil.kind !== 'disc') throw new Error('a shadow is recovered');
    // The shadow lies a little off in this frame, and the fit follows it.
    expect(dust.veil.x).toBeGreaterThan(60.3);
    expect(wire).toMatchObject({ method: 'clone', share: 0.5, target: stroke.target });
  });

  it('leaves out a shadow that is not to be seen, and says so', () => {
    const { carried, recipe: made } = carry(scene(null, 2));
    expect(carried[0]).toEqual({ from: recover, notCarried: 'nothing to be seen there' });
    expect(made.mends.map(({ carried: from }) => from?.mend)).toEqual(['wire']);
  });

  it('mends nothing twice: what the other picture has mended itself stays as it is there', () => {
    const sensor = { width: WIDTH, height: HEIGHT };
    const placement = placeOnSensor(sensor, 1, sensor);
    const other = scene([61, 50.5], 2);
    const beside: Mend = { ...stroke, id: 'beside', target: { shape: 'disc', x: 140, y: 100, r: 30 } };
    const notCarriedWith = (...own: readonly Mend[]): readonly string[] =>
      carryRecipe(
        recipe,
        { picture: 'first', from: placement, to: placement, own, idFor: String },
        pixelsOf(other),
      ).carried.flatMap((one) => ('notCarried' in one ? [one.notCarried] : []));
    expect(notCarriedWith({ ...recover, id: 'own' })).toEqual(['mended there already']);
    expect(notCarriedWith({ ...recover, id: 'own' }, { ...stroke, id: 'too' })).toHaveLength(2);
    // What is switched off, what lies beside it and a pinprick in its middle mend nothing of it.
    const pinprick: Mend = { ...stroke, id: 'pin', margin: 0, target: { shape: 'disc', x: 60, y: 50, r: 1 } };
    expect(notCarriedWith({ ...recover, id: 'own', on: false }, beside, pinprick)).toEqual([]);
  });

  it('answers the open faults it lies over, each once', () => {
    const fault = (id: string, x: number, y: number, r: number): NumberedFault => ({
      ...{
        id,
        number: 1,
        kind: 'speck',
        polarity: 'dark',
        x,
        y,
        r,
        strength: 0.1,
        softness: 0.5,
        confidence: 0.9,
      },
    });
    const open = [fault('small', 62, 51, 3), fault('under', 60.4, 50.1, 7), fault('beside', 90, 50, 7)];
    const answered = answerFaults(
      [{ ...recover, id: 'a' }, { ...recover, id: 'b', fault: 'known' }, stroke],
      open,
    );
    expect(answered.map(({ fault }) => fault)).toEqual(['under', 'known', undefined]);
  });

  it('lies on the same places of the sensor where the camera was held upright or wrote a smaller file', () => {
    const sensor = { width: WIDTH, height: HEIGHT };
    const from = placeOnSensor(sensor, 1, sensor);
    const turned = pictureOf(HEIGHT, WIDTH, () => 0.5, { grain: 0.01 });
    const { recipe: made } = carryRecipe(
      { ...recipe, mends: [stroke] },
      { picture: 'first', from, to: placeOnSensor(turned, 6, sensor), idFor: String },
      pixelsOf(turned),
    );
    expect(made.mends[0].target).toEqual({
      shape: 'stroke',
      points: [
        [120, 120],
        [80, 160],
      ],
      width: 4,
    });
    const small = pictureOf(WIDTH / 2, HEIGHT / 2, () => 0.5, { grain: 0.01 });
    const { recipe: halved } = carryRecipe(
      { ...recipe, mends: [stroke] },
      { picture: 'first', from, to: placeOnSensor(small, 1, sensor), idFor: String },
      pixelsOf(small),
    );
    expect(halved.mends[0].target).toEqual({
      shape: 'stroke',
      points: [
        [60, 10],
        [80, 30],
      ],
      width: 2,
    });
    expect(halved.fences?.[0].area).toEqual({
      shape: 'outline',
      points: [
        [0, 0],
        [100, 0],
        [100, 35],
        [0, 35],
      ],
    });
  });
});

describe('a finish carried over', () => {
  const sensor = { width: 600, height: 400 };
  const of = { on: true, share: 1 } as const;
  const finish: readonly FinishStep[] = [
    { ...of, id: 'l', method: 'levels', tones: [{ black: 0.1, white: 0.9, gamma: 1 }] },
    { ...of, id: 's', method: 'soften', radius: 6, zone: 'sky' },
    { ...of, id: 'f', method: 'soften', radius: 3, zone: 'figure' },
    { ...of, id: 'n', method: 'lens', k1: -0.05, k2: 0 },
    { ...of, id: 'c', method: 'crop', left: 0, top: 0, width: 100, height: 100 },
  ];
  const to = (shape: { width: number; height: number }, orientation: 1 | 6 = 1) =>
    carryFinish(finish, {
      from: placeOnSensor(sensor, 1, sensor),
      to: placeOnSensor(shape, orientation, sensor),
      zones: new Set(['sky']),
    });
  const names = (carried: ReturnType<typeof to>): string[] => carried.steps.map(({ id }) => id);

  it('keeps the other picture’s framing, and leaves out what is bounded by a zone it has not', () => {
    const carried = to(sensor);
    expect(names(carried)).toEqual(['l', 's', 'n']);
    expect(carried.steps[1]).toEqual(finish[1]);
    expect(carried.left.map(({ step }) => step.id)).toEqual(['f', 'c']);
  });

  it('lies on a smaller copy as wide in the picture, with its lens, also where the camera was held upright', () => {
    for (const carried of [to({ width: 300, height: 200 }), to({ width: 200, height: 300 }, 6)]) {
      expect(names(carried)).toEqual(['l', 's', 'n']);
      expect(carried.steps[1]).toMatchObject({ radius: 3 });
    }
  });

  it('leaves out the lens where another part of the sensor is shown', () => {
    expect(names(to({ width: 400, height: 400 }))).toEqual(['l', 's']);
  });
});
