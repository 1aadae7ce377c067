import type { Fault } from '@fennip/core/fault';
import type { LaidFault } from '@fennip/scenes';

/** A finding as far as scoring needs it. */
export type Finding = Pick<Fault, 'x' | 'y' | 'confidence'>;

export interface FindScore {
  readonly found: number;
  readonly missed: number;
  readonly wrong: number;
  readonly precision: number;
  readonly recall: number;
  readonly f1: number;
}

/** What each finding is, surest first: the first on a fault, one more on a fault that is already met, or none. */
export function meetFindings(
  findings: readonly Finding[],
  laid: readonly LaidFault[],
): { readonly confidence: number; readonly is: 'found' | 'again' | 'wrong' }[] {
  const met = new Set<number>();
  return [...findings]
    .sort((a, b) => b.confidence - a.confidence)
    .map(({ x, y, confidence }) => {
      const away = (fault: LaidFault): number => Math.hypot(fault.x - x, fault.y - y);
      const hit = laid.findIndex((fault, i) => !met.has(i) && away(fault) < Math.max(2, fault.r));
      if (hit >= 0) {
        met.add(hit);
        return { confidence, is: 'found' };
      }
      return { confidence, is: laid.some((fault) => away(fault) < fault.r) ? 'again' : 'wrong' };
    });
}

/** A finding meets a fault when its centre lies on it; each fault is met once, the surest finding first. */
export function scoreFindings(findings: readonly Finding[], laid: readonly LaidFault[]): FindScore {
  const meetings = meetFindings(findings, laid);
  const found = meetings.filter(({ is }) => is === 'found').length;
  const wrong = meetings.filter(({ is }) => is === 'wrong').length;
  return { ...rates(found, wrong, laid.length), found, wrong, missed: laid.length - found };
}

/** F1 of what was found and what was wrong; 1 where nothing lies there and nothing was found. */
export const f1Of = (found: number, wrong: number, laid: number): number =>
  found + wrong + laid === 0 ? 1 : (2 * found) / (found + wrong + laid);

function rates(found: number, wrong: number, laid: number): Pick<FindScore, 'precision' | 'recall' | 'f1'> {
  const precision = found + wrong > 0 ? found / (found + wrong) : 1;
  const recall = laid > 0 ? found / laid : 1;
  return {
    precision,
    recall,
    f1: precision + recall > 0 ? (2 * precision * recall) / (precision + recall) : 0,
  };
}

/** What the order of all findings is worth, whatever the sensitivity. */
export interface RankScore {
  /** The best F1 that any one sensitivity gives. */
  readonly bestF1: number;
  /** Area under the curve of precision against recall. */
  readonly averagePrecision: number;
  /** Share that is found while at most so many false finds a megapixel are listed. */
  readonly recallAt: (falseFindsPerMegapixel: number) => number;
}

/** @param megapixels of the picture */
export function rankFindings(
  findings: readonly Finding[],
  laid: readonly LaidFault[],
  megapixels: number,
): RankScore {
  const curve: { readonly recall: number; readonly wrongPerMegapixel: number }[] = [];
  let [found, wrong, bestF1, sum] = [0, 0, 0, 0];
  for (const { is } of meetFindings(findings, laid)) {
    if (is === 'found') {
      found++;
      sum += found / (found + wrong);
    }
    if (is === 'wrong') wrong++;
    const { f1, recall } = rates(found, wrong, laid.length);
    bestF1 = Math.max(bestF1, f1);
    curve.push({ recall, wrongPerMegapixel: wrong / megapixels });
  }
  return {
    bestF1,
    averagePrecision: laid.length > 0 ? sum / laid.length : 1,
    recallAt: (most) =>
      Math.max(
        0,
        ...curve.filter(({ wrongPerMegapixel }) => wrongPerMegapixel <= most).map(({ recall }) => recall),
      ),
  };
}
