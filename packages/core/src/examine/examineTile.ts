import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import { holdsPoint, moveRect } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import { findAreas } from './areas/findAreas.ts';
import { holdGround } from './ground/heldGround.ts';
import { measureTonalRange } from './ground/tonalRange.ts';
import { findLines } from './lines/findLines.ts';
import { LINE_LEVELS, lineLevels } from './lines/lineLevels.ts';
import type { ScoredFault } from './scoredFault.ts';
import { LEAST_SCORE } from './scoredFault.ts';
import { SPECK_LEVELS, findSpecks } from './specks/findSpecks.ts';
import type { PictureNature } from './nature/nature.ts';
import type { ExamineTile } from './tiles.ts';
import { OVERLAP } from './tiles.ts';

/** Faults of one group are as frequent as one another, and each group has its own share of the candidates. */
export type FaultGroup = 'dark specks' | 'bright specks' | 'lines' | 'areas';

/** What was measured of one group, with nothing decided. */
export interface Measured {
  /** The places that any share of faults could make likely. */
  readonly faults: readonly ScoredFault[];
  /** How many others there were, and the sum of their odds. */
  readonly others: number;
  readonly otherOdds: number;
}

/** What was measured on a tile, or on the whole picture. */
export type MeasuredPart = Readonly<Partial<Record<FaultGroup, Measured>>>;

/** Keeps what may be a fault, and counts the rest. @param least log-odds that is kept */
export function sumUp(scored: readonly ScoredFault[], least: number = LEAST_SCORE): Measured {
  const faults = scored.filter(({ score }) => score >= least);
  const otherOdds = scored.reduce((sum, { score }) => (score < least ? sum + Math.exp(score) : sum), 0);
  return { faults, others: scored.length - faults.length, otherOdds };
}

/** A slope of tone and its mirror image meet in a ridge at the border: lines so near it are that, in pixels. */
const BORDER_RIDGE = 3;
/** A peak of the grain on the last pixels and its mirror image make a small speck: one so small and so near is that, in pixels. */
const [BORDER_PEAK, SMALL] = [1, 3];
/** And in a peak at the corners: what lies so many radii from both borders is that. */
const CORNER_RADII = 0.8;

/** True if a place is an artefact of how the picture is carried on beyond its borders. */
function isMirrored({ x, y, r, path }: ScoredFault, picture: PictureShape): boolean {
  const toBorder = (px: number, py: number): [number, number] => [
    Math.min(px, picture.width - px),
    Math.min(py, picture.height - py),
  ];
  if (path) return path.every(([px, py]) => Math.min(...toBorder(px, py)) < BORDER_RIDGE);
  if (r < SMALL && Math.min(...toBorder(x, y)) < BORDER_PEAK) return true;
  return Math.max(...toBorder(x, y)) < CORNER_RADII * r;
}

/** A line without what runs on in the mirror image; null where nothing is left. */
function insidePicture(fault: ScoredFault, picture: PictureShape): ScoredFault | null {
  if (!fault.path) return fault;
  const path = fault.path.filter(([x, y]) => x >= 0 && y >= 0 && x <= picture.width && y <= picture.height);
  if (path.length < 2) return null;
  const [x, y] = path[path.length >> 1];
  return { ...fault, path, x, y };
}

/** What a tile is measured on: beyond the picture's own borders it goes on as far as beyond its own. */
const GROUND = { beyond: OVERLAP, levels: Math.max(SPECK_LEVELS, LINE_LEVELS) };

/**
 * Measures what is looked for on the picture as a whole: areas, which no tile holds.
 *
 * @param pixels encoded values of the whole picture
 * @returns outlines in pixels of the picture, with nothing decided
 */
export const examineWhole = (pixels: Pixels): MeasuredPart => ({
  areas: sumUp(findAreas(pixels), -Infinity),
});

/**
 * Measures the places whose centre lies in a tile.
 *
 * @param pixels encoded values of the tile and of what is looked at around it
 * @returns what was measured, in pixels of the whole picture, with nothing decided
 */
export function examineTile(tile: ExamineTile, pixels: Pixels, nature: PictureNature): MeasuredPart {
  const look = measureTonalRange(pixels.window(pictureRect(pixels.shape)).raster, nature);
  const own = (fault: ScoredFault): boolean =>
    holdsPoint(tile.keep, fault.x, fault.y) && !isMirrored(fault, pixels.shape);
  return holdGround(pixels.window(tile.read), GROUND, (ground) => {
    const asked = moveRect(tile.keep, -ground.left, -ground.top);
    const specks = findSpecks(ground, look, asked).filter(own);
    const lines = findLines(ground, lineLevels(nature, pixels.shape), asked).flatMap(
      (line) => insidePicture(line, pixels.shape) ?? [],
    );
    return {
      'dark specks': sumUp(specks.filter(({ polarity }) => polarity === 'dark')),
      'bright specks': sumUp(specks.filter(({ polarity }) => polarity === 'bright')),
      lines: sumUp(lines.filter(own)),
    };
  });
}
