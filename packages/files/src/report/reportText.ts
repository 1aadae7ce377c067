import { printSize } from '@fennip/core/picture';
import { KIND_WORDS, METHOD_WORDS } from '../words.ts';
import type { ConditionReport, ReportedPlace } from './report.ts';

/** What a report says, line by line, for whatever it is laid out in. */
export interface ReportText {
  readonly title: string;
  readonly facts: readonly (readonly [name: string, value: string])[];
  readonly summary: readonly string[];
  readonly methods: readonly (readonly [name: string, does: string])[];
  /** What was left and why. */
  readonly left: readonly string[];
  readonly finish: string;
}

const FINISH_WORDS: Readonly<Record<ConditionReport['finish'][number], string>> = {
  levels: 'levels',
  curve: 'a curve',
  colour: 'white balance and saturation',
  contrast: 'local contrast',
  sharpen: 'sharpening',
  soften: 'softening',
  lens: 'lens correction',
  straighten: 'straightening',
  crop: 'a crop',
};

const countOf = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

const dayOf = (iso: string): string =>
  new Date(iso).toLocaleDateString('en-GB', {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  });

function sizeOf({ width, height, density, nature }: ConditionReport): (readonly [string, string])[] {
  const pixels = `${width} × ${height} pixels, ${((width * height) / 1e6).toFixed(1)} megapixels`;
  if (nature !== 'print' || density === null) return [['Size', pixels]];
  const paper = printSize({ width, height }, density);
  const centimetres = (inches: number): string => (2.54 * inches).toFixed(1);
  return [
    ['Size', pixels],
    [
      'Of the print',
      `${paper.width.toFixed(1)} × ${paper.height.toFixed(1)} in (${centimetres(paper.width)} × ${centimetres(paper.height)} cm) at ${Math.round(density)} ppi`,
    ],
  ];
}

/** "3 specks and 1 scratch": kinds with one of their counts. */
function kindsWith(report: ConditionReport, state: 'open' | 'set aside' | 'dismissed'): string {
  return report.account.rows
    .filter(({ counts }) => counts[state] > 0)
    .map(({ kind, counts }) => countOf(counts[state], KIND_WORDS[kind][0], KIND_WORDS[kind][1].toLowerCase()))
    .join(', ');
}

/** The line under a place that is shown before and after. */
export const placeLine = ({ number, kind, state, method }: ReportedPlace): string =>
  `${number}  ${KIND_WORDS[kind][0]}, ${METHOD_WORDS[method][0]}${state === 'lessened' ? ', lessened' : ''}`;

/** Puts a report into words. */
export function reportText(report: ConditionReport): ReportText {
  const { mended, lessened, takenAway, left, methods } = report.account;
  const set = kindsWith(report, 'set aside');
  const open = kindsWith(report, 'open');
  const dismissed = kindsWith(report, 'dismissed');
  return {
    title: 'Condition report',
    facts: [
      ['Picture', report.picture],
      ['Job', report.job],
      ['Date', dayOf(report.date)],
      ['Kind', report.nature === 'print' ? 'scanned print' : 'camera frame'],
      ...sizeOf(report),
      ['Depth', `${report.depth} bit per channel`],
    ],
    summary: [
      `Damage mended: ${countOf(mended, 'fault', 'faults')}.`,
      `Only lessened: ${countOf(lessened, 'fault', 'faults')}.`,
      `Real things taken away that were no damage: ${takenAway}.`,
      `Left as they were: ${countOf(left, 'fault', 'faults')}.`,
    ],
    methods: methods.map(({ method, count }) => [
      `${count} ${METHOD_WORDS[method][0]}`,
      METHOD_WORDS[method][1],
    ]),
    left: [
      ...(open === '' ? [] : [`Not decided about: ${open}.`]),
      ...(set === '' ? [] : [`Set aside by the restorer: ${set}.`]),
      ...(dismissed === '' ? [] : [`Looked at and found to be no fault: ${dismissed}.`]),
      ...(open + set + dismissed === '' ? ['Nothing was left.'] : []),
    ],
    finish:
      report.finish.length === 0
        ? 'Nothing was changed after the mends.'
        : `After the mends: ${report.finish.map((name) => FINISH_WORDS[name]).join(', ')}.`,
  };
}
