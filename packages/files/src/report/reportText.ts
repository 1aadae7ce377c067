import { printSize } from '@fennip/core/picture';
import type { SpokenWords } from '@fennip/words';
import { wordsIn } from '@fennip/words';
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

const dayOf = (iso: string, { language }: SpokenWords): string =>
  new Date(iso).toLocaleDateString(language === 'en' ? 'en-GB' : language, {
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    timeZone: 'UTC',
  });

function sizeOf(
  { width, height, density, nature }: ConditionReport,
  { say }: SpokenWords,
): (readonly [string, string])[] {
  const pixels = say('report.pixels', { width, height, n: ((width * height) / 1e6).toFixed(1) });
  if (nature !== 'print' || density === null) return [[say('report.size'), pixels]];
  const paper = printSize({ width, height }, density);
  const centimetres = (inches: number): string => (2.54 * inches).toFixed(1);
  return [
    [say('report.size'), pixels],
    [
      say('report.ofPrint'),
      say('report.paper', {
        ...{ width: paper.width.toFixed(1), height: paper.height.toFixed(1) },
        ...{ acrossCm: centimetres(paper.width), downCm: centimetres(paper.height) },
        ppi: Math.round(density),
      }),
    ],
  ];
}

/** "3 specks, 1 scratch": kinds with one of their counts. */
const kindsWith = (
  report: ConditionReport,
  state: 'open' | 'set aside' | 'dismissed',
  { sayCount }: SpokenWords,
): string =>
  report.account.rows
    .filter(({ counts }) => counts[state] > 0)
    .map(({ kind, counts }) => sayCount(`report.count.${kind}`, counts[state]))
    .join(', ');

/** The line under a place that is shown before and after. */
export function placeLine({ number, kind, state, method }: ReportedPlace, { say }: SpokenWords): string {
  const values = { n: number, kind: say(`report.one.${kind}`), done: say(`report.method.${method}`) };
  return say(state === 'lessened' ? 'report.placeLessened' : 'report.place', values);
}

/** Puts a report into words, in its language. */
export function reportText(report: ConditionReport): ReportText {
  const words = wordsIn(report.language);
  const { say, sayCount } = words;
  const { mended, lessened, takenAway, left, methods } = report.account;
  const set = kindsWith(report, 'set aside', words);
  const open = kindsWith(report, 'open', words);
  const dismissed = kindsWith(report, 'dismissed', words);
  return {
    title: say('report.title'),
    facts: [
      [say('report.picture'), report.picture],
      [say('report.job'), report.job],
      [say('report.date'), dayOf(report.date, words)],
      [say('report.kind'), say(`report.kind.${report.nature}`)],
      ...sizeOf(report, words),
      [say('report.depth'), say('report.bits', { n: report.depth })],
    ],
    summary: [
      sayCount('report.mended', mended),
      sayCount('report.lessened', lessened),
      say('report.takenAway', { n: takenAway }),
      sayCount('report.left', left),
    ],
    methods: methods.map(({ method, count }) => [
      say('report.methodCount', { n: count, done: say(`report.method.${method}`) }),
      say(`report.does.${method}`),
    ]),
    left: [
      ...(open === '' ? [] : [say('report.open', { what: open })]),
      ...(set === '' ? [] : [say('report.setAside', { what: set })]),
      ...(dismissed === '' ? [] : [say('report.dismissed', { what: dismissed })]),
      ...(open + set + dismissed === '' ? [say('report.nothingLeft')] : []),
    ],
    finish:
      report.finish.length === 0
        ? say('report.noFinish')
        : say('report.finish', {
            steps: report.finish.map((name) => say(`report.step.${name}`)).join(', '),
          }),
  };
}
