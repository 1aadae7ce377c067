import { describe, expect, it } from 'vitest';
import { pictureOf } from '../../packages/core/src/testing/pictures.ts';
import { asSeen, damage } from './damage.ts';
import { toSheet } from './light.ts';

describe('how a fault shows', () => {
  it('is dark where what is behind it has more light than it has itself, and bright before a darker ground', () => {
    // A dark half and a bright half, in encoded tone.
    const clean = pictureOf(600, 400, (x) => (x < 300 ? 0.05 : 0.98), { grain: 0 });
    const { seen, faults } = damage(clean, 'lit particles', 3);
    const shown = asSeen(faults, toSheet(clean), toSheet(seen));
    const within = shown.filter(({ x, r }) => Math.abs(x - 300) > 2 * r);
    const sides = [within.filter(({ x }) => x < 300), within.filter(({ x }) => x > 300)];
    for (const side of sides) expect(side.length).toBeGreaterThan(1);
    for (const { polarity } of sides[0]) expect(polarity).toBe('bright');
    // Some particles shine so much that they clip; the others have less light than white has.
    expect(sides[1].some(({ polarity }) => polarity === 'dark')).toBe(true);
    expect(shown.map(({ x, y }) => [x, y])).toEqual(faults.map(({ x, y }) => [x, y]));
  });

  it('is dark for every shadow', () => {
    const clean = pictureOf(400, 300, (x, y) => 0.3 + 0.001 * x + 0.001 * y, { grain: 0.02 });
    const { seen, faults } = damage(clean, 'soft dust', 3);
    for (const { polarity } of asSeen(faults, toSheet(clean), toSheet(seen))) expect(polarity).toBe('dark');
  });
});
