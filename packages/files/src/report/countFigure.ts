import type { SpokenWords } from '@fennip/words';
import type { Account, FaultState } from '@fennip/core/ledger';
import { FAULT_STATES } from '@fennip/core/ledger';
import { scaleBand, scaleLinear } from 'd3-scale';

/** A part of a bar: how many of one kind came to one end. */
export interface CountBar {
  readonly state: FaultState;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Counts by kind and state as bars, in the unit of the given width; drawn by whoever lays the page out. */
export interface CountFigure {
  readonly width: number;
  readonly height: number;
  readonly bars: readonly CountBar[];
  readonly labels: readonly {
    readonly text: string;
    readonly x: number;
    readonly y: number;
    readonly isCount: boolean;
  }[];
  readonly legend: readonly { readonly state: FaultState; readonly text: string; readonly x: number }[];
}

const ROW = 17;
/** Room for names on the left, and for numbers on the right, as shares of the width. */
const [NAMES, NUMBERS] = [0.17, 0.07];
const LEGEND = 24;

/** How dark each state is printed: told apart on a grey printer too. */
export const STATE_GREYS: Readonly<Record<FaultState, string>> = {
  mended: '#3b3b3b',
  lessened: '#7d7d7d',
  open: '#c4c4c4',
  'set aside': '#dadada',
  dismissed: '#f0f0f0',
};

/** Lays out the bars of an account. */
export function countFigure({ rows }: Account, width: number, { say }: SpokenWords): CountFigure {
  const across = scaleLinear(
    [
      0,
      Math.max(1, ...rows.map(({ counts }) => FAULT_STATES.reduce((sum, state) => sum + counts[state], 0))),
    ],
    [0, width * (1 - NAMES - NUMBERS)],
  );
  const names = rows.map(({ kind }) => say(`report.many.${kind}`));
  const down = scaleBand(names, [LEGEND, LEGEND + ROW * rows.length]).paddingInner(0.3);
  const left = width * NAMES;
  const bars: CountBar[] = [];
  const labels: CountFigure['labels'][number][] = [];
  rows.forEach(({ kind, counts }) => {
    const name = say(`report.many.${kind}`);
    const y = down(name) ?? 0;
    let before = 0;
    for (const state of FAULT_STATES) {
      if (counts[state] === 0) continue;
      const x = left + across(before);
      bars.push({ state, x, y, width: across(counts[state]), height: down.bandwidth() });
      before += counts[state];
    }
    labels.push({ text: name, x: 0, y: y + down.bandwidth() / 2, isCount: false });
    labels.push({
      text: `${before}`,
      x: left + across(before) + 4,
      y: y + down.bandwidth() / 2,
      isCount: true,
    });
  });
  const shown = FAULT_STATES.filter((state) => rows.some(({ counts }) => counts[state] > 0));
  return {
    width,
    height: LEGEND + ROW * rows.length,
    bars,
    labels,
    legend: shown.map((state, k) => ({ state, text: say(`state.${state}`), x: left + k * 78 })),
  };
}
