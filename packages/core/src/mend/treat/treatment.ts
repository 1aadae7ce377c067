import type { DrawMend } from './draw/drawMend.ts';
import type { MatchMend } from './match/matchMend.ts';
import type { RegrainMend } from './regrain/regrainMend.ts';
import type { ReturnMend } from './return/returnMend.ts';
import type { ShiftMend } from './shift/shiftMend.ts';
import type { SiftMend } from './sift/siftMend.ts';
import type { SoftenMend } from './soften/softenMend.ts';
import type { ToneMend } from './tone/toneMend.ts';

/** A mend of an area rather than of a fault: worked out piece by piece. */
export type Treatment =
  SiftMend | RegrainMend | ToneMend | SoftenMend | MatchMend | ShiftMend | DrawMend | ReturnMend;

export type TreatmentName = Treatment['method'];
/** What the hand takes up; the others come from elsewhere. */
export type HandTreatment = Exclude<TreatmentName, 'return'>;
