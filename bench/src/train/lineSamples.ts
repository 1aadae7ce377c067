import { LINE_LEVELS, lineCandidates, lumaLevels, mulberry } from '@fennip/core';
import type { LaidFault, Sheet } from '@fennip/scenes';
import { layCrease, layFibres, layScratches } from '@fennip/scenes';
import { fromSheet, toSheet } from '../light.ts';
import { LINE_KINDS, layLines } from '../lines.ts';
import { onLines } from '../onLines.ts';
import type { Examples } from './examples.ts';
import { noExamples } from './examples.ts';
import type { Ground } from './grounds.ts';
import { layGrain } from './grounds.ts';
import { takeColour } from './takeColour.ts';

/** How many lines a megapixel has: from none to a print that lay about. */
const DENSITIES = [0, 4, 12, 30];
/** Share of the lines without a fault that is kept: they are many, and much alike. */
const NEGATIVES = 0.35;
/** A line is a fault when so much of it lies on one, and none when hardly any does. */
const [IS_FAULT, IS_NONE] = [0.6, 0.12];

const CREASES = LINE_KINDS.length + 2;

function layAny(sheet: Sheet, kind: number, density: number, seed: number): LaidFault[] {
  const { width, height } = sheet;
  const count = Math.round((density * width * height) / 1e6);
  if (kind < LINE_KINDS.length) return layLines(sheet, LINE_KINDS[kind], seed, density).faults;
  if (kind === LINE_KINDS.length) return layScratches(sheet, count, seed);
  if (kind < CREASES) return layFibres(sheet, count, seed);
  const uniform = mulberry(seed);
  return Array.from({ length: Math.min(4, Math.ceil(count / 8)) }, (_, k) =>
    layCrease(sheet, [0, height * uniform()], [width, height * uniform()], seed + k),
  );
}

/** Lays seeded lines on every ground, each kind at several densities, and measures every candidate. */
export function lineSamples(grounds: readonly Ground[], rounds: number): Examples {
  const samples = noExamples();
  const uniform = mulberry(77);
  for (let round = 0; round < rounds; round++)
    grounds.forEach((ground, g) => {
      for (let kind = 0; kind <= CREASES; kind++) {
        const seed = 2000 * round + 20 * g + kind;
        const sheet = toSheet(ground.raster);
        if ((round + g + kind) % 2 === 0) takeColour(sheet);
        const laid = layAny(sheet, kind, DENSITIES[Math.floor(uniform() * DENSITIES.length)], seed);
        const seen = fromSheet(sheet);
        layGrain(seen, ground.grain, seed);
        const truths = laid.flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, r }] : []));
        const truth = onLines(
          truths,
          truths.map(({ r }) => r),
        );
        for (const line of lineCandidates(lumaLevels(seen, LINE_LEVELS), seen)) {
          const label = labelOf(truth.shareOf(line));
          if (label === null || (label === 0 && uniform() > NEGATIVES)) continue;
          samples.traits.push(Float64Array.from(line.traits));
          samples.labels.push(label);
          samples.grounds.push(ground);
        }
      }
    });
  return samples;
}

function labelOf(share: number): 0 | 1 | null {
  if (share >= IS_FAULT) return 1;
  return share <= IS_NONE ? 0 : null;
}
