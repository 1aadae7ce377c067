import type { GrownForest, MeasuredSpeck } from '@fennip/core/bench';
import type { PictureNature } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import {
  BY_ITSELF,
  LEAST_CONFIDENCE,
  SPECK_LEVELS,
  confident,
  findSpecks,
  holdGround,
  keepStrongest,
  measureTonalRange,
  measureSpecks,
  speckCandidates,
  sumUp,
} from '@fennip/core/bench';
import { mulberry } from '@fennip/core/random';
import { wholeWindow } from '@fennip/core/raster';
import type { LaidFault, Sheet } from '@fennip/scenes';
import { layChips, layFibres, layScratches, laySpecks } from '@fennip/scenes';
import { asSeen, dust, particles } from '../damage.ts';
import { fromSheet, toSheet } from '../light.ts';
import { meetFindings } from '../find.ts';
import type { Examples, Kept } from './examples.ts';
import { noExamples } from './examples.ts';
import type { Ground } from './grounds.ts';
import { laySpreadGrain } from './grounds.ts';
import { takeColour } from './takeColour.ts';

/** What specks are measured on. */
const GROUND = { beyond: 0, levels: SPECK_LEVELS };

/** How many specks a megapixel has: from none to a neglected print. */
const DENSITIES = [0, 4, 15, 45, 90];

/** Share of the hard specks that are chips of the emulsion. */
const CHIPS = 0.15;

/** Dust and particles are those of camera frames; hard specks lie on prints. */
const KINDS = { frame: ['dust', 'particles'], print: ['hard specks'] } as const satisfies Record<
  PictureNature,
  readonly string[]
>;
/** A closer look also learns from shadows that are deeper and sharper than most: nobody would take them for the subject's. */
export const CLOSER_KINDS = ['dust', 'particles', 'deep dust'] as const;
type Kind = (typeof KINDS)[PictureNature][number] | (typeof CLOSER_KINDS)[number];

/** Share of the places without a fault that is kept: they are many, and much alike. */
const NEGATIVES = 0.35;
/** Share of the grounds on which lines were laid too. */
const WITH_LINES = 0.3;

/** A sensor's dirt whose shadows take a fifth to four fifths of the light, with borders from sharp to soft. */
function deepDust(sheet: Sheet, count: number, seed: number): LaidFault[] {
  const uniform = mulberry(seed + 3);
  return dust(sheet, count, seed, (particle) => ({
    ...particle,
    depth: 0.2 + 0.6 * uniform(),
    softness: 0.1 + 0.5 * uniform(),
  }));
}

/** Dust, particles or hard specks, as many as a density gives; or nothing at all. */
function layAny(sheet: Sheet, kind: Kind, density: number, seed: number): LaidFault[] {
  const count = Math.round((density * sheet.width * sheet.height) / 1e6);
  switch (kind) {
    case 'dust':
      return dust(sheet, count, seed);
    case 'deep dust':
      return deepDust(sheet, count, seed);
    case 'particles':
      return particles(sheet, count, seed);
    case 'hard specks': {
      const chips = Math.round(CHIPS * count);
      return [...laySpecks(sheet, count - chips, seed), ...layChips(sheet, chips, seed + 7)];
    }
  }
}

/** What a candidate is: a laid fault, none, or something that says nothing either way. */
function labelOf({ x, y, r, candidate }: MeasuredSpeck, laid: readonly LaidFault[]): 0 | 1 | null {
  let label: 0 | null = 0;
  for (const fault of laid) {
    const away = Math.hypot(fault.x - x, fault.y - y);
    const isSame = fault.polarity === candidate.polarity && r > 0.45 * fault.r && r < 2.2 * fault.r;
    if (isSame && away < Math.max(1.5, 0.55 * fault.r)) return 1;
    // Nearly there, or a ring around it: neither a good example nor a bad one.
    if (away < 1.6 * fault.r + r) label = null;
  }
  return label;
}

function measuredOn(raster: Raster, nature: PictureNature): MeasuredSpeck[] {
  const look = measureTonalRange(raster, nature);
  return holdGround(wholeWindow(raster), GROUND, (ground) =>
    measureSpecks(speckCandidates(ground), ground, look),
  );
}

/** A ground with specks laid on it, and now and then lines. @param uniform 0 to 1, seeded */
function seenWithSpecks(
  ground: Ground,
  kind: Kind,
  seed: number,
  isColoured: boolean,
  uniform: () => number,
): { seen: Raster; laid: LaidFault[] } {
  const sheet = toSheet(ground.raster);
  if (isColoured) takeColour(sheet);
  const density = DENSITIES[Math.floor(uniform() * DENSITIES.length)];
  // Scratches and fibres break up into what looks like specks: those are none.
  if (uniform() < WITH_LINES) {
    const lines = Math.round((12 * sheet.width * sheet.height) / 1e6);
    layScratches(sheet, lines, seed + 5);
    layFibres(sheet, Math.ceil(lines / 2), seed + 6);
  }
  const before = { ...sheet, light: sheet.light.slice() };
  const laid = asSeen(layAny(sheet, kind, density, seed), before, sheet);
  const seen = fromSheet(sheet);
  laySpreadGrain(seen, ground.grain, seed);
  return { seen, laid };
}

/** Lays seeded faults on every ground, each kind at several densities, and measures every candidate. */
export function speckSamples(grounds: readonly Ground[], rounds: number, nature: PictureNature): Examples {
  const samples = noExamples();
  const uniform = mulberry(99);
  for (let round = 0; round < rounds; round++)
    grounds.forEach((ground, g) => {
      KINDS[nature].forEach((kind, k) => {
        const seed = 1000 * round + 10 * g + k;
        const { seen, laid } = seenWithSpecks(ground, kind, seed, (round + g + k) % 2 === 0, uniform);
        for (const speck of measuredOn(seen, nature)) {
          const label = labelOf(speck, laid);
          if (label === null || (label === 0 && uniform() > NEGATIVES)) continue;
          samples.traits.push(Float64Array.from(speck.traits));
          samples.labels.push(label);
          samples.grounds.push(ground);
        }
      });
    });
  return samples;
}

/** A picture that specks are laid on, and where. */
export interface SpeckedPicture {
  readonly ground: Ground;
  readonly seen: Raster;
  readonly laid: readonly LaidFault[];
}

/** Pictures of grounds, each with every kind of specks so often. @param seed pictures of other seeds are others */
export function picturesWithSpecks(
  nature: PictureNature,
  grounds: readonly Ground[],
  rounds: number,
  seed: number,
  kinds: readonly Kind[] = KINDS[nature],
): SpeckedPicture[] {
  const uniform = mulberry(seed);
  return Array.from({ length: rounds }, (_, round) =>
    grounds.flatMap((ground, g) =>
      kinds.map((kind, k): SpeckedPicture => {
        const own = seed + 1000 * round + 10 * g + k;
        return { ground, ...seenWithSpecks(ground, kind, own, (round + g + k) % 2 === 0, uniform) };
      }),
    ),
  ).flat();
}

/**
 * What a forest keeps on a picture, surest first.
 *
 * @param share of faults among the candidates that it was trained on
 * @param least what is less sure is left out
 */
export function specksOn(
  seen: Raster,
  nature: PictureNature,
  forest: GrownForest,
  share: number,
  least = LEAST_CONFIDENCE,
): Fault[] {
  const found = holdGround(wholeWindow(seen), GROUND, (held) =>
    findSpecks(held, measureTonalRange(seen, nature), null, forest),
  );
  return keepStrongest(
    (['dark', 'bright'] as const).flatMap((polarity) =>
      confident([sumUp(found.filter((speck) => speck.polarity === polarity))], share, BY_ITSELF, least),
    ),
  ).sort((a, b) => b.confidence - a.confidence);
}

/** Specks that are kept on pictures of grounds that a forest never saw: how sure it is of each, and whether it is one. */
export const keptSpecks = (
  nature: PictureNature,
  forest: GrownForest,
  share: number,
  grounds: readonly Ground[],
): Kept[] =>
  picturesWithSpecks(nature, grounds, 1, 9000).flatMap(({ seen, laid }) =>
    meetFindings(specksOn(seen, nature, forest, share), laid).flatMap(({ confidence, is }): Kept[] =>
      is === 'again' ? [] : [{ confidence, label: is === 'found' ? 1 : 0 }],
    ),
  );
