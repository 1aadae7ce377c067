import type { Mend, MendMeasure } from '@fennip/core/mend';
import { VISIBLE_GRAIN, VISIBLE_SEAM } from '@fennip/core/mend';
import { percent } from './figures.ts';
import { say } from './say.ts';

/** What was done, in one word. */
const doneBy = (method: Mend['method']): string => say(`done.${method}`);

/** The method and the reason for it in one line. */
export function reasonLine({ method, why }: Mend): string {
  const done = doneBy(method);
  if (!why) return say('why.bare', { done });
  const reason = say(`why.${why.because}`);
  return why.because === 'light comes through' && why.recoverability !== undefined
    ? say('why.lineWithShare', { done, reason, n: Math.round(100 * why.recoverability) })
    : say('why.line', { done, reason });
}

/** A measured figure and what it means. */
export interface Figure {
  readonly name: string;
  readonly value: string;
  readonly meaning: string;
}

/** Grain within this range of the surroundings' passes for it without a second look. */
const USUAL_GRAIN = { least: 0.8, most: 1.25 };

function grainMeaning(grain: number): string {
  if (grain < VISIBLE_GRAIN.least) return say('grain.calm');
  if (grain > VISIBLE_GRAIN.most) return say('grain.rough');
  if (grain < USUAL_GRAIN.least) return say('grain.aLittleCalm');
  return say(grain > USUAL_GRAIN.most ? 'grain.aLittleRough' : 'grain.same');
}

/** Seam, grain and wear of a mend, each with a plain word. `wear` counts the other mends that take from its source. */
export const figuresOf = ({ seam, grain }: MendMeasure, wear: number | null): Figure[] => [
  {
    name: say('proof.seam'),
    value: seam.toFixed(2),
    meaning: say(seam > VISIBLE_SEAM ? 'seam.shows' : 'seam.unseen'),
  },
  { name: say('proof.grain'), value: percent(grain), meaning: grainMeaning(grain) },
  ...(wear === null
    ? []
    : [{ name: say('proof.wear'), value: `${wear}`, meaning: say(wear === 0 ? 'wear.fresh' : 'wear.used') }]),
];
