import type { LaidPatch } from './laidPatch.ts';
import type { LaidTreatment } from './laidTreatment.ts';

/** A mend as it lies on the picture. */
export type Laid = LaidPatch | LaidTreatment;

export const isLaidTreatment = (laid: Laid): laid is LaidTreatment => 'piecesOn' in laid;
