import type { BridgeMend } from './bridge/bridgeMend.ts';
import type { CloneMend } from './clone/cloneMend.ts';
import type { HealMend } from './heal/healMend.ts';
import type { RebuildMend } from './rebuild/rebuildMend.ts';
import type { RecoverMend } from './recover/recoverMend.ts';

/** A mend of one place. */
export type SpotMend = RecoverMend | HealMend | CloneMend | BridgeMend | RebuildMend;

export type MethodName = SpotMend['method'];
