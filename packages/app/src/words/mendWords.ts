import type { Because, Mend, MendMeasure, MethodName } from '@fennip/core';

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

/** From this multiple of the surroundings' own steps on a seam is seen (measured on the bench's hard places). */
const SEEN_SEAM = 1.5;
/** Grain within this range of the surroundings' passes for it. */
const USUAL_GRAIN = [0.75, 1.35] as const;

const grainMeaning = (grain: number): string => {
  if (grain < USUAL_GRAIN[0]) return 'too calm';
  return grain > USUAL_GRAIN[1] ? 'too rough' : 'as around it';
};

/** Seam, grain and wear of a mend, each with a plain word. `wear` counts the other mends that take from its source. */
export const figuresOf = ({ seam, grain }: MendMeasure, wear: number | null): Figure[] => [
  { name: 'Seam', value: seam.toFixed(2), meaning: seam > SEEN_SEAM ? 'shows' : 'not seen' },
  { name: 'Grain', value: `${Math.round(100 * grain)} %`, meaning: grainMeaning(grain) },
  ...(wear === null
    ? []
    : [{ name: 'Wear', value: `${wear}`, meaning: wear === 0 ? 'source fresh' : 'source used before' }]),
];
