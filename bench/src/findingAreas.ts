import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import type { Point } from '@fennip/core/target';
import { sharedArea } from '@fennip/core/bench';
import { EVERYTHING, EXAMINE_DEFAULTS, examinePicture, leastConfidence } from '@fennip/core/examine';
import { pixelsOf } from '@fennip/core/raster';
import type { LaidArea } from './areas.ts';
import { AREA_KINDS, layAreas } from './areas.ts';
import { fromSheet, toSheet } from './light.ts';
import { loadPhotograph } from './photographs.ts';
import { median, printTable } from './report.ts';
import type { Row } from './report.ts';
import { UNSEEN } from './seenCases.ts';

/** Pictures of each kind, and areas on each. */
const [SEEDS, EACH] = [[7, 8, 9], 4];
/** A finding meets an area when it shares so much with it. */
const IS_MET = 0.5;

const areasOf = (seen: Raster): Fault[] =>
  examinePicture(pixelsOf(seen), EVERYTHING).filter(({ outline }) => outline !== undefined);

/** How many were found, missed and wrong, how well their outlines fit, and whether their kinds are right. */
interface AreaScore {
  readonly met: readonly number[];
  readonly kinds: number;
  readonly wrong: number;
  readonly laid: number;
}

function score(found: readonly Fault[], laid: readonly LaidArea[]): AreaScore {
  const met: number[] = [];
  const taken = new Set<LaidArea>();
  let [kinds, wrong] = [0, 0];
  for (const { outline = [], kind } of found) {
    const shares = laid.map((area) => sharedArea(outline, area.outline as Point[]));
    const best = shares.indexOf(Math.max(0, ...shares));
    if (best < 0 || shares[best] < IS_MET) wrong++;
    else if (!taken.has(laid[best])) {
      taken.add(laid[best]);
      met.push(shares[best]);
      if (laid[best].kind === kind) kinds++;
    }
  }
  return { met, kinds, wrong, laid: laid.length };
}

function rates(scores: readonly AreaScore[]): Row {
  const met = scores.flatMap((one) => one.met);
  const sum = (of: (one: AreaScore) => number): number => scores.reduce((total, one) => total + of(one), 0);
  const precision = met.length / Math.max(1, met.length + sum(({ wrong }) => wrong));
  const recall =
    met.length /
    Math.max(
      1,
      sum(({ laid }) => laid),
    );
  const f1 = precision + recall > 0 ? (2 * precision * recall) / (precision + recall) : 0;
  const rightKinds = sum(({ kinds }) => kinds) / Math.max(1, met.length);
  return [
    String(sum(({ laid }) => laid)),
    precision,
    recall,
    f1,
    met.length > 0 ? median(met) : '-',
    rightKinds,
  ];
}

/** How well tears, losses and stains are found, and how well their outlines fit. */
export async function benchFindingAreas(): Promise<void> {
  const least = leastConfidence(EXAMINE_DEFAULTS.sensitivity);
  const rows: Row[] = [];
  for (const name of UNSEEN) {
    const { raster } = await loadPhotograph(name);
    for (const kind of AREA_KINDS) {
      const scores = SEEDS.map((seed) => {
        const sheet = toSheet(raster);
        const laid = layAreas(sheet, kind, EACH, seed);
        return score(
          areasOf(fromSheet(sheet)).filter(({ confidence }) => confidence >= least),
          laid,
        );
      });
      rows.push([`${name}, ${kind}`, ...rates(scores)]);
    }
    const clean = areasOf(raster).filter(({ confidence }) => confidence >= least);
    rows.push([`${name}, clean`, '0', '-', '-', '-', '-', `${clean.length} false`]);
  }
  printTable(
    'Finding areas, on photographs that no training has seen',
    ['picture', 'laid', 'precision', 'recall', 'F1', 'outline, median IoU', 'kind right'],
    rows,
  );
}
