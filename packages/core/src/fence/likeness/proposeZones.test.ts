import { describe, expect, it } from 'vitest';
import type { Raster } from '../../raster/raster.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { likenessPlanes } from './likenessPlanes.ts';
import { proposeZones } from './proposeZones.ts';

const [WIDTH, HEIGHT] = [200, 150];
/** A rough ground of stones, which is no zone. */
const rough = (x: number, y: number): number => 0.4 + 0.25 * Math.sin(x * 1.7) * Math.sin(y * 2.1);
const scene = (tone: (x: number, y: number, c: number) => number): Raster =>
  pictureOf(WIDTH, HEIGHT, tone, { grain: 0.006 });
const zonesOf = (picture: Raster) => {
  const planes = likenessPlanes(picture);
  return proposeZones(planes).map((zone) => ({ ...zone, width: planes.width }));
};

describe('zones that are proposed', () => {
  it('are the sky above a rough ground, where it lies', () => {
    const [sky, ...others] = zonesOf(
      scene((x, y, c) => (y < 60 ? 0.55 + (c === 2 ? 0.15 : 0) : rough(x, y))),
    );
    expect(others).toEqual([]);
    expect(sky.kind).toBe('sky');
    expect(sky.share).toBeGreaterThan(0.3);
    expect(sky.share).toBeLessThan(0.42);
    expect(sky.touches[3 * sky.width + 50]).toBe(1);
    expect(sky.touches[(sky.touches.length / sky.width - 3) * sky.width + 50]).toBe(0);
  });

  it('are the water that a diver sees to the sides', () => {
    const zones = zonesOf(
      scene((x, y, c) => (Math.hypot(x - 100, y - 90) < 50 ? rough(x, y) : [0.02, 0.12, 0.2][c])),
    );
    expect(zones.map(({ kind }) => kind)).toEqual(['water']);
  });

  it('are the paper around a print', () => {
    const isPrint = (x: number, y: number): boolean => x > 30 && x < 170 && y > 25 && y < 125;
    const zones = zonesOf(scene((x, y, c) => (isPrint(x, y) ? rough(x, y) : 0.93 - 0.03 * c)));
    expect(zones.map(({ kind }) => kind)).toEqual(['paper']);
  });

  it('are none where all is rough, and at most one of each kind', () => {
    expect(zonesOf(scene(rough))).toEqual([]);
    const twoSkies = zonesOf(
      scene((x, y, c) => (y < 60 && Math.abs(x - 100) > 12 ? 0.55 + (c === 2 ? 0.15 : 0) : rough(x, y))),
    );
    expect(twoSkies.filter(({ kind }) => kind === 'sky')).toHaveLength(1);
  });
});
