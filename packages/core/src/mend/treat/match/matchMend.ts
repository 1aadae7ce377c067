import type { MendBase } from '../../mendBase.ts';

/** Mean and spread of L*, a* and b*. */
export interface LabStatistics {
  readonly mean: readonly [number, number, number];
  readonly spread: readonly [number, number, number];
}

/** Brings tone and colour to those of a reference. (Reinhard et al. 2001, in L*a*b*.) */
export interface MatchMend extends MendBase {
  readonly method: 'match';
  readonly from: LabStatistics;
  readonly to: LabStatistics;
}
