import type { Source } from '../source/source.ts';
import { describeMethod } from './methods.ts';
import type { RecoverMend } from './recover/recoverMend.ts';
import type { SpotMend } from './spotMend.ts';
import type { Treatment } from './treat/treatment.ts';
import { isTreatmentName } from './treat/treatments.ts';

/** One live repair. */
export type Mend = SpotMend | Treatment;

/** True if a mend is worked out piece by piece over an area. */
export const isTreatment = (mend: Mend): mend is Treatment => isTreatmentName(mend.method);

/** True if a mend is worked out at one place, as a whole. */
export const isSpotMend = (mend: Mend): mend is SpotMend => !isTreatment(mend);

/** True if a mend takes a stain out, in whichever way it was fitted. */
export const isStain = (mend: Mend): mend is RecoverMend =>
  mend.method === 'recover' && (mend.veil.kind === 'tint' || mend.veil.kind === 'stain');

/** A mend whose method takes from a source. */
export type SourcedMend = Extract<SpotMend, { readonly source: Source | null }>;

/** True if a mend takes what it lays down from a source that can be moved. */
export const isSourced = (mend: Mend): mend is SourcedMend =>
  isSpotMend(mend) && describeMethod(mend).takesFromSource;

/** The source a mend takes from, if its method has one. */
export function sourceOf(mend: Mend): Source | null {
  return isSourced(mend) ? mend.source : null;
}
