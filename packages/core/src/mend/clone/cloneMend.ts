import type { Source } from '../../source/source.ts';
import type { MendBase } from '../mendBase.ts';

/** A straight copy of the source. */
export interface CloneMend extends MendBase {
  readonly method: 'clone';
  readonly source: Source;
  /** The picture that is copied from: as mended so far, or without any mend. */
  readonly reads: 'mended' | 'original';
  /**
   * How a stroke takes from its source: moved along with the pen, or, `fixed`, the place under the stroke's first
   * point again and again.
   */
  readonly laying: 'along' | 'fixed';
  /** Whether the share adds up where a stroke crosses or dwells on itself. */
  readonly buildUp: boolean;
}
