import { describe, expect, it } from 'vitest';
import type { HealMend } from '../mend/heal/healMend.ts';
import type { Fault } from '../fault/fault.ts';
import { isSameFault, tellLeftovers } from './leftovers.ts';

const at = (x: number, y: number, more: Partial<Fault> = {}): Fault => ({
  ...{ kind: 'speck', polarity: 'dark', x, y, r: 4, strength: 0.2, softness: 0.4, confidence: 0.9 },
  ...more,
});
const mendAt = (x: number, y: number, more: Partial<HealMend> = {}): HealMend => ({
  ...{ id: `m${x}`, method: 'heal', target: { shape: 'disc', x, y, r: 6 }, margin: 2, edge: 1 },
  ...{ share: 1, on: true, source: null },
  ...more,
});

describe('an examination of the mended picture', () => {
  const before = [
    { ...at(50, 50), id: 'f1' },
    { ...at(200, 80), id: 'f2' },
  ];

  it('tells what a mend left over from what it brought in', () => {
    const mends = [mendAt(50, 50, { fault: 'f1' }), mendAt(120, 40)];
    const told = tellLeftovers(
      [at(51, 50), at(52, 49, { polarity: 'bright' }), at(121, 42, { polarity: 'bright' })],
      before,
      mends,
    );
    expect(told.map(({ x, origin }) => [x, origin])).toEqual([
      [51, 'left over'],
      // A bright remnant of a dark fault that the mend was meant for.
      [52, 'left over'],
      [121, 'made by a mend'],
    ]);
  });

  it('does not tell again what no mend has touched, or one that is switched off', () => {
    const found = [at(200, 80), at(300, 30), at(50, 50)];
    expect(tellLeftovers(found, before, [mendAt(50, 50, { fault: 'f1', on: false })])).toEqual([]);
  });

  it('looks at the shape of a mend, not at the rectangle around it', () => {
    const stroke = mendAt(0, 0, {
      target: {
        shape: 'stroke',
        points: [
          [0, 0],
          [200, 200],
        ],
        width: 4,
      },
    });
    expect(tellLeftovers([at(160, 20)], [], [stroke])).toEqual([]);
    expect(tellLeftovers([at(101, 100)], [], [stroke])).toHaveLength(1);
    const mask = mendAt(1, 1, {
      target: { shape: 'mask', left: 90, top: 90, width: 20, height: 20, runs: [0, 400] },
    });
    expect(tellLeftovers([at(100, 100)], [], [mask])).toHaveLength(1);
  });

  it('takes two findings for one fault by place, kind and polarity', () => {
    expect(isSameFault(at(1, 1), at(3, 1))).toBe(true);
    expect(isSameFault(at(1, 1), at(1, 1, { polarity: 'bright' }))).toBe(false);
    expect(isSameFault(at(1, 1), at(1, 1, { kind: 'fibre' }))).toBe(false);
    expect(isSameFault(at(1, 1), at(6, 1))).toBe(false);
  });
});
