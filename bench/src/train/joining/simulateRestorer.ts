import type { ReviewedPicture } from '@fennip/core/examine';
import { learnFrom, withLearned } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import { f1Of } from '../../find.ts';
import { judgeSpecks } from '../../judgeSpecks.ts';
import type { Row } from '../../report.ts';
import { printTable } from '../../report.ts';
import { SPOT_KINDS } from '../../damage.ts';
import type { JoiningScene } from './joiningScenes.ts';
import { isClear } from './joiningScenes.ts';

/** A scene with the specks that were found on it, as sure as they are said to be. */
export interface FoundScene {
  readonly scene: JoiningScene;
  readonly specks: readonly Fault[];
}

/** Pictures of a job, and how many of the first do not count: on them hardly anything is learned yet. */
const [PICTURES, FIRST] = [20, 3];

/** What a restorer says of a picture: dismisses what is wrong of what is listed, and marks every second clear one that is missing. */
function review(
  { scene }: FoundScene,
  own: readonly Fault[],
  now: readonly Fault[],
  least: number,
): ReviewedPicture {
  const ofFault = new Map(own.map((fault, k) => [now[k], fault]));
  const listed = now.filter(({ confidence }) => confidence >= least);
  const judged = judgeSpecks(listed, scene.specks);
  const isFault = new Map(judged.map(({ of, isFault: is }) => [ofFault.get(of), is]));
  const missing = scene.specks.filter(
    (laid) =>
      isClear(laid) && !listed.some(({ x, y }) => Math.hypot(laid.x - x, laid.y - y) < Math.max(2, laid.r)),
  );
  const marked = missing
    .filter((_, k) => k % 2 === 0)
    .map(({ x, y, r, polarity }): Fault => ({
      ...{ kind: 'speck', polarity, x, y, r, strength: 0.1, softness: 0.5, confidence: 1 },
    }));
  return {
    ...{ width: scene.seen.width, height: scene.seen.height, marked },
    findings: own
      .filter((fault, k) => isFault.has(fault) || now[k].confidence < least)
      .map((fault) => ({ fault, isFault: isFault.get(fault) ?? null })),
  };
}

function f1On({ scene }: FoundScene, specks: readonly Fault[], least: number): number {
  const judged = judgeSpecks(
    specks.filter(({ confidence }) => confidence >= least),
    scene.specks,
  );
  const found = judged.filter(({ isFault }) => isFault).length;
  return f1Of(found, judged.length - found, scene.specks.filter(isClear).length);
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** How much better a job of twenty pictures is found on that learns from a restorer who goes through one after the other. */
export function simulateRestorer(scenes: readonly FoundScene[], least: number): void {
  const rows = SPOT_KINDS.map((family): Row => {
    const job = scenes.filter(({ scene }) => scene.family === family).slice(0, PICTURES);
    const gone: ReviewedPicture[] = [];
    const [before, after]: [number[], number[]] = [[], []];
    for (const one of job) {
      const now = withLearned(one.specks, one.scene.seen, learnFrom(gone));
      before.push(f1On(one, one.specks, least));
      after.push(f1On(one, now, least));
      gone.push(review(one, one.specks, now, least));
    }
    return [family, String(job.length), mean(before.slice(FIRST)), mean(after.slice(FIRST))];
  });
  printTable(
    'A job that learns from its restorer: F1 at the default from the fourth picture on',
    ['family', 'pictures', 'without', 'with'],
    rows,
  );
}
