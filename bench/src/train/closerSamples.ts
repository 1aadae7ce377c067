import type { GrownForest } from '@fennip/core/bench';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { LEAST_RESCORED, doubtfulSpecks, speckLight } from '@fennip/core/bench';
import { mulberry } from '@fennip/core/random';
import { pixelsOf } from '@fennip/core/raster';
import { meetFindings } from '../find.ts';
import type { Ground } from './grounds.ts';
import { laySubjects } from './laySubjects.ts';
import { CLOSER_KINDS, picturesWithSpecks, specksOn } from './speckSamples.ts';
import { throughJpeg } from './throughJpeg.ts';

/** A doubtful speck, and what the finder said of it. */
export interface CloserExample {
  readonly ground: Ground;
  readonly light: readonly Float32Array[];
  readonly speck: Fault;
  readonly label: 0 | 1;
}

/** How often each ground is taken as it is, and with small things of a subject laid on it. */
const ROUNDS = { photograph: { plain: 4, subjects: 3 }, rendered: { plain: 2, subjects: 2 } };
/** Small things of a subject on a megapixel. */
const SUBJECTS = 45;
/** Share of the pictures that went through JPEG, as most do, and at which qualities. */
const JPEG = { share: 0.65, least: 72, more: 24 };

/** A picture as a camera's file gives it back. */
async function asFile(seen: Raster, uniform: () => number): Promise<Raster> {
  if (uniform() > JPEG.share) return seen;
  const quality = Math.round(JPEG.least + JPEG.more * uniform());
  return throughJpeg(seen, quality, uniform() < 0.5 ? '4:2:0' : '4:4:4');
}

/** Doubtful specks on pictures of grounds that a forest never saw. @param seed those of others are others */
export async function closerSamples(
  forest: GrownForest,
  share: number,
  grounds: readonly Ground[],
  seed: number,
): Promise<CloserExample[]> {
  const examples: CloserExample[] = [];
  const uniform = mulberry(700 + seed);
  const { plain, subjects } = grounds.some(({ photograph }) => photograph)
    ? ROUNDS.photograph
    : ROUNDS.rendered;
  const busy = grounds.map((ground, g): Ground => ({
    ...ground,
    raster: laySubjects(ground.raster, SUBJECTS, 500 + 100 * seed + g),
  }));
  const pictures = [
    ...picturesWithSpecks('frame', grounds, plain, 9000, CLOSER_KINDS),
    ...picturesWithSpecks('frame', busy, subjects, 21_000, CLOSER_KINDS),
  ];
  for (const { ground, seen, laid } of pictures) {
    const file = await asFile(seen, uniform);
    const pixels = pixelsOf(file);
    const specks = specksOn(file, 'frame', forest, share, LEAST_RESCORED);
    const doubtful = new Set(doubtfulSpecks(specks, 'frame'));
    // All of them are met, the surest first; of those the doubtful ones are learned from.
    const met = meetFindings(specks, laid);
    specks.forEach((speck, k) => {
      if (!doubtful.has(speck) || met[k].is === 'again') return;
      examples.push({
        ground,
        light: speckLight(speck, pixels),
        speck,
        label: met[k].is === 'found' ? 1 : 0,
      });
    });
  }
  return examples;
}
