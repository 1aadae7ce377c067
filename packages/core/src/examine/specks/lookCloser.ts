import type { Forest, GrownForest } from '../classify/forest.ts';
import { growForest } from '../classify/forest.ts';
import type { Shares } from '../classify/ownPrior.ts';
import { ownPrior } from '../classify/ownPrior.ts';
import { logOdds } from '../classify/logOdds.ts';
import type { Fault } from '../fault.ts';
import type { PictureNature } from '../nature.ts';
import { ranked } from '../ranked.ts';
import veilForest from './veilForest.json' with { type: 'json' };

/** What scores specks that were looked at more closely. */
export interface CloserClassifier {
  readonly forest: GrownForest;
  /** The share of faults among those it was trained on. */
  readonly share: number;
  /** How much the own share of a picture's dark or bright ones counts, 0 to 1. */
  readonly counts: number;
}

const trained: Forest & { readonly counts: number } = veilForest;
const CLOSER: CloserClassifier = {
  forest: growForest(trained),
  share: trained.share,
  counts: trained.counts,
};

/** Specks that are surer or less sure than this are not looked at again: it would hardly change what is listed. */
const DOUBTFUL = { least: 0.04, most: 0.97 };
/**
 * What the finder said and what was seen from near count alike, in log-odds (a logarithmic opinion pool; Genest and Zidek
 * 1986): each sees what the other does not.
 */
const NEAR = 0.5;
/** At least this share of the doubtful ones is believed to be faults. */
const LEAST_SHARE = 0.01;

/**
 * Of findings the specks that are worth a closer look. Those of a print are opaque: no veil explains them.
 */
export const doubtfulSpecks = (findings: readonly Fault[], nature: PictureNature): Fault[] =>
  nature === 'print'
    ? []
    : findings.filter(
        ({ kind, confidence }) =>
          kind === 'speck' && confidence >= DOUBTFUL.least && confidence <= DOUBTFUL.most,
      );

/** What must be added to the scores of a picture's doubtful specks of one polarity: as many as usual are faults, or fewer. */
export function closerShift(
  scores: readonly number[],
  { share, counts }: Omit<CloserClassifier, 'forest'>,
): number {
  const shares: Shares = { least: LEAST_SHARE, most: share };
  return counts * ownPrior({ scores, otherOdds: 0, count: scores.length }, share, shares);
}

/** Log-odds after a closer look. @param before as the finder said, `seen` as was seen from near, with its shift */
export const pooled = (before: number, seen: number): number => (1 - NEAR) * before + NEAR * seen;

/**
 * Findings as sure as they are after a closer look, surest first.
 *
 * @param doubtful those that were looked at, with {@link VEIL_TRAITS} of each in `traits`
 */
export function afterCloserLook(
  findings: readonly Fault[],
  doubtful: readonly Fault[],
  traits: readonly (readonly number[])[],
  closer: CloserClassifier = CLOSER,
): Fault[] {
  if (doubtful.length === 0) return [...findings];
  const scores = closer.forest.scoreAll(traits);
  const sure = new Map<Fault, number>();
  // Where there is dust there need be no lit particles, and the other way round.
  for (const polarity of ['dark', 'bright'] as const) {
    const group = [...doubtful.keys()].filter((k) => doubtful[k].polarity === polarity);
    const shift = closerShift(
      group.map((k) => scores[k]),
      closer,
    );
    for (const k of group) {
      const odds = pooled(logOdds(doubtful[k].confidence), scores[k] + shift);
      sure.set(doubtful[k], 1 / (1 + Math.exp(-odds)));
    }
  }
  return ranked(findings.map((fault) => ({ ...fault, confidence: sure.get(fault) ?? fault.confidence })));
}
