import type { Rect } from '../../raster/rect.ts';
import type { Calibration, Forest, GrownForest } from '../classify/forest.ts';
import { AS_IT_IS, growForest } from '../classify/forest.ts';
import type { OwnShare } from '../classify/ownShare.ts';
import { BY_ITSELF } from '../classify/ownShare.ts';
import type { HeldGround } from '../ground/heldGround.ts';
import type { PictureNature } from '../nature/nature.ts';
import type { ScoredFault } from '../scoredFault.ts';
import { LEAST_SCORE } from '../scoredFault.ts';
import type { LinePoint } from './joinPaths.ts';
import { lineCandidates } from './lineCandidates.ts';
import lineForest from './lineForest.json' with { type: 'json' };
import { nameLine } from './nameLine.ts';
import { LINE_TRAITS, lineMiddle, linePath } from './lineTraits.ts';

/** The share of faults among the candidates that the classifier was trained on. */
export const LINES_TRAINED_SHARE: number = lineForest.share;

/**
 * A print has a dozen lines, so few that their own share goes to one of its ends on every other print. Of shares and
 * weights these find most on the training's pictures, each scored by a forest that never saw its photograph: F1 0.77, by
 * the own share alone 0.66, by the usual one alone 0.76 and with more false finds on clean ones. Most frames have no line
 * at all, and say so by themselves.
 */
export const LINES_OWN_SHARE: Readonly<Record<PictureNature, OwnShare>> = {
  print: { counts: 0.3, usual: 0.027 },
  frame: BY_ITSELF,
};

const trained: Forest = lineForest;
const grown = growForest(trained);

/** How the confidence of what is kept means what it says. */
export const LINES_KEPT: Calibration = trained.kept ?? AS_IT_IS;

/** A path keeps about one place for so many pixels. */
const PLACE_EVERY = 4;
const SIDE_TONE = LINE_TRAITS.indexOf('sideTone');
/** A line's softness is its own width's: its border is cut as sharp as the picture is. */
const SOFTNESS = 0.3;

function thinned(path: readonly LinePoint[], left: number, top: number): LinePoint[] {
  const tenth = (value: number): number => Math.round(10 * value) / 10;
  const kept: LinePoint[] = [];
  for (let i = 0; i < path.length; i++)
    if (i % PLACE_EVERY === 0 || i === path.length - 1)
      kept.push([tenth(left + path[i][0]), tenth(top + path[i][1])]);
  return kept;
}

/**
 * Finds what runs like a line: crests of curvature (Steger 1998) linked into paths, joined over gaps and crossings,
 * measured along their course, and scored by a forest of trees that was trained on seeded scratches, hairs, fibres
 * and creases over open photographs.
 *
 * @param levels those of the ground that are looked at, the finest first; see `lineLevels`
 * @param asked where lines are asked for, in pixels of the ground: those whose middle lies there, and some others
 * @param forest what scores them; the trained one where none is given
 * @returns every line that was measured, of both polarities, in pixels of the whole picture; with its path where it may be a fault
 */
export function findLines(
  ground: HeldGround,
  levels: readonly number[],
  asked: Rect | null = null,
  forest: GrownForest = grown,
): ScoredFault[] {
  const lines = lineCandidates(ground, levels, asked);
  const scores = forest.scoreAll(lines.map(({ traits }) => traits));
  const { left, top } = ground;
  return lines.map((line, k): ScoredFault => {
    const { polarity, strength, length, traits } = line;
    const [score, tone] = [scores[k], traits[SIDE_TONE]];
    // Written out: what is spread into an object takes longer than all the rest of it, thousands of times.
    if (score < LEAST_SCORE) {
      const [x, y] = lineMiddle(line);
      const r = line.width / 2;
      return {
        kind: 'scratch',
        polarity,
        x: left + x,
        y: top + y,
        r,
        strength,
        softness: SOFTNESS,
        tone,
        score,
        fit: length,
      };
    }
    const path = thinned(linePath(line), left, top);
    const [x, y] = path[path.length >> 1];
    const { kind, width } = nameLine(line, ground);
    const r = width / 2;
    return { kind, polarity, x, y, r, strength, softness: SOFTNESS, tone, path, score, fit: length };
  });
}
