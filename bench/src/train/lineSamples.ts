import type { GrownForest } from '@fennip/core/bench';
import type { Raster } from '@fennip/core/raster';
import {
  PRINT_LINE_LEVELS,
  LINES_OWN_SHARE,
  confident,
  findLines,
  keepLines,
  holdGround,
  lineCandidates,
  linePath,
  sumUp,
  withoutFit,
} from '@fennip/core/bench';
import { mulberry } from '@fennip/core/random';
import { wholeWindow } from '@fennip/core/raster';
import type { LaidFault, Sheet } from '@fennip/scenes';
import { layCrease, layFibres, layScratches } from '@fennip/scenes';
import { fromSheet, toSheet } from '../light.ts';
import { LINE_KINDS, layLines } from '../lines.ts';
import type { OnLines } from '../onLines.ts';
import { onLines } from '../onLines.ts';
import type { Examples, Kept } from './examples.ts';
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

/** A ground with lines laid on it, and where they run. */
function seenWithLines(
  ground: Ground,
  kind: number,
  density: number,
  seed: number,
  isColoured: boolean,
): { seen: Raster; truth: OnLines } {
  const sheet = toSheet(ground.raster);
  if (isColoured) takeColour(sheet);
  const laid = layAny(sheet, kind, density, seed);
  const seen = fromSheet(sheet);
  layGrain(seen, ground.grain, seed);
  const truths = laid.flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, r }] : []));
  const halfWidths = truths.map(({ r }) => r);
  return { seen, truth: onLines(truths, halfWidths) };
}

/** What lines are measured on. */
const GROUND = { beyond: 0, levels: PRINT_LINE_LEVELS.length };

/** Lays seeded lines on every ground, each kind at several densities, and measures every candidate. */
export function lineSamples(grounds: readonly Ground[], rounds: number): Examples {
  const samples = noExamples();
  const uniform = mulberry(77);
  for (let round = 0; round < rounds; round++)
    grounds.forEach((ground, g) => {
      for (let kind = 0; kind <= CREASES; kind++) {
        const seed = 2000 * round + 20 * g + kind;
        const density = DENSITIES[Math.floor(uniform() * DENSITIES.length)];
        const { seen, truth } = seenWithLines(ground, kind, density, seed, (round + g + kind) % 2 === 0);
        const lines = holdGround(wholeWindow(seen), GROUND, (ground) =>
          lineCandidates(ground, PRINT_LINE_LEVELS),
        );
        for (const line of lines) {
          const label = labelOf(truth.shareOf({ path: linePath(line), polarity: line.polarity }));
          if (label === null || (label === 0 && uniform() > NEGATIVES)) continue;
          samples.traits.push(Float64Array.from(line.traits));
          samples.labels.push(label);
          samples.grounds.push(ground);
        }
      }
    });
  return samples;
}

/** Lines that are kept on pictures of grounds that a forest never saw: how sure it is of each, and whether it is one. */
export function keptLines(forest: GrownForest, share: number, grounds: readonly Ground[]): Kept[] {
  const uniform = mulberry(78);
  return grounds.flatMap((ground, g) =>
    Array.from({ length: CREASES + 1 }, (_, kind) => {
      const density = DENSITIES[Math.floor(uniform() * DENSITIES.length)];
      const { seen, truth } = seenWithLines(
        ground,
        kind,
        density,
        9000 + 20 * g + kind,
        (g + kind) % 2 === 0,
      );
      const found = holdGround(wholeWindow(seen), GROUND, (ground) =>
        findLines(ground, PRINT_LINE_LEVELS, null, forest),
      );
      const lines = keepLines(confident([sumUp(found)], share, LINES_OWN_SHARE.print).map(withoutFit));
      return lines.map(({ path = [], polarity, confidence }): Kept => {
        const isFault = truth.shareOf({ path, polarity }) >= IS_FOUND;
        return { confidence, label: isFault ? 1 : 0 };
      });
    }).flat(),
  );
}

/** What is listed counts as right when half of it lies on a laid line. */
const IS_FOUND = 0.5;

function labelOf(share: number): 0 | 1 | null {
  if (share >= IS_FAULT) return 1;
  return share <= IS_NONE ? 0 : null;
}
