import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blendSeams } from './blendSeams.ts';
import type { CompletionLevel } from './completionLevel.ts';

const SIDE = 40;
const [FROM, TO] = [14, 26];

/** A level with a lost square in the middle, each of whose pixels was taken so far to the right, and what it shows. */
function levelOf(
  tone: (x: number, y: number) => number,
  filled: (x: number, y: number) => number,
  shift: number,
): { level: CompletionLevel; taken: Int32Array; pixels: Int32Array } {
  const size = SIDE * SIDE;
  const lost = new Uint8Array(size);
  const there = new Uint8Array(size).fill(1);
  const taken = new Int32Array(size).fill(-1);
  const colours = new Float32Array(size);
  for (let y = 0, i = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++, i++) {
      const isBorder = x === 0 || y === 0 || x === SIDE - 1 || y === SIDE - 1;
      if (isBorder) there[i] = 0;
      const isLost = x >= FROM && x < TO && y >= FROM && y < TO;
      if (isLost) {
        lost[i] = 1;
        taken[i] = i + shift;
      }
      colours[i] = isLost ? filled(x, y) : tone(x, y);
    }
  const none = new Uint8Array(size);
  return {
    level: {
      ...{ halvings: 0, width: SIDE, height: SIDE, channels: 1, colours, lost, there },
      ...{ isSource: none, isWhole: none, targets: new Int32Array(), depth: new Float32Array(size) },
      ...{ roughX: new Float32Array(size), roughY: new Float32Array(size), guides: null },
    },
    taken,
    pixels: Int32Array.from([...lost.keys()].filter((i) => lost[i] === 1)),
  };
}
const blended = (of: ReturnType<typeof levelOf>): Float32Array => {
  blendSeams(of.level, of.taken, of.pixels);
  return of.level.colours;
};
const middle = SIDE * (SIDE / 2) + SIDE / 2;
const wave = (x: number, y: number): number => 6 * Math.sin(x * 1.3) * Math.cos(y * 1.1);

describe('seams of a fill', () => {
  it('go where a fill of the right texture has a tone that is a little off, and the texture stays', () => {
    fc.assert(
      fc.property(fc.integer({ min: -14, max: 14 }), (off) => {
        const tone = (x: number, y: number): number => 120 + wave(x, y);
        const colours = blended(levelOf(tone, (x, y) => tone(x + 13, y) + off, 13));
        // What is right is what the source shows, at the tone of the surroundings; of its texture, 12 from end to end, little goes.
        for (let y = FROM + 2; y < TO - 2; y++)
          for (let x = FROM + 2; x < TO - 2; x++)
            expect(Math.abs(colours[y * SIDE + x] - tone(x + 13, y))).toBeLessThan(2 + 0.35 * Math.abs(off));
      }),
      { numRuns: 12 },
    );
  });

  it('leave a fill alone that fits already', () => {
    const tone = (x: number, y: number): number => 120 + wave(x, y);
    const period = (x: number, y: number): number => tone(x % 13, y);
    const colours = blended(levelOf(period, (x, y) => period(x + 13, y), 13));
    for (let x = FROM; x < TO; x++) expect(colours[20 * SIDE + x]).toBeCloseTo(period(x, 20), 1);
  });

  it('carry nothing across where two surfaces meet', () => {
    const colours = blended(
      levelOf(
        () => 60,
        () => 200,
        13,
      ),
    );
    expect(colours[middle]).toBeGreaterThan(190);
  });

  it('never take a value out of the range of codes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 255 }), fc.integer({ min: 0, max: 255 }), (around, inside) => {
        const colours = blended(
          levelOf(
            (x, y) => Math.max(0, Math.min(255, around + 3 * wave(x, y))),
            (x, y) => Math.max(0, Math.min(255, inside + 3 * wave(x, y))),
            13,
          ),
        );
        expect(Math.min(...colours)).toBeGreaterThanOrEqual(0);
        expect(Math.max(...colours)).toBeLessThanOrEqual(255);
      }),
      { numRuns: 20 },
    );
  });
});
