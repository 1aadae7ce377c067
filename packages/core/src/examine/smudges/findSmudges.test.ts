import { describe, expect, it } from 'vitest';
import { measureGrainModel } from '../../grain/grainModel.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { createGrainCells, findSmudges, measureGrainCells } from './findSmudges.ts';

const SIDE = 320;
const isSmudge = (x: number, y: number): boolean => Math.hypot(x - 200, y - 120) < 40;

describe('smudges', () => {
  it('are found where the grain is gone, and nowhere else', () => {
    const grainy = pictureOf(SIDE, SIDE, (x) => 0.3 + (0.3 * x) / SIDE, { grain: 0.02, seed: 2 });
    const smooth = pictureOf(SIDE, SIDE, (x) => 0.3 + (0.3 * x) / SIDE);
    const model = measureGrainModel(grainy);
    grainy.planes.forEach((plane, c) => {
      for (let i = 0; i < plane.length; i++)
        if (isSmudge(i % SIDE, Math.floor(i / SIDE))) plane[i] = smooth.planes[c][i];
    });
    const cells = createGrainCells(SIDE, SIDE);
    measureGrainCells(cells, grainy, model, { left: 0, top: 0 });
    const found = findSmudges(cells);
    expect(found).toHaveLength(1);
    expect(Math.hypot(found[0].x - 200, found[0].y - 120)).toBeLessThan(6);
    expect(found[0].r).toBeGreaterThan(30);
    expect(found[0].r).toBeLessThan(45);
    expect(found[0].strength).toBeGreaterThan(0.8);
  });

  it('are not what the file itself leaves without grain', () => {
    const black = pictureOf(SIDE, SIDE, (x) => (x < 160 ? 0 : 0.4), { grain: 0.02, seed: 3 });
    const model = measureGrainModel(black);
    for (const plane of black.planes) for (let i = 0; i < plane.length; i++) if (i % SIDE < 160) plane[i] = 0;
    const cells = createGrainCells(SIDE, SIDE);
    measureGrainCells(cells, black, model, { left: 0, top: 0 });
    expect(findSmudges(cells)).toEqual([]);
  });
});
