import type { Context } from '../context.ts';
import type { PieceRow, RunRow } from './runRows.ts';

/** What a piece works with. */
export interface PieceOrder {
  readonly context: Context;
  readonly run: RunRow;
  readonly piece: PieceRow;
}
