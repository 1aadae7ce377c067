import { describe, expect, it } from 'vitest';
import type { Fence } from '../../fence/fence.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { FaultToMend } from './faultToMend.ts';
import { mendsInTurn } from './mendsInTurn.ts';
import { runMends, runMendsHere } from './runMends.ts';

const picture = pictureOf(160, 120, (x, y) => 120 + ((x * 31 + y * 17) % 13));
const pixels = pixelsOf(picture);
const GUARD: Fence = {
  ...{ id: 'g', kind: 'guard', name: 'sky', edge: 0, on: true },
  area: { shape: 'disc', x: 30, y: 30, r: 20 },
};
const faultAt = (id: string, x: number, y: number): FaultToMend => ({
  id,
  fault: `f-${id}`,
  x,
  y,
  r: 3,
  softness: 0.3,
});
const faults = [faultAt('a', 30, 30), faultAt('b', 110, 60), faultAt('c', 36, 24)];

describe('a run of mends', () => {
  it('leaves faults under a guard open and says which', () => {
    const { proposals, guarded } = runMendsHere(
      faults,
      { avoid: [], used: [], fences: [GUARD] },
      pixels,
      'heal',
    );
    expect(proposals.map(({ mend }) => mend.id)).toEqual(['b']);
    expect(guarded.map(({ id }) => id)).toEqual(['a', 'c']);
  });

  it('mends them where the guard is off', () => {
    const off = { avoid: [], used: [], fences: [{ ...GUARD, on: false }] };
    expect(runMendsHere(faults, off, pixels, 'heal').guarded).toEqual([]);
  });

  it('gives the same in threads as here', async () => {
    const around = { avoid: [], used: [], fences: [GUARD] };
    const elsewhere = await runMends(faults, around, pixels.shape, (part, surroundings) =>
      Promise.resolve(part.map(mendsInTurn(surroundings, pixels, 'heal'))),
    );
    expect(elsewhere).toEqual(runMendsHere(faults, around, pixels, 'heal'));
  });
});
