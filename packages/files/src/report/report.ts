import type { Language } from '@fennip/words';
import type { FaultKind } from '@fennip/core/fault';
import type { FinishName } from '@fennip/core/finish';
import type { Account, FaultState } from '@fennip/core/ledger';
import type { Mend } from '@fennip/core/mend';
import type { Rect } from '@fennip/core/raster';

/** A fault on the map of a report, or a line of what was left. */
export interface ReportedFault {
  readonly number: number;
  readonly kind: FaultKind;
  readonly state: FaultState;
  /** Where it lies, as shares of the picture's sides. */
  readonly x: number;
  readonly y: number;
  /** Half the side of its mark, as a share of the picture's width. */
  readonly r: number;
  /** Its course or its border, in shares of the picture's sides; none for what is small and round. */
  readonly line: readonly (readonly [x: number, y: number])[] | null;
  readonly isClosed: boolean;
}

/** One place before and after, enlarged; both as JPEG. */
export interface ReportedPlace {
  readonly number: number;
  readonly kind: FaultKind;
  readonly state: FaultState;
  readonly method: Mend['method'];
  readonly rect: Rect;
  readonly before: Buffer;
  readonly after: Buffer;
}

/** All that a condition report tells. */
export interface ConditionReport {
  readonly job: string;
  readonly picture: string;
  /** In which it is written. */
  readonly language: Language;
  /** The day it was written, ISO 8601. */
  readonly date: string;
  readonly nature: 'frame' | 'print';
  readonly width: number;
  readonly height: number;
  readonly depth: 8 | 16;
  /** Pixels per inch of a scan, where they are known. */
  readonly density: number | null;
  readonly account: Account;
  readonly faults: readonly ReportedFault[];
  readonly places: readonly ReportedPlace[];
  /** What was done after the mends, in order. */
  readonly finish: readonly FinishName[];
  /** The picture as it came in, and as it is finished; JPEG, small. */
  readonly before: SmallPicture;
  readonly after: SmallPicture;
}

export interface SmallPicture {
  readonly jpeg: Buffer;
  readonly width: number;
  readonly height: number;
}
