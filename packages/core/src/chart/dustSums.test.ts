import { describe, expect, it } from 'vitest';
import { dustyFrame } from '../testing/dustyFrame.ts';
import { createDustSums } from './dustSums.ts';
import type { Particle } from './particle.ts';
import type { Orientation, SensorShape } from './sensor.ts';
import { placeOnSensor } from './sensor.ts';

const SENSOR: SensorShape = { width: 320, height: 240 };
const DUST: readonly Particle[] = [
  { x: 90, y: 70, r: 7, border: 2, depth: 0.2, stretch: 1, angle: 0 },
  { x: 230, y: 160, r: 10, border: 2, depth: 0.2, stretch: 1, angle: 0 },
];

function sumsOver(count: number, dust: readonly Particle[], held: (k: number) => Orientation = () => 1) {
  const sums = createDustSums(SENSOR);
  for (let k = 0; k < count; k++) {
    const frame = dustyFrame(SENSOR, { seed: 40 + k, fNumber: 16, dust, held: held(k) });
    sums.add(frame, placeOnSensor(frame, held(k), SENSOR, null), 1);
  }
  return sums.places();
}
const nearest = (places: ReturnType<typeof sumsOver>, x: number, y: number): number =>
  places.findIndex((place) => Math.hypot(place.x - x, place.y - y) < 6);

describe('rims that are added up over frames', () => {
  const dusty = sumsOver(8, DUST);

  it('stand out where the dust is, before all else', () => {
    for (const { x, y } of DUST) {
      const at = nearest(dusty, x, y);
      expect(at).toBeGreaterThanOrEqual(0);
      expect(at).toBeLessThan(2 * DUST.length);
    }
  });

  it('come out clearest first, each place once', () => {
    dusty.slice(1).forEach(({ z }, k) => expect(z).toBeLessThanOrEqual(dusty[k].z));
    for (const [k, one] of dusty.entries())
      for (const other of dusty.slice(0, k)) {
        const small = Math.min(one.r, other.r);
        if (Math.max(one.r, other.r) <= 1.7 * small)
          expect(Math.hypot(one.x - other.x, one.y - other.y)).toBeGreaterThanOrEqual(0.9 * small);
      }
  });

  it('say more with every frame', () => {
    const few = sumsOver(2, DUST);
    const { x, y } = DUST[1];
    const at = (places: typeof few): number => places[nearest(places, x, y)]?.z ?? 0;
    expect(at(dusty)).toBeGreaterThan(at(few));
  });

  it('are of the sensor however the camera was held', () => {
    const turned = sumsOver(8, DUST, (k) => ([1, 3, 6, 8] as const)[k % 4]);
    for (const { x, y } of DUST) {
      const at = nearest(turned, x, y);
      expect(at).toBeGreaterThanOrEqual(0);
      expect(at).toBeLessThan(2 * DUST.length);
    }
  });

  it('stand out nowhere as much where there is no dust', () => {
    const clean = sumsOver(8, []);
    const best = Math.max(0, ...clean.map(({ z }) => z));
    expect(best).toBeLessThan(dusty[nearest(dusty, DUST[1].x, DUST[1].y)].z);
  });
});
