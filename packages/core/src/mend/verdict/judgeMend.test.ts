import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Raster } from '../../raster/raster.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { Patch } from '../../raster/patch.ts';
import { colourFloats } from '../../raster/patch.ts';
import type { Verdict } from './judgeMend.ts';
import { judgeMend } from './judgeMend.ts';

const SIDE = 96;
const MIDDLE = SIDE / 2;
const RADIUS = 14;
const isIn = (x: number, y: number): boolean => Math.hypot(x - MIDDLE, y - MIDDLE) < RADIUS;

/** Lays `laid` down in a disc in the middle of what is `seen`. */
function judged(seen: Raster, laid: Raster, radius = RADIUS): Verdict {
  const whole = { left: 0, top: 0, width: SIDE, height: SIDE };
  const coverage = Float32Array.from({ length: SIDE * SIDE }, (_, i) =>
    Math.hypot((i % SIDE) + 0.5 - MIDDLE, Math.floor(i / SIDE) + 0.5 - MIDDLE) < radius ? 1 : 0,
  );
  const patch: Patch = { rect: whole, values: colourFloats(laid), coverage };
  const verdict = judgeMend(patch, pixelsOf(seen));
  if (!verdict) throw new Error('the disc covers something');
  return verdict;
}

const GRAIN = { grain: 0.004 };
const PAPER = 0.95;
/** The picture with paper bare where the disc is. */
const torn = (tone: (x: number, y: number) => number): Raster =>
  pictureOf(SIDE, SIDE, (x, y) => (isIn(x, y) ? PAPER : tone(x, y)), GRAIN);

describe('a verdict', () => {
  const ground = (): number => 0.5;
  const even = pictureOf(SIDE, SIDE, ground, { grain: 0.02 });
  const other = pictureOf(SIDE, SIDE, ground, { grain: 0.02, seed: 2 });

  it('calls a mend good that cannot be told from its surroundings', () => {
    const spotted = pictureOf(SIDE, SIDE, (x, y) => (isIn(x, y) ? 0.08 : 0.5), { grain: 0.02 });
    expect(judged(spotted, other).verdict).toBe('good');
  });

  it('sees that nothing changed', () => {
    expect(judged(even, even).verdict).toBe('nothing changed');
  });

  it('calls a copy from another tone worse', () => {
    expect(
      judged(
        even,
        pictureOf(SIDE, SIDE, () => 0.9, { grain: 0.02 }),
      ).verdict,
    ).toBe('worse');
  });

  it('notices a marking of the subject that goes on outside and no longer inside', () => {
    const marked = pictureOf(SIDE, SIDE, (_x, y) => (Math.abs(y - MIDDLE) < 2 ? 0.2 : 0.6), GRAIN);
    const blank = pictureOf(SIDE, SIDE, () => 0.6, { ...GRAIN, seed: 2 });
    expect(judged(marked, blank).verdict).toBe('structure lost');
    expect(judged(marked, blank, 6).verdict).toBe('structure lost');
  });

  it('is none where nothing is covered', () => {
    const whole = { left: 0, top: 0, width: SIDE, height: SIDE };
    const patch = { rect: whole, values: colourFloats(even), coverage: new Float32Array(SIDE * SIDE) };
    expect(judgeMend(patch, pixelsOf(even))).toBeNull();
  });
});

describe('the verdict on a loss that an edge runs through', () => {
  /** Two tones that meet in a line near the middle, under any angle, dark on dark as well. */
  const edges = fc.record({
    turn: fc.double({ min: 0, max: 2 * Math.PI, noNaN: true }),
    off: fc.double({ min: -4, max: 4, noNaN: true }),
    dark: fc.double({ min: 0.15, max: 0.6, noNaN: true }),
    step: fc.double({ min: 0.06, max: 0.25, noNaN: true }),
  });
  const side =
    (turn: number, off: number) =>
    (x: number, y: number): number =>
      (x - MIDDLE) * Math.cos(turn) + (y - MIDDLE) * Math.sin(turn) - off;

  it('is good where the edge goes on, and says that it stops where one tone was laid over both', () => {
    fc.assert(
      fc.property(edges, ({ turn, off, dark, step }) => {
        const away = side(turn, off);
        const tone = (x: number, y: number): number => dark + step / (1 + Math.exp(-2 * away(x, y)));
        const led = judged(torn(tone), pictureOf(SIDE, SIDE, tone, { ...GRAIN, seed: 2 }));
        expect(led.verdict).toBe('good');
        // As a fill does that knows nothing of the edge: it meets the tones around and fades from one to the other.
        const faded = (x: number, y: number): number => dark + step / (1 + Math.exp(-0.15 * away(x, y)));
        const filled = judged(torn(tone), pictureOf(SIDE, SIDE, faded, { ...GRAIN, seed: 2 }));
        expect(['edges stop', 'worse']).toContain(filled.verdict);
        expect(filled.measure.edgesUnmet).toBeGreaterThan(led.measure.edgesUnmet);
      }),
      { numRuns: 40, seed: 6 },
    );
  });

  it('does not take the border of the paper for lost structure, nor a spot beside it for an edge', () => {
    const spotted = (x: number, y: number): number =>
      Math.hypot(x - MIDDLE - RADIUS - 3, y - MIDDLE) < 2.5 ? 0.15 : 0.5;
    const filled = judged(
      torn(spotted),
      pictureOf(SIDE, SIDE, () => 0.5, { ...GRAIN, seed: 2 }),
    );
    expect(filled.measure).toMatchObject({ structureLost: 0, edgesUnmet: 0 });
  });
});
