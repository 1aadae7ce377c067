import type { Calibration } from '../classify/forest.ts';
import { logOdds } from '../classify/logOdds.ts';
import type { Fault } from '../../fault/fault.ts';
import type { PictureNature } from '../nature/nature.ts';
import { ranked } from '../ranked.ts';
import speckNet from './speckNet.json' with { type: 'json' };
import { logistic } from '../../solve/logistic.ts';

/** A small net that looks at specks, as a training script writes it. */
export interface SpeckNet {
  /** How its scores mean what they say, on photographs that were not trained on. */
  readonly calibration: Calibration;
  /** All its numbers, in the order of `NET_PARTS`. */
  readonly numbers: readonly number[];
}

const { calibration: TRAINED }: SpeckNet = speckNet;

/**
 * Specks of frames that are less sure than this are not looked at closely: hardly any of them is one. Far below what any
 * sensitivity lists, since a closer look makes many of them sure.
 */
export const LEAST_RESCORED = 0.003;
/** Surer ones need no closer look. */
const MOST_RESCORED = 0.97;
/** At most so many are looked at on a picture, the surest. */
const MOST = 300;
/**
 * What the finder said and what was seen from near count alike, in log-odds (a logarithmic opinion pool; Genest and Zidek
 * 1986): each sees what the other does not.
 */
const NEAR = 0.5;
/**
 * Of findings the specks that are worth a closer look. Those of a print are opaque and of any shape: what was trained on
 * shadows and particles does not know them.
 */
export const doubtfulSpecks = (findings: readonly Fault[], nature: PictureNature): Fault[] =>
  nature === 'print'
    ? []
    : findings
        .filter(
          ({ kind, confidence }) =>
            kind === 'speck' && confidence >= LEAST_RESCORED && confidence <= MOST_RESCORED,
        )
        .sort((a, b) => b.confidence - a.confidence)
        .slice(0, MOST);

/**
 * Findings as sure as they are after a closer look, surest first.
 *
 * @param doubtful those that were looked at
 * @param seen what the net said of each, see `scoreWithNet`
 */
export function rescored(
  findings: readonly Fault[],
  doubtful: readonly Fault[],
  seen: readonly number[],
  { slope, offset }: Calibration = TRAINED,
): Fault[] {
  const sure = new Map<Fault, number>();
  doubtful.forEach((fault, k) => {
    const odds = (1 - NEAR) * logOdds(fault.confidence) + NEAR * (slope * seen[k] + offset);
    sure.set(fault, logistic(odds));
  });
  return ranked(findings.map((fault) => ({ ...fault, confidence: sure.get(fault) ?? fault.confidence })));
}
