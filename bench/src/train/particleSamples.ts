import type { ChartEntry, ChartFrame } from '@fennip/core/chart';
import type { Raster } from '@fennip/core/raster';
import { chartDust, particleTraits } from '@fennip/core/bench';
import { placeOnSensor } from '@fennip/core/chart';
import { mulberry } from '@fennip/core/random';
import { pixelsOf } from '@fennip/core/raster';
import type { SensorParticle } from '@fennip/scenes';
import { atFNumber, layDust, sensorDust } from '@fennip/scenes';
import { cutViews } from '../chartViews.ts';
import { fromSheet, toSheet } from '../light.ts';
import type { Examples } from './examples.ts';
import { noExamples } from './examples.ts';
import type { Ground } from './grounds.ts';
import { layGrain } from './grounds.ts';

/** Sides of the frames: small, so that many sensors are seen. */
const [WIDTH, HEIGHT] = [400, 300];
/** How many frames a chart is made from. */
const FRAMES = [2, 3, 4, 6, 8, 8, 8, 12];
const F_NUMBERS = [4, 5.6, 8, 8, 11, 11, 16, 16, 22];
/** Particles of a sensor, from a clean one to a neglected one. */
const PARTICLES = [2, 6, 10, 16];
/** A shadow shallower than this in every frame is none that could be found. */
const LEAST_DEPTH = 0.02;

interface View {
  readonly ground: Ground;
  readonly raster: Raster;
}

/** What an entry is: laid dust, none, or something that says nothing either way. */
function labelOf({ particle: { x, y, r } }: ChartEntry, laid: readonly SensorParticle[]): 0 | 1 | null {
  let label: 0 | null = 0;
  for (const fault of laid) {
    const own = fault.size * WIDTH;
    const away = Math.hypot(fault.u * WIDTH - x, fault.v * HEIGHT - y);
    if (away < Math.max(1.5, 0.5 * own) && r > 0.4 * own && r < 2.5 * own) return 1;
    if (away < 1.5 * (own + r)) label = null;
  }
  return label;
}

/** Places of charts, and what makes them places of one chart. */
export interface PlaceExamples extends Examples {
  /** The sensor of each row, and what each frame says for it, in log likelihood. */
  readonly sensors: number[];
  readonly said: (readonly number[])[];
}

/** Charts of seeded sensors over the grounds of one photograph at a time: every place that is fitted is an example. */
export async function particleSamples(grounds: readonly Ground[], count: number): Promise<PlaceExamples> {
  const samples: PlaceExamples = { ...noExamples(), sensors: [], said: [] };
  const uniform = mulberry(4711);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(uniform() * from.length)];
  const pools = [...new Set(grounds.map(({ photograph }) => photograph))].map((photograph) =>
    grounds
      .filter((ground) => ground.photograph === photograph)
      .flatMap((ground) =>
        cutViews(ground.raster, WIDTH, HEIGHT).map((raster): View => ({ ground, raster })),
      ),
  );
  for (let sensor = 0; sensor < count; sensor++) {
    const pool = pools[sensor % pools.length];
    const particles = sensorDust(pick(PARTICLES), 300 + sensor).map((particle) => ({
      ...particle,
      size: (particle.size * 3300) / WIDTH,
      depth: particle.depth * (0.4 + 0.6 * uniform()),
    }));
    const shots = pick(FRAMES);
    const isTold = uniform() < 0.7;
    const shot = Array.from({ length: shots }, (_, k) => {
      const fNumber = isTold ? pick(F_NUMBERS) : null;
      const { ground, raster } = pick(pool);
      const sheet = toSheet(raster);
      layDust(
        sheet,
        particles.map((particle) => atFNumber(particle, fNumber ?? 16)),
      );
      const seen = fromSheet(sheet);
      layGrain(seen, ground.grain, 50 * sensor + k);
      return { fNumber, ground, seen };
    });
    const sides = { width: WIDTH, height: HEIGHT };
    const frames = shot.map(({ seen, fNumber }): ChartFrame => ({
      placement: placeOnSensor(seen, 1, sides),
      ...{ fNumber, isReference: false },
    }));
    const chart = await chartDust(sides, frames, (frame) => Promise.resolve(pixelsOf(shot[frame].seen)));
    const visible = particles.filter((particle) =>
      frames.some(({ fNumber }) => atFNumber(particle, fNumber ?? 16).depth >= LEAST_DEPTH),
    );
    for (const entry of chart.entries) {
      const label = labelOf(entry, visible);
      if (label === null) continue;
      samples.traits.push(particleTraits(entry.particle, entry.z, entry.evidence, frames));
      samples.labels.push(label);
      samples.grounds.push(shot[0].ground);
      samples.sensors.push(sensor);
      samples.said.push(entry.evidence.map(({ evidence }) => evidence));
    }
    if (sensor % 20 === 0) console.log(`sensor ${sensor}: ${chart.entries.length} places`);
  }
  return samples;
}
