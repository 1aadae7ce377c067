import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAULT_KINDS } from '../../fault/kinds.ts';
import type { Raster } from '../../raster/raster.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { NatureEvidence } from './guessNature.ts';
import { guessNature } from './guessNature.ts';
import { NATURES, canCarry, kindsOn, usualPolarities } from './nature.ts';
import { printSigns } from './printSigns.ts';

const [WIDTH, HEIGHT] = [240, 180];
const colours = (x: number, y: number, c: number): number =>
  0.5 + 0.45 * Math.sin(x / 19 + 2 * c) * Math.cos(y / 23 - c);
const scene = (tone: (x: number, y: number, c: number) => number): Raster =>
  pictureOf(WIDTH, HEIGHT, tone, { grain: 0.01 });
const isMargin = (x: number, y: number, wide: number): boolean =>
  Math.min(x, y, WIDTH - x, HEIGHT - y) < wide;

describe('what speaks for a print', () => {
  it('is a margin along all four sides, and not along three', () => {
    const framed = scene((x, y, c) => (isMargin(x, y, 12) ? 0.95 : colours(x, y, c)));
    const open = scene((x, y, c) => (isMargin(x, y, 12) && y < HEIGHT - 12 ? 0.95 : colours(x, y, c)));
    expect(printSigns(framed).hasBorder).toBe(true);
    expect(printSigns(open).hasBorder).toBe(false);
    expect(printSigns(scene(colours)).hasBorder).toBe(false);
  });

  it('is no margin where all of the picture is as even', () => {
    expect(printSigns(scene(() => 0.9)).hasBorder).toBe(false);
  });

  it('is one tint, grey or yellowed by its tones, and not two colours', () => {
    const grey = (x: number, y: number): number => 0.5 + 0.4 * Math.sin(x / 19) * Math.cos(y / 23);
    const yellowed = (x: number, y: number, c: number): number =>
      grey(x, y) ** 0.9 * (c === 2 ? 0.72 : 1) + 0.03;
    expect(printSigns(scene(grey)).isMonochrome).toBe(true);
    expect(printSigns(scene(yellowed)).isMonochrome).toBe(true);
    expect(printSigns(scene(colours)).isMonochrome).toBe(false);
  });

  it('is that neither black nor white is left', () => {
    const tone = (x: number, y: number): number => 0.5 + 0.5 * Math.sin(x / 9) * Math.cos(y / 7);
    expect(printSigns(scene((x, y) => 0.2 + 0.6 * tone(x, y))).isFaded).toBe(true);
    expect(printSigns(scene(tone)).isFaded).toBe(false);
  });
});

describe('the nature that is guessed', () => {
  const evidence = fc.record({
    density: fc.option(fc.integer({ min: 72, max: 2400 })),
    width: fc.integer({ min: 500, max: 9000 }),
    height: fc.integer({ min: 500, max: 9000 }),
    signs: fc.record({ hasBorder: fc.boolean(), isMonochrome: fc.boolean(), isFaded: fc.boolean() }),
  });

  it('is a frame for whatever says its aperture or its exposure, unless all the rest speaks for a print', () => {
    fc.assert(
      fc.property(evidence, (about) => {
        const { hasBorder, isMonochrome } = about.signs;
        fc.pre(!(hasBorder && isMonochrome));
        expect(guessNature({ ...about, capture: { fNumber: 8 } })).toBe('frame');
        expect(guessNature({ ...about, capture: { exposureTime: 1 / 60 } })).toBe('frame');
      }),
    );
  });

  it('never turns from print to frame where one more thing speaks for a print', () => {
    fc.assert(
      fc.property(
        evidence,
        fc.constantFrom('hasBorder' as const, 'isMonochrome' as const, 'isFaded' as const),
        (about, sign) => {
          const of = (value: boolean): NatureEvidence => ({
            ...about,
            capture: {},
            signs: { ...about.signs, [sign]: value },
          });
          if (guessNature(of(false)) === 'print') expect(guessNature(of(true))).toBe('print');
        },
      ),
    );
  });

  it('takes a resolution for a scanner’s only where the sheet would lie on its glass', () => {
    const sheet = {
      capture: {},
      density: 300,
      signs: { hasBorder: false, isMonochrome: false, isFaded: false },
    };
    expect(guessNature({ ...sheet, width: 3001, height: 2003 })).toBe('print');
    expect(guessNature({ ...sheet, width: 9001, height: 6003 })).toBe('frame');
    expect(guessNature({ ...sheet, density: 72, width: 3001, height: 2003 })).toBe('frame');
  });
});

describe('what a nature can carry', () => {
  it('is every kind on a print, and fewer on a frame', () => {
    expect(kindsOn('print')).toEqual(FAULT_KINDS);
    expect(kindsOn('frame').length).toBeLessThan(FAULT_KINDS.length);
    for (const nature of NATURES)
      for (const kind of FAULT_KINDS) expect(kindsOn(nature).includes(kind)).toBe(canCarry(nature, kind));
  });

  it('on a frame only darkens, as dust before a sensor does', () => {
    expect(usualPolarities('frame')).toEqual(['dark']);
    expect(usualPolarities('print')).toEqual(['dark', 'bright']);
  });
});
