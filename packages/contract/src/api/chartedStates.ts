import type { FaultState } from '@fennip/core/ledger';

/** What became of a place of a dust chart in one picture. */
export interface ChartedState {
  readonly pictureId: string;
  /** Number of the place on its chart. */
  readonly place: number;
  /** The fault that it is in the picture. */
  readonly fault: string;
  readonly state: FaultState;
}
