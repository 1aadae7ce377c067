import type { HealMend, RebuildMend, Verdict } from '@fennip/core/mend';
import type { FinishName, FinishStep } from '@fennip/core/finish';
import { FINISH_DESCRIPTIONS } from '@fennip/core/finish';
import { emptyRecipe } from '@fennip/core/recipe';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openPage } from '../testing/openPage.ts';
import { pictureSheet, speckOf } from '../testing/pictureSheet.ts';
import { useFinish } from './finish.ts';
import { useHand } from './hand.ts';
import { usePicture } from './picture.ts';
import { DOUBTFUL, qualityOf } from './quality.ts';
import { useTreatments } from './treatments.ts';
import { useView } from './view.ts';

const FINISH_NAMES = Object.keys(FINISH_DESCRIPTIONS) as FinishName[];
const withShare = (step: FinishStep, share: number): FinishStep => ({ ...step, share }) as FinishStep;

beforeEach(() => {
  vi.useFakeTimers();
  openPage();
  usePicture().takeSheet(pictureSheet({ faults: [speckOf(1)] }));
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('the quality of a mend', () => {
  const verdicts = fc.record({
    verdict: fc.constantFrom<Verdict['verdict']>(
      'good',
      'nothing changed',
      'edges stop',
      'worse',
      'structure lost',
    ),
    measure: fc.record({
      grain: fc.double({ min: 0, max: 5, noNaN: true }),
      seam: fc.double({ min: 0, max: 5, noNaN: true }),
    }),
  }) as unknown as fc.Arbitrary<Verdict>;

  it('lies between 0 and 1, and no mend that does not pass stands above what is doubtful', () => {
    fc.assert(
      fc.property(verdicts, (verdict) => {
        const quality = qualityOf(verdict);
        expect(quality).toBeGreaterThanOrEqual(0);
        expect(quality).toBeLessThanOrEqual(1);
        if (verdict.verdict !== 'good') expect(quality).toBeLessThan(DOUBTFUL);
      }),
    );
  });

  it('is best where the grain is that of its surroundings, and worse for too much as for too little', () => {
    const of = (grain: number, seam = 1): number =>
      qualityOf({ verdict: 'good', measure: { grain, seam } } as unknown as Verdict);
    expect(of(1)).toBe(1);
    expect(of(0.5)).toBeCloseTo(of(2), 9);
    expect(of(0.5)).toBeLessThan(of(0.8));
    expect(of(1, 3)).toBeLessThan(of(1, 1));
  });
});

describe('the finish', () => {
  it('begins each step so that it can be kept, one of each kind of what frames', () => {
    const finish = useFinish();
    for (const name of FINISH_NAMES) finish.add(name);
    const methods = usePicture().finish.map(({ method }) => method);
    expect([...methods].sort()).toEqual([...FINISH_NAMES].sort());
    for (const name of FINISH_NAMES) finish.add(name);
    const framing = ['crop', 'straighten', 'lens'];
    for (const name of FINISH_NAMES)
      expect(usePicture().finish.filter(({ method }) => method === name)).toHaveLength(
        framing.includes(name) ? 1 : 2,
      );
  });

  it('chooses a step that is added, changes it in its place, and takes it away', () => {
    const finish = useFinish();
    finish.add('levels');
    finish.add('contrast');
    const [levels] = usePicture().finish;
    expect(finish.chosen?.method).toBe('contrast');
    finish.change(withShare(levels, 0.5));
    expect(usePicture().finish.map(({ method }) => method)).toEqual(['levels', 'contrast']);
    expect(finish.chosen).toMatchObject({ method: 'levels', share: 0.5 });
    finish.remove(levels);
    expect(usePicture().finish.map(({ method }) => method)).toEqual(['contrast']);
    expect(finish.chosen).toBeNull();
  });

  it('shows a draft in the place of its step, and no longer once that is kept', () => {
    const finish = useFinish();
    finish.add('contrast');
    const [step] = usePicture().finish;
    void finish.draft(withShare(step, 0.25));
    expect(finish.steps[0].share).toBe(0.25);
    expect(usePicture().finish[0].share).toBe(1);
    finish.change(withShare(step, 0.75));
    expect(finish.steps[0].share).toBe(0.75);
  });

  it('moves a step past its neighbours, and what frames past none', () => {
    const finish = useFinish();
    for (const name of ['levels', 'contrast', 'crop'] as const) finish.add(name);
    const step = (method: string) => {
      const found = usePicture().finish.find((one) => one.method === method);
      if (!found) throw new Error(`${method} is not there`);
      return found;
    };
    const values = (): string[] =>
      usePicture().finish.flatMap(({ method }) => (method === 'crop' ? [] : [method]));
    finish.move(step('contrast'), -1);
    expect(values()).toEqual(['contrast', 'levels']);
    finish.move(step('contrast'), -1);
    expect(values()).toEqual(['contrast', 'levels']);
    finish.move(step('contrast'), 1);
    expect(values()).toEqual(['levels', 'contrast']);
  });
});

describe('the treatments', () => {
  const rebuild: RebuildMend = {
    ...{ id: 'r', method: 'rebuild', target: { shape: 'disc', x: 60, y: 60, r: 9 } },
    ...{ margin: 1, edge: 2, share: 1, on: true, seed: 1, guides: [] },
  };
  const heal: HealMend = {
    ...{ id: 'h', method: 'heal', target: { shape: 'disc', x: 60, y: 60, r: 9 } },
    ...{ margin: 1, edge: 2, share: 1, on: true, source: { dx: 9, dy: 0 } },
  };
  const opened = (): void => {
    const sheet = pictureSheet();
    usePicture().takeSheet({
      ...sheet,
      recipe: { ...emptyRecipe({ width: 600, height: 500 }), mends: [rebuild, heal] },
    });
  };

  it('take another proposal of a rebuild up until something else is in focus or in hand', () => {
    opened();
    const treatments = useTreatments();
    useView().choose(['r']);
    treatments.paintOver(rebuild, 7);
    expect(useHand().tool).toBe('rebuild');
    expect(treatments.over).toMatchObject({ method: 'rebuild', seed: 7 });
    expect(treatments.over).not.toHaveProperty('id');
    useView().choose(['h']);
    expect(treatments.over).toBeNull();
    useView().choose(['r']);
    treatments.paintOver(rebuild, 8);
    useHand().arm('heal');
    expect(treatments.over).toBeNull();
  });

  it('go on painting what is in focus only where that is of the kind in hand, and not locked', () => {
    opened();
    const treatments = useTreatments();
    useHand().tool = 'sift';
    useView().choose(['h']);
    expect(treatments.current).toBeNull();
    useHand().tool = 'rebuild';
    useView().choose(['r']);
    // Nothing of it was painted yet: a stroke is a rebuild of its own.
    expect(treatments.current).toBeNull();
  });

  it('remember the colour that is drawn in', () => {
    const treatments = useTreatments();
    treatments.drawIn([0.2, 0.4, 0.6]);
    expect(treatments.drawColour).toEqual([0.2, 0.4, 0.6]);
  });
});
