import type { Because, Mend, MendMeasure, MethodName } from '@fennip/core';
import { VISIBLE_GRAIN, VISIBLE_SEAM } from '@fennip/core';

/** What was done, in one word. */
export const DONE: Readonly<Record<MethodName, string>> = {
  recover: 'Recovered',
  heal: 'Healed',
  clone: 'Cloned',
  bridge: 'Bridged',
};

/** Why a method was taken, as the restorer reads it. */
const BECAUSE: Readonly<Record<Because, string>> = {
  'light comes through': 'light comes through, so its own detail is kept',
  'light in the shoulders': 'its borders let light through',
  'smooth tint': 'the tint is smooth, the structure under it stays',
  'too little light': 'too little light comes through to keep what is under it',
  'no veil': 'no shadow or veil explains it',
  'would leave a rim': 'undoing it would leave a rim',
  'thin line': 'it is a thin line',
  'small spot': 'it is a small hard spot',
  'no disc': 'it is no round spot',
  'no source fits': 'no source gave a good mend',
  'asked for': 'asked for by hand',
};

/** The method and the reason for it in one line. */
export function reasonLine({ method, why }: Mend): string {
  const done = DONE[method];
  if (!why) return `${done}.`;
  const kept = why.because === 'light comes through' && why.recoverability !== undefined;
  const share = kept ? ` (${Math.round(100 * (why.recoverability ?? 0))} % of it)` : '';
  return `${done}: ${BECAUSE[why.because]}${share}.`;
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
  if (grain < VISIBLE_GRAIN.least) return 'too calm';
  if (grain > VISIBLE_GRAIN.most) return 'too rough';
  if (grain < USUAL_GRAIN.least) return 'a little calm';
  return grain > USUAL_GRAIN.most ? 'a little rough' : 'as around it';
}

/** Seam, grain and wear of a mend, each with a plain word. `wear` counts the other mends that take from its source. */
export const figuresOf = ({ seam, grain }: MendMeasure, wear: number | null): Figure[] => [
  { name: 'Seam', value: seam.toFixed(2), meaning: seam > VISIBLE_SEAM ? 'shows' : 'not seen' },
  { name: 'Grain', value: `${Math.round(100 * grain)} %`, meaning: grainMeaning(grain) },
  ...(wear === null
    ? []
    : [{ name: 'Wear', value: `${wear}`, meaning: wear === 0 ? 'source fresh' : 'source used before' }]),
];
