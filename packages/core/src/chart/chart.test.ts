import { describe, expect, it } from 'vitest';

import { pixelsOf } from '../raster/pixels.ts';
import { dustyFrame } from '../testing/dustyFrame.ts';
import { chartFaults } from './chartFaults.ts';
import type { ChartEntry, ChartFrame, DustChart } from './chart.ts';
import type { SpannedCharts } from './chartSpans.ts';
import { chartSpans } from './chartSpans.ts';
import { chartDust } from './dustChart.ts';
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

/** Frames as they were shot, with a way to load them. */
function shoot(shots: readonly Shot[]) {
  const rasters = shots.map(({ seed, fNumber, held, dust = DUST }) =>
    dustyFrame(SENSOR, { seed, fNumber: fNumber ?? 16, dust, held }),
  );
  const frames = shots.map(({ fNumber, held = 1 }, i): ChartFrame => ({
    placement: placeOnSensor(rasters[i], held, SENSOR),
    ...{ fNumber, isReference: false },
  }));
  return { frames, load: (frame: number) => Promise.resolve(pixelsOf(rasters[frame])) };
}
async function chartOfShots(shots: readonly Shot[]): Promise<{ chart: DustChart; frames: ChartFrame[] }> {
  const { frames, load } = shoot(shots);
  return { chart: await chartDust(SENSOR, frames, load), frames };
}
function spansOfShots(shots: readonly Shot[]): Promise<SpannedCharts> {
  const { frames, load } = shoot(shots);
  return chartSpans(SENSOR, frames, load);
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

  it('is closed by a cleaning of the sensor, and the next one opened with what stayed and what came', async () => {
    const stays = [DUST[0], DUST[3]];
    const came = [particle(160, 205, 8, 0.35)];
    const gone = [DUST[1], DUST[2], DUST[4]].concat(
      [
        [30, 120],
        [200, 30],
        [120, 30],
        [290, 140],
        [200, 150],
        [40, 215],
      ].map(([x, y], k) => particle(x, y, 5 + (k % 3), 0.3)),
    );
    const shots = (first: number, count: number, dust: readonly Particle[]): Shot[] =>
      Array.from({ length: count }, (_, k) => ({ seed: 700 + first + k, fNumber: 16, dust }));
    const { spans } = await spansOfShots([
      ...shots(0, 7, [...stays, ...gone]),
      ...shots(7, 5, [...stays, ...came]),
    ]);
    expect(spans.map(({ first, end }) => [first, end])).toEqual([
      [0, 7],
      [7, 12],
    ]);
    const [before, after] = spans.map(({ entries }) => ({ sensor: SENSOR, entries }));
    const seenIn = (chart: DustChart, dust: readonly Particle[]): number =>
      dust.filter((one) => (entryAt(chart, one)?.confidence ?? 0) > 0.3).length;
    expect([stays, came, gone].map((dust) => seenIn(before, dust))).toEqual([2, 0, gone.length]);
    expect([stays, came, gone].map((dust) => seenIn(after, dust))).toEqual([2, 1, 0]);
    for (const { first, end, entries } of spans)
      for (const { frame } of entries.flatMap(({ evidence }) => evidence)) {
        expect(frame).toBeGreaterThanOrEqual(first);
        expect(frame).toBeLessThan(end);
      }
  }, 120_000);

  it('is not closed where dirt only comes, or is seen no more because the lens is wide open', async () => {
    for (const shots of [
      [1, 2, 3, 4, 5, 6, 7].map((k) => ({
        seed: 800 + k,
        fNumber: 16,
        dust: k < 4 ? DUST.slice(0, 1) : DUST,
      })),
      [1, 2, 3, 4, 5, 6, 7].map((k) => ({ seed: 820 + k, fNumber: k < 5 ? 16 : 1.4, dust: DUST })),
    ])
      expect((await spansOfShots(shots)).spans).toHaveLength(1);
  }, 120_000);
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
