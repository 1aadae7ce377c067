import type { Pixels } from '../raster/pixels.ts';
import { examineTile } from './examineTile.ts';
import type { Fault } from './fault.ts';
import { leastConfidence } from './sensitivity.ts';
import type { SpeckOptions } from './specks/findSpecks.ts';
import { SPECK_DEFAULTS } from './specks/findSpecks.ts';
import { examineTiles } from './tiles.ts';

export interface ExamineOptions extends SpeckOptions {
  /** 0 to 1, see {@link leastConfidence}. */
  readonly sensitivity: number;
}

export const EXAMINE_DEFAULTS: ExamineOptions = { ...SPECK_DEFAULTS, sensitivity: 0.5 };

/** Puts the findings of all tiles in one order that does not depend on which thread was faster: surest first. */
export const orderFindings = (findings: readonly Fault[]): Fault[] =>
  [...findings].sort((a, b) => b.confidence - a.confidence || a.y - b.y || a.x - b.x);

/** Finds the specks of a whole picture, one tile after the other. */
export function examinePicture(pixels: Pixels, options: ExamineOptions = EXAMINE_DEFAULTS): Fault[] {
  const least = leastConfidence(options.sensitivity);
  const findings = examineTiles(pixels.shape).flatMap((tile) => examineTile(tile, pixels, options));
  return orderFindings(findings).filter((fault) => fault.confidence >= least);
}
