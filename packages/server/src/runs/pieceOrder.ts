import type { Context } from '../context/context.ts';
import type { PieceRow, RunRow } from '../rows/runRows.ts';

/** What a piece works with. */
export interface PieceOrder {
  readonly context: Context;
  readonly run: RunRow;
  readonly piece: PieceRow;
}
