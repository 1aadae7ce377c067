import type { LaidPatch } from './laidPatch.ts';
import type { LaidTreatment } from './laidTreatment.ts';

/** A mend as it lies on the picture. */
export type Laid = LaidPatch | LaidTreatment;

/** True if what lies on a picture is worked out piece by piece. */
export const isLaidTreatment = (laid: Laid): laid is LaidTreatment => 'piecesOn' in laid;
