import { describe, expect, it } from 'vitest';
import { discAt } from './disc.ts';
import { layStain } from './layStain.ts';
import { layChips, layTear } from './printDamage.ts';
import { layParticles, litParticles } from './litParticles.ts';
import { atFNumber, layDust, sensorDust } from './sensorDust.ts';

const sheet = () => ({ light: new Float32Array(200 * 100 * 3).fill(0.4), width: 200, height: 100 });

describe('faults', () => {
  it('are half as deep at their radius, whole inside and nothing beyond the border', () => {
    const disc = { x: 50, y: 50, r: 10, softness: 0.4, stretch: 1, angle: 0 };
    expect(discAt(disc, 50, 50)).toBe(1);
    expect(discAt(disc, 60, 50)).toBeCloseTo(0.5, 6);
    expect(discAt(disc, 64.1, 50)).toBe(0);
  });

  it('of a sensor take the same share of light from every colour, and say where', () => {
    const dusty = sheet();
    for (let i = 2; i < dusty.light.length; i += 3) dusty.light[i] = 0.8;
    const [fault] = layDust(dusty, [
      { u: 0.5, v: 0.5, size: 0.03, softness: 0.3, depth: 0.25, stretch: 1, angle: 0 },
    ]);
    expect(fault).toMatchObject({ x: 100, y: 50, r: 6, depth: 0.25 });
    const i = 3 * (50 * 200 + 100);
    expect(dusty.light[i]).toBeCloseTo(0.3, 6);
    expect(dusty.light[i + 2]).toBeCloseTo(0.6, 6);
  });

  it('of a sensor take as much light at every f-number, spread wider the larger the opening', () => {
    const [particle] = sensorDust(1, 3);
    const taken = ({ size, depth }: typeof particle): number => depth * size ** 2;
    expect(atFNumber(particle, 16)).toEqual(particle);
    const open = atFNumber(particle, 1.4);
    expect(taken(open)).toBeCloseTo(taken(particle), 9);
    expect(open.depth).toBeLessThan(particle.depth / 5);
    expect(atFNumber(particle, 22)).toMatchObject({ size: particle.size, depth: particle.depth });
  });

  it('in water cover a share of the scene with light of their own', () => {
    const lit = sheet();
    const particle = {
      x: 30,
      y: 40,
      r: 8,
      softness: 0.2,
      stretch: 1,
      angle: 0,
      depth: 0.5,
      colour: [1, 1, 1] as const,
    };
    layParticles(lit, [particle]);
    expect(lit.light[3 * (40 * 200 + 30)]).toBeCloseTo(0.7, 6);
    expect(lit.light[0]).toBeCloseTo(0.4, 6);
  });

  it('of a torn print bare its paper, widest at the edge of the sheet, and nothing away from the tear', () => {
    const torn = sheet();
    const { path = [] } = layTear(torn, [0, 50], [150, 60], 4);
    const baredAt = (x: number): number =>
      Array.from({ length: 100 }, (_, y) => torn.light[3 * (y * 200 + x)]).filter((light) => light > 0.6)
        .length;
    expect(path[0][0]).toBeCloseTo(0, 6);
    expect(baredAt(6)).toBeGreaterThan(baredAt(130));
    expect(baredAt(130)).toBeGreaterThan(0);
    expect(baredAt(190)).toBe(0);
    expect(torn.light[3 * (5 * 200 + 100)]).toBeCloseTo(0.4, 6);
  });

  it('of a stained print let every colour through alike, the least at the rim', () => {
    const stained = sheet();
    layStain(stained, 100, 50, 30, 2);
    const row = Array.from({ length: 100 }, (_, k) => stained.light[3 * (50 * 200 + 100 + k)]);
    expect(row[0]).toBeGreaterThan(0.4 * 0.6);
    expect(row[0]).toBeLessThan(0.4 * 0.85);
    expect(Math.min(...row)).toBeLessThan(row[0] - 0.03);
    expect(row[99]).toBeCloseTo(0.4, 6);
    const i = 3 * (50 * 200 + 100);
    expect(stained.light[i + 1]).toBe(stained.light[i]);
  });

  it('of a neglected print are chips as bright as paper, no smaller than holes', () => {
    for (const { r, polarity } of layChips(sheet(), 40, 3)) {
      expect(polarity).toBe('bright');
      expect(r).toBeGreaterThanOrEqual(4);
    }
  });

  it('are the same for the same seed, and others for another', () => {
    expect(sensorDust(20, 5)).toEqual(sensorDust(20, 5));
    expect(sensorDust(20, 5)).not.toEqual(sensorDust(20, 6));
    expect(litParticles(20, 4000, 3000, 5)).toEqual(litParticles(20, 4000, 3000, 5));
  });
});
