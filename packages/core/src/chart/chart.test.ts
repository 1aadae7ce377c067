import { describe, expect, it } from 'vitest';

import { pixelsOf } from '../raster/pixels.ts';
import { dustyFrame } from '../testing/dustyFrame.ts';
import { chartFaults } from './chartFaults.ts';
import type { ChartEntry, ChartFrame, DustChart } from './chart.ts';
import { chartDust } from './dustChart.ts';
import { findCleaning } from './findCleaning.ts';
import type { Particle } from './particle.ts';
import { shadowAt } from './particle.ts';
import { onSensor, placeOnSensor } from './sensor.ts';
import type { Orientation } from './sensor.ts';
import { withCharted } from './withCharted.ts';

const SENSOR = { width: 320, height: 240 };
const particle = (x: number, y: number, r: number, depth: number): Particle => ({
  ...{ x, y, r, depth, border: 0.4 * r, stretch: 1, angle: 0 },
});
const DUST = [
  particle(70, 60, 6, 0.25),
  particle(160, 120, 9, 0.2),
  particle(250, 70, 4.5, 0.3),
  particle(90, 180, 12, 0.18),
  particle(240, 190, 7, 0.22),
];

interface Shot {
  readonly seed: number;
  readonly fNumber: number | null;
  readonly held?: Orientation;
  readonly dust?: readonly Particle[];
}

async function chartOfShots(shots: readonly Shot[]): Promise<{ chart: DustChart; frames: ChartFrame[] }> {
  const rasters = shots.map(({ seed, fNumber, held, dust = DUST }) =>
    dustyFrame(SENSOR, { seed, fNumber: fNumber ?? 16, dust, held }),
  );
  const frames = shots.map(({ fNumber, held = 1 }, i): ChartFrame => ({
    placement: placeOnSensor(rasters[i], held, SENSOR),
    ...{ fNumber, isReference: false },
  }));
  const chart = await chartDust(SENSOR, frames, (frame) => Promise.resolve(pixelsOf(rasters[frame])));
  return { chart, frames };
}
const sure = (chart: DustChart): readonly ChartEntry[] =>
  chart.entries.filter(({ confidence }) => confidence > 0.5);
const entryAt = (chart: DustChart, { x, y }: Particle): ChartEntry | undefined =>
  chart.entries.find(({ particle: own }) => Math.hypot(own.x - x, own.y - y) < 2);

describe('a dust chart', () => {
  it('finds what stays while the scenes change, each place with its size and depth, and nothing else', async () => {
    const { chart } = await chartOfShots(
      [16, 11, 16, 8, 11, 16, 8, 22].map((fNumber, k) => ({ seed: 100 + k, fNumber })),
    );
    expect(sure(chart).length).toBe(DUST.length);
    for (const one of DUST) {
      const entry = entryAt(chart, one);
      expect(entry?.confidence).toBeGreaterThan(0.5);
      expect((entry?.particle.r ?? 0) / one.r).toBeGreaterThan(0.85);
      expect((entry?.particle.r ?? 0) / one.r).toBeLessThan(1.15);
      expect(Math.abs((entry?.particle.depth ?? 0) - one.depth)).toBeLessThan(0.04);
    }
  }, 60_000);

  it('holds frames against one another on the sensor, however the camera was held', async () => {
    const { chart } = await chartOfShots(
      ([1, 6, 8, 3, 6, 1] as const).map((held, k) => ({ seed: 300 + k, fNumber: 16, held })),
    );
    for (const one of DUST) expect(entryAt(chart, one)?.confidence).toBeGreaterThan(0.3);
  }, 60_000);

  it('of frames without dirt holds nothing that a run would mend or even doubt', async () => {
    const { chart } = await chartOfShots(
      [1, 2, 3, 4, 5, 6].map((k) => ({ seed: 500 + k, fNumber: 11, dust: [] })),
    );
    expect(chart.entries.filter(({ confidence }) => confidence >= 0.6)).toEqual([]);
  }, 60_000);

  it('says of a frame where each place shows in it, and why one does not', () => {
    const entry = (one: Particle, number: number): ChartEntry => ({
      ...{ number, particle: one, z: 6, confidence: 0.9 },
      evidence: [{ frame: 0, evidence: 3, depth: one.depth, error: 0.02 }],
    });
    const outside = particle(400, 60, 6, 0.3);
    const chart: DustChart = { sensor: SENSOR, entries: [...DUST, outside].map(entry) };
    const raster = dustyFrame(SENSOR, { seed: 7, fNumber: 11, dust: DUST, held: 6 });
    const placement = placeOnSensor(raster, 6, SENSOR);
    const places = chartFaults(chart, pixelsOf(raster), placement, 11);
    expect(places.filter((place) => 'fault' in place)).toHaveLength(DUST.length);
    expect(places[5]).toMatchObject({ notShown: 'outside the frame' });
    const [first] = places;
    if (!('fault' in first)) throw new Error('the first place is seen');
    const [x, y] = onSensor(first.fault.x, first.fault.y, placement);
    expect(x).toBeCloseTo(70, 6);
    expect(y).toBeCloseTo(60, 6);
    // Wide open nothing is seen: the shadow is as large as the opening's, and so faint.
    const open = chartFaults(
      chart,
      pixelsOf(dustyFrame(SENSOR, { seed: 7, fNumber: 0.9, dust: DUST })),
      placeOnSensor(SENSOR, 1, SENSOR),
      0.9,
    );
    for (const place of open) expect('notShown' in place).toBe(true);
    // What a chart knows stands in the place of what was found there.
    const found = { ...first.fault, x: first.fault.x + 1, confidence: 0.4 };
    const elsewhere = { ...found, x: first.fault.x + 90 };
    const merged = withCharted([found, elsewhere], [first]);
    expect(merged).toHaveLength(2);
    expect(merged).not.toContain(found);
  });

  it('is closed by a cleaning of the sensor, and the next one opened', () => {
    const entry = (number: number, from: number, end: number): ChartEntry => ({
      ...{ number, z: 6, confidence: 0.9, particle: DUST[0] },
      evidence: Array.from({ length: 8 }, (_, frame) => ({
        ...{ frame, depth: 0.2, error: 0.02 },
        evidence: frame >= from && frame < end ? 3 : -2,
      })),
    });
    const gone = [1, 2, 3].map((number) => entry(number, 0, 5));
    const came = entry(4, 5, 8);
    const stays = entry(5, 0, 8);
    const cleaning = findCleaning([...gone, came, stays], 8);
    expect(cleaning?.frame).toBe(5);
    expect(cleaning?.before.map(({ number }) => number)).toEqual([1, 2, 3, 5]);
    expect(cleaning?.after.map(({ number }) => number)).toEqual([4, 5]);
    expect(
      findCleaning(
        [1, 2, 3].map((number) => entry(number, 0, 8)),
        8,
      ),
    ).toBeNull();
    // New dirt alone is no cleaning.
    expect(findCleaning([stays, came], 8)).toBeNull();
  });
});

describe('a particle', () => {
  it('takes as much light at every f-number, spread wider the larger the opening', () => {
    const one = particle(0, 0, 8, 0.3);
    const taken = (fNumber: number): number => {
      const { r, depth } = shadowAt(one, fNumber);
      return depth * r * r;
    };
    for (const fNumber of [1, 2, 4, 8, 16, 32]) expect(taken(fNumber)).toBeCloseTo(taken(16), 9);
    expect(shadowAt(one, 16)).toEqual({ r: 8, softness: 0.4, depth: 0.3 });
    expect(shadowAt(one, 8).softness).toBeCloseTo(0.8, 9);
  });
});
