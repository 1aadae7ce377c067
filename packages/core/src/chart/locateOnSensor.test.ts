import { beforeAll, describe, expect, it } from 'vitest';
import { mulberry } from '../random/mulberry.ts';
import { pixelsOf } from '../raster/pixels.ts';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster, viewRaster } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { resizeRaster } from '../resample/resize.ts';
import { dustyFrame } from '../testing/dustyFrame.ts';
import type { ChartFrame, DustChart } from './chart.ts';
import { chartShoot } from './chartShoot.ts';
import { chartDust } from './dustChart.ts';
import { isWholeFrame, locateOnSensor, sensorPartOf } from './locateOnSensor.ts';
import type { Particle } from './particle.ts';
import { placeOnSensor } from './sensor.ts';

const SENSOR = { width: 480, height: 360 };

/** Dust all over a sensor, no two places near one another. */
const DUST: readonly Particle[] = (() => {
  const uniform = mulberry(11);
  const dust: Particle[] = [];
  while (dust.length < 22) {
    const r = 4 + 6 * uniform();
    const [x, y] = [20 + 440 * uniform(), 20 + 320 * uniform()];
    const isFree = dust.every((other) => Math.hypot(other.x - x, other.y - y) > 3 * (other.r + r));
    if (isFree) dust.push({ x, y, r, depth: 0.16 + 0.14 * uniform(), border: 0.4 * r, stretch: 1, angle: 0 });
  }
  return dust;
})();

/** Scenes so calm that a single one shows most of its dust. */
const whole = (seed: number, held: 1 | 6 = 1, dust = DUST): Raster =>
  dustyFrame(SENSOR, { seed, fNumber: 16, dust, held, blotches: 0.06 });
const partOf = (raster: Raster, rect: Rect): Raster => cloneRaster(viewRaster(raster, rect));
const frameOf = (raster: Raster): ChartFrame => ({
  placement: placeOnSensor(raster, 1, SENSOR),
  fNumber: 16,
  isReference: false,
});

const PART: Rect = { left: 130, top: 8, width: 330, height: 270 };
const SHOTS = [1, 2, 3, 4, 5].map((seed) => whole(seed));
let chart: DustChart;
beforeAll(async () => {
  chart = await chartDust(SENSOR, SHOTS.map(frameOf), (i) => Promise.resolve(pixelsOf(SHOTS[i])));
}, 60_000);

describe('the place of a picture on its sensor', () => {
  it('is that of the part that was cut out, as its dust says, within a pixel or two', () => {
    const found = locateOnSensor(partOf(whole(21), PART), 1, chart);
    expect(found).toMatchObject({ orientation: 1, scale: 1 });
    expect(Math.abs(found.left - PART.left)).toBeLessThanOrEqual(2);
    expect(Math.abs(found.top - PART.top)).toBeLessThanOrEqual(2);
    expect(sensorPartOf(found, 1, SENSOR)).toMatchObject({ left: found.left, sensor: SENSOR });
  });

  it('is found in a copy of half the sides as well', () => {
    const half = resizeRaster(whole(25), SENSOR.width / 2, SENSOR.height / 2);
    const rect = { left: 52, top: 6, width: 180, height: 160 };
    const found = locateOnSensor(partOf(half, rect), 1, chart);
    expect(found).toMatchObject({ orientation: 1, scale: 0.5 });
    expect(Math.abs(found.left - 2 * rect.left)).toBeLessThanOrEqual(4);
    expect(Math.abs(found.top - 2 * rect.top)).toBeLessThanOrEqual(4);
  });

  it('is found where another program set the picture upright and said nothing of it', () => {
    const upright = whole(22, 6);
    expect([upright.width, upright.height]).toEqual([360, 480]);
    const found = locateOnSensor(upright, 1, chart);
    expect(found).toMatchObject({ orientation: 6, scale: 1 });
    expect(Math.hypot(found.left, found.top)).toBeLessThanOrEqual(3);
  });

  it('is what the file says for a whole frame, and for a picture without that dust', () => {
    expect(isWholeFrame(locateOnSensor(whole(23), 1, chart), SENSOR)).toBe(true);
    const clean = partOf(whole(24, 1, []), PART);
    const found = locateOnSensor(clean, 1, chart);
    expect(found).toEqual(placeOnSensor(clean, 1, SENSOR));
    expect(sensorPartOf(found, 1, SENSOR)).toBeNull();
  });

  it('is kept whatever the size of the sensor it is told for', () => {
    const part = { sensor: SENSOR, orientation: 1, left: 130, top: 8, scale: 1 } as const;
    expect(placeOnSensor(PART, 6, { width: 240, height: 180 }, part)).toMatchObject({
      ...{ orientation: 1, scale: 2, left: 65, top: 4 },
    });
  });
});

describe('the chart of a shoot', () => {
  it('counts what a cropped frame says where that frame lies', async () => {
    const frames = [...SHOTS.slice(0, 3), partOf(whole(31), PART)];
    const shares: number[] = [];
    const made = await chartShoot(
      SENSOR,
      frames.map(frameOf),
      (i) => Promise.resolve(pixelsOf(frames[i])),
      (share) => shares.push(share),
    );
    expect(made.placements[3].scale).toBe(1);
    expect(Math.abs(made.placements[3].left - PART.left)).toBeLessThanOrEqual(2);
    const spoke = made.entries.filter(
      ({ confidence, evidence }) =>
        confidence > 0.5 && evidence.some(({ frame, evidence: own }) => frame === 3 && own > 1),
    );
    expect(spoke.length).toBeGreaterThanOrEqual(5);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
  }, 60_000);

  it('takes frames as their files say where there are none that are whole', async () => {
    const frames = [partOf(SHOTS[0], PART), partOf(SHOTS[1], PART)];
    const placed = frames.map(frameOf);
    const made = await chartShoot(SENSOR, placed, (i) => Promise.resolve(pixelsOf(frames[i])));
    expect(made.placements).toEqual(placed.map(({ placement }) => placement));
  }, 60_000);
});
