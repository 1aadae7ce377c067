import type { WorkKind } from '@fennip/contract';
import type { Said } from '@fennip/words';

/** How a kind of background work is done. */
export interface Work {
  /** Does it. Doing it a second time must do no harm: a server may die before it can say that it was done. */
  readonly run: (id: string) => Promise<void>;
  /** Notes that it will not be done, and why; what had been asked for must not look as if it were still under way. */
  readonly giveUp: (id: string, reason: Said) => Promise<void>;
  /** True where it must be done some day: while the disk is full it is tried again and again. */
  readonly waitsForRoom?: boolean;
}

export type Works = Readonly<Partial<Record<WorkKind, Work>>>;
